import { partKind } from '../../core/catalogue/parts'
import type { Engine } from '../../core/engine/engine'
import type { SimulatorValue } from '../../core/engine/input'
import type { HuntGuess, HuntMark, ToHub } from '../../core/live/feed'
import { type Candidate, huntWords, rankHunt, rankSince, touchWords } from '../../core/scope/hunt'
import { HuntWatch } from '../../core/scope/hunt-watch'
import type { Movements } from '../../core/scope/movements'
import { plainNumber } from '../../core/signal/same-number'
import type { Tab } from '../tab'
import { type Mark, type ScopeTab, TabHunt } from './scope-tab'

/** Guesses are told so often. */
const TELL_MS = 500
/** One movement of a hand is one mark, however many contacts it makes. */
const ONE_HAND_MS = 400
const MOST_GUESSES = 8
/** A hunt that has so many marks needs no more of them. */
const MOST_MARKS = 40

export type HuntMessage = Extract<ToHub, { say: `hunt${string}` }>

/** A text as a number that stands for it. */
const textNumber = (text: string | null): number => {
  if (text === null) return Number.NaN
  let hash = 7
  for (let i = 0; i < text.length; i++) hash = (Math.imul(hash, 31) + text.charCodeAt(i)) | 0
  return hash
}

/** Watches all values for whoever hunts among them, and ranks them by the marks. */
export class Hunts {
  /** Since somebody looks: what is known of everything before a hunt begins. */
  private before = new HuntWatch(0, 0)
  /** Each hunt watches by itself, so that one that begins leaves the others as they are. */
  private readonly running = new Set<TabHunt>()

  constructor(
    private readonly engine: Engine,
    private readonly movements: () => Movements,
  ) {}

  /** Other names, or somebody begins to look: everything is watched from now on, and hunts begin anew. */
  beginWatch(now: number): void {
    this.before = this.watchFrom(now, null)
    for (const hunt of this.running) {
      hunt.watch = this.watchFrom(now, null)
      hunt.marks = []
    }
  }

  /** A watch over all values as they are now. */
  private watchFrom(now: number, earlier: HuntWatch['earlier']): HuntWatch {
    const { variables } = this.engine
    const watch = new HuntWatch(variables.told, now, earlier)
    for (let i = 0; i < variables.told; i++)
      watch.begin(
        i,
        variables.isText[i] === 1 ? textNumber(variables.texts[i] ?? null) : (variables.numbers[i] as number),
      )
    return watch
  }

  /** A value has changed. */
  note(slot: number, value: SimulatorValue, now: number): void {
    if (slot >= this.before.size) return
    const number = typeof value === 'string' ? textNumber(value) : value === null ? Number.NaN : Number(value)
    this.before.note(slot, number, now)
    for (const hunt of this.running) hunt.watch.note(slot, number, now)
  }

  private begin(tab: ScopeTab, now: number): void {
    this.end(tab)
    const { before } = this
    tab.hunt = new TabHunt(
      // Copied: what was known when it began does not grow by what is watched.
      this.watchFrom(now, { counts: before.counts.slice(), ms: Math.max(1, now - before.began) }),
    )
    this.running.add(tab.hunt)
  }

  /** Ends a tab's hunt, if it has one. */
  end(tab: ScopeTab): void {
    if (tab.hunt) this.running.delete(tab.hunt)
    tab.hunt = null
  }

  hear(tab: Tab, m: HuntMessage, now: number): void {
    const { scope } = tab
    if (!scope) return
    switch (m.say) {
      case 'hunt':
        if (m.on) this.begin(scope, now)
        else this.end(scope)
        break
      case 'hunt mark':
        this.mark(scope.hunt, { at: now, byHand: true, position: null })
        break
      case 'hunt unmark':
        scope.hunt?.marks.pop()
        break
      case 'hunt part':
        if (scope.hunt) scope.hunt.part = m.partId === null ? null : { id: m.partId, at: now }
        break
    }
    if (scope.hunt) scope.hunt.toldAt = 0
  }

  private mark(hunt: TabHunt | null, mark: Mark): void {
    if (!hunt || hunt.marks.length >= MOST_MARKS) return
    const last = hunt.marks.at(-1)
    if (last && mark.at - last.at < ONE_HAND_MS) hunt.marks.pop()
    hunt.marks.push(mark)
  }

  /** A control was operated on the panel: it is the one that is hunted for, and once it is, each time is a mark. */
  operated(tabs: Iterable<Tab>, partId: string, now: number): void {
    for (const { scope } of tabs) {
      const hunt = scope?.hunt
      if (!hunt) continue
      if (hunt.part?.id === partId)
        this.mark(hunt, { at: now, byHand: false, position: this.positionOf(partId) })
      hunt.part = { id: partId, at: now }
      hunt.toldAt = 0
    }
  }

  /** A moment that the builder marked when it was recorded. */
  marked(tabs: Iterable<Tab>, now: number): void {
    for (const { scope } of tabs) this.mark(scope?.hunt ?? null, { at: now, byHand: true, position: null })
  }

  private positionOf(partId: string): string | null {
    const control = this.engine.units.get(partId)?.controls.find((c) => c.aspect.kind === 'positions')
    return control?.position ?? null
  }

  private positionsOf(partId: string): number | null {
    const kind = partKind(this.engine.rig.part[partId]?.kind ?? '')
    const aspect = kind?.aspects.find((a) => a.kind === 'positions')
    return aspect?.kind === 'positions' && !aspect.momentary ? aspect.positions.length : null
  }

  tell(tabs: Iterable<Tab>, now: number): void {
    for (const tab of tabs) {
      const hunt = tab.scope?.hunt
      if (!hunt || now - hunt.toldAt < TELL_MS || tab.line.isFull()) continue
      hunt.toldAt = now
      tab.send({
        say: 'hunt',
        marks: hunt.marks.map(
          (m): HuntMark => ({
            ago: Math.round(now - m.at),
            byHand: m.byHand,
            position: m.position,
          }),
        ),
        part: hunt.part && { id: hunt.part.id, ago: Math.round(now - hunt.part.at) },
        restless: this.restless(hunt.watch),
        guesses: this.guesses(hunt, now),
      })
    }
  }

  private restless(watch: HuntWatch): number {
    let count = 0
    for (let i = 0; i < watch.size; i++) if ((watch.changes[i] as number) > 30) count++
    return count
  }

  private guesses(hunt: TabHunt, now: number): HuntGuess[] {
    const marks = hunt.marks.map((m) => m.at)
    const { variables } = this.engine.variables.index.catalogue
    const isWritable = (i: number) => variables[i]?.writable === true
    const marked = rankHunt(hunt.watch, marks, now, MOST_GUESSES, isWritable)
    // Whoever only touched the panel, and marked nothing by hand, has worked the other one since then.
    const byHand = hunt.marks.some((m) => m.byHand)
    const since =
      hunt.part === null || byHand
        ? []
        : rankSince(hunt.watch, hunt.part.at, now, this.positionsOf(hunt.part.id), MOST_GUESSES, isWritable)
    const touched = (since[0]?.score ?? Number.NEGATIVE_INFINITY) > (marked[0]?.score ?? 0)
    const ranked = touched ? since : marked
    return ranked.map((c) => ({
      row: c.index,
      partner: c.partner,
      sure: c.sure,
      words: touched ? touchWords(c) : huntWords(c),
      levels: c.levels,
      seen: this.seen(c, hunt),
      trace: this.movements().trace(c.index),
      onsets: [c.index, ...(c.partner === null ? [] : [c.partner])]
        .flatMap((i) => hunt.watch.onsets[i] ?? [])
        .map((o) => [Math.round(now - o.at), o.from, o.to, Math.round(o.until - o.at)] as const),
    }))
  }

  /** What it came to at marks at which the touched part stood somewhere. */
  private seen(c: Candidate, hunt: TabHunt): Readonly<Record<string, number>> {
    const seen: Record<string, number> = {}
    for (const [i, onset] of c.atMarks.entries()) {
      const position = hunt.marks[i]?.position
      if (onset && position) seen[position] = plainNumber(onset.to)
    }
    return seen
  }
}
