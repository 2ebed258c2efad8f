import { type Followed, type LiveProperty, properties } from '../elements/element-kind'
import { livePropertiesOf } from '../elements/elements'
import { elementsOf, type Rig, screensOf } from '../rig/rig'
import type { ElementRow, ScreenRow } from '../rig/rows'
import type { CatalogueIndex } from '../rig/simulator-catalogue'
import { MOST_ELEMENTS } from '../screens/content'
import { PAGE_KEY, screenKey } from '../screens/screen-key'
import type { Compiled, Wanted } from '../signal/expression/compile'
import { typeOfVariable } from '../signal/expression/value-type'
import { evaluate } from './evaluate'
import { Mistakes } from './mistakes'
import { type OwnSlots, scopeFor, unknownVariable } from './scope'
import type { Variables } from './variables'

/** One property of a screen that follows a value, as the engine works it out. */
export interface ScreenCell {
  readonly key: string
  /** Why it cannot be worked out at all, or null. */
  readonly problem: string | null
  /** Every slot that it is made of. */
  readonly reads: readonly number[]
  /** The sources without which it is nothing, as bits. */
  readonly needs: number
  readonly compiled: Compiled | null
  /** The slot that `input` is read from, or -1. */
  readonly source: number
}

interface Kept {
  readonly row: ElementRow | ScreenRow
  readonly cells: readonly ScreenCell[]
}

/**
 * What screens show, compiled; whoever looks at one asks for it as often as it draws, and nobody else pays for it. A screen
 * shows what is told whether or not the cockpit is armed: it only looks on.
 */
export class Screens {
  private kept = new Map<string, Kept>()
  private byScreen = new Map<string, readonly ScreenCell[]>()
  /** Every slot that some of them read. */
  reads: ReadonlySet<number> = new Set()

  constructor(private readonly variables: Variables) {}

  /** Compiles what has changed; all of it `anew` where names or their places have. */
  compile(rig: Rig, slots: OwnSlots, anew: boolean): void {
    const before = this.kept
    this.kept = new Map()
    this.byScreen = new Map()
    const reads = new Set<number>()
    for (const screen of screensOf(rig)) {
      const drawn = elementsOf(rig, screen.id).slice(0, MOST_ELEMENTS)
      const rows: readonly (ScreenRow | ElementRow)[] = [screen, ...drawn]
      const cells = rows.flatMap((row) => {
        const earlier = before.get(row.id)
        const kept = !anew && earlier?.row === row ? earlier : { row, cells: this.cellsOf(rig, slots, row) }
        this.kept.set(row.id, kept)
        return kept.cells
      })
      for (const cell of cells) for (const slot of cell.reads) reads.add(slot)
      this.byScreen.set(screen.id, cells)
    }
    this.reads = reads
  }

  private cellsOf(rig: Rig, slots: OwnSlots, row: ScreenRow | ElementRow): ScreenCell[] {
    if (!('screenId' in row)) {
      const { pageBy } = row.settings
      if (pageBy === null) return []
      const wanted: Wanted = { as: 'type', type: { is: 'text' } }
      return [this.cell(rig, slots, PAGE_KEY, { variable: null, show: pageBy }, wanted)]
    }
    const records = new Map(
      livePropertiesOf(row.settings).map((l): [string, LiveProperty] => [l.property, l]),
    )
    return properties.flatMap((property) => {
      const followed = row.settings.follows[property]
      const record = records.get(property)
      return followed && record
        ? [this.cell(rig, slots, screenKey(row.id, property), followed, record.wanted)]
        : []
    })
  }

  private cell(rig: Rig, slots: OwnSlots, key: string, followed: Followed, wanted: Wanted): ScreenCell {
    const { variables } = this
    const { index } = variables
    const mistakes = new Mistakes()
    const { source, problem } = sourceOf(followed, index)
    if (problem !== null) mistakes.say('simulator', problem)
    const info = index.catalogue.variables[source]
    const scope = scopeFor(rig, index, info ? typeOfVariable(info) : undefined, slots)
    const compiled =
      problem === null
        ? mistakes.expression(
            'shaping',
            followed.show,
            source < 0 ? scope : { ...scope, inputSlot: source },
            variables,
            wanted,
          )
        : null
    const reads = compiled ? [...new Set([...compiled.reads, ...(source >= 0 ? [source] : [])])] : []
    return {
      key,
      problem: mistakes.list[0]?.message ?? null,
      reads,
      needs: variables.needs(reads),
      compiled,
      source,
    }
  }

  /** What follows values on a screen. */
  cells(screenId: string): readonly ScreenCell[] {
    return this.byScreen.get(screenId) ?? []
  }

  /** What a property is now; null where that is not known: its source is away, or what it reads is absent. */
  now({ compiled, needs, source }: ScreenCell): number | string | null {
    const { variables } = this
    if (compiled === null || (needs & ~variables.up) !== 0) return null
    return evaluate(compiled, source < 0 ? null : variables.read(source))
  }

  /** Whether a source that a property needs is there and has told nothing for a while. */
  isStale({ needs }: ScreenCell): boolean {
    return (needs & this.variables.quiet & this.variables.up) !== 0
  }
}

const sourceOf = (
  { variable, show }: Followed,
  index: CatalogueIndex,
): { readonly source: number; readonly problem: string | null } => {
  if (variable) {
    const source = index.variable.get(variable) ?? -1
    return { source, problem: source < 0 ? unknownVariable(variable, index) : null }
  }
  return { source: -1, problem: /\binput\b/.test(show) ? 'No variable is chosen yet.' : null }
}
