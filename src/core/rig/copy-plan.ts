import type { BindingSettings } from './binding'
import { allNamesIn, withNewNames } from './binding-change'
import { copiedInto } from './craft-sets'
import type { Change } from './edit'
import { type LikelyName, likelyEvents, likelyNames } from './likely-names'
import { bindingsOf, type Rig } from './rig'
import type { BindingRow, CraftSetRow } from './rows'
import type { CatalogueIndex } from './simulator-catalogue'
import type { SourcePlace } from './sources'

/** What becomes of a name in copies for another craft: another name, or one of these. */
export const meanings = {
  /** It stays as it is. */
  stays: '=',
  /** The craft lacks it, and the bindings that need it are not copied. */
  left: '',
  /** They are copied without their target, which is found by a hunt or chosen later. */
  later: '?',
  /** Only conditions speak of it, and those are left away. */
  without: '-',
} as const

const words: ReadonlySet<string> = new Set(Object.values(meanings))

/** What there is to choose from for a name. */
export interface NameOffer {
  /** The new craft has this very name. */
  readonly isOwn: boolean
  readonly likely: readonly LikelyName[]
  /** All that the craft has of that kind. */
  readonly all: readonly string[]
  /** Nothing of a binding is left without it, so it is not to be left away as a condition. */
  readonly needed: boolean
  /** It is only ever the target of a binding, so that this may be found later. */
  readonly isTarget: boolean
}

/** The names that a binding acts on or shows first of all. */
const targetsOf = (s: BindingSettings): string[] =>
  s.kind === 'control'
    ? s.actions.flatMap((a) => ('variable' in a ? [a.variable] : a.do === 'event' ? [a.event] : []))
    : s.variable === null
      ? []
      : [s.variable]

/** The same binding with nothing to act on or to show yet. */
const opened = (s: BindingSettings): BindingSettings =>
  s.kind === 'control' ? { ...s, actions: [] } : ({ ...s, variable: null } as BindingSettings)

const WORD = /[\p{L}_][\p{L}\p{N}_.]*/gu

/** What is copied for another craft, name by name: worked out anew whenever something else is chosen. */
export class CopyPlan {
  readonly bindings: readonly BindingRow[]
  readonly names: readonly string[]
  readonly offers: ReadonlyMap<string, NameOffer>

  constructor(
    private readonly rig: Rig,
    /** The set that is copied, or null for what holds for every craft. */
    private readonly from: string | null,
    private readonly partIds: readonly string[],
    private readonly catalogue: CatalogueIndex,
    /** The source that has the new names. */
    to: SourcePlace | undefined,
  ) {
    this.bindings = partIds
      .flatMap((id) => bindingsOf(rig, id))
      .filter((b) => (b.settings.craftSet ?? null) === from)
    const needed = new Set(this.bindings.flatMap((b) => this.namesIn({ ...b.settings, onlyWhile: null })))
    const beside = new Set(
      this.bindings.flatMap((b) => this.namesIn({ ...opened(b.settings), onlyWhile: null })),
    )
    this.names = [...new Set(this.bindings.flatMap((b) => this.namesIn(b.settings)))].sort()
    const { variables, events } = catalogue.catalogue
    const theirs = variables.slice(...(to?.variables ?? [0, 0]))
    const theirEvents = events.slice(...(to?.events ?? [0, 0]))
    const own = new Set([...theirs, ...theirEvents].map((n) => n.name))
    this.offers = new Map(
      this.names.map((name) => {
        const variable = variables[catalogue.variable.get(name) ?? -1]
        const event = events[catalogue.event.get(name) ?? -1]
        const isOwn = own.has(name)
        const likely = isOwn
          ? []
          : variable
            ? likelyNames(variable, theirs)
            : event
              ? likelyEvents(event, theirEvents)
              : []
        const all = (variable ? theirs : theirEvents).map((n) => n.name)
        return [name, { isOwn, likely, all, needed: needed.has(name), isTarget: !beside.has(name) }] as const
      }),
    )
  }

  private readonly isName = (word: string): boolean =>
    this.catalogue.variable.has(word) || this.catalogue.event.has(word)

  private namesIn(s: BindingSettings): string[] {
    return allNamesIn(s, this.isName)
  }

  /** What a name becomes where nobody has chosen: itself or what is likeliest; what is lacking is found later where it can be. */
  proposed(name: string): string {
    const offer = this.offers.get(name)
    if (!offer) return meanings.left
    if (offer.isOwn) return meanings.stays
    const [likely] = offer.likely
    if (likely) return likely.name
    return !offer.needed ? meanings.without : offer.isTarget ? meanings.later : meanings.left
  }

  meant(name: string, chosen: ReadonlyMap<string, string>): string {
    return chosen.get(name) ?? this.proposed(name)
  }

  /** What a binding becomes, or null where it is left out. */
  private copied(s: BindingSettings, chosen: ReadonlyMap<string, string>): BindingSettings | null {
    const meant = (name: string) => this.meant(name, chosen)
    const isLater = targetsOf(s).some((n) => this.isName(n) && meant(n) === meanings.later)
    const kept = isLater ? opened(s) : s
    const { onlyWhile } = kept
    const lost = (onlyWhile?.match(WORD) ?? []).some((w) => this.isName(w) && meant(w) === meanings.without)
    const whole = lost ? { ...kept, onlyWhile: null } : kept
    const used = this.namesIn(whole)
    // What is to be found later stands somewhere else as well, where it cannot be done without.
    if (used.some((n) => meant(n) === meanings.left || meant(n) === meanings.later)) return null
    const names = new Map(used.flatMap((n) => (words.has(meant(n)) ? [] : [[n, meant(n)] as const])))
    return withNewNames(whole, names)
  }

  /** What would come of it: how many are copied, how many of those without a target, and the names that are lacking. */
  outcome(chosen: ReadonlyMap<string, string>): {
    readonly copied: number
    readonly open: number
    readonly lacks: readonly string[]
  } {
    const all = this.bindings.map((b) => ({ b, copy: this.copied(b.settings, chosen) }))
    const copies = all.filter((x) => x.copy !== null)
    const isOpen = ({ b, copy }: (typeof all)[number]) =>
      copy !== null && targetsOf(copy).length < targetsOf(b.settings).length
    const lacking: ReadonlySet<string> = new Set([meanings.left, meanings.later])
    return {
      copied: copies.length,
      open: copies.filter(isOpen).length,
      lacks: this.names.filter((n) => lacking.has(this.meant(n, chosen))),
    }
  }

  /** The bindings of the set, as they are added. */
  changes(set: CraftSetRow, chosen: ReadonlyMap<string, string>, freshId: () => string): Change[] {
    return copiedInto(this.rig, set.id, this.from, this.partIds, (s) => this.copied(s, chosen), freshId)
  }
}
