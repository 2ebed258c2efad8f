import { agreement } from '../core/engine/agreement'
import type { Engine } from '../core/engine/engine'
import { trace } from '../core/engine/trace'
import type { LayerLive } from '../core/live/feed'
import { rowsOf } from '../core/rig/rig'
import type { HandClient } from './hand-client'
import { PartChannel } from './part-channel'
import { partLive } from './part-live'
import type { Tab } from './tab'

/** Tables of paths and of agreement are told once in so many turns of the feed: nobody reads faster. */
const FEEDS_A_TABLE = 4
/** So many values that nobody looks at just now are told in a turn. */
const BACKGROUND_A_TURN = 120
/** A selected path is looked at anew once in so many turns, whatever has changed: some of its words go by the clock. */
const FEEDS_A_TRACE = 30
/** How long one turn may take: a contact that comes meanwhile waits no longer than this. */
const TURN_MS = 1

/**
 * What the open tabs are told of parts, values and paths. Its cost follows what changes and what is looked at: the
 * engine says what has changed, each tab says what it shows, and only where both meet is anything made into text, once
 * for all tabs. In a turn it takes as much as there is time for; the rest has its turn next.
 */
export class Feed {
  private turn = 0
  private readonly drawn: PartChannel
  private readonly said: PartChannel
  private readonly paths: PartChannel
  private readonly agreed: PartChannel
  /** Values in use that have changed and that nobody looks at just now: they are told a few at a time. */
  private readonly background = new Set<number>()

  constructor(
    private readonly engine: Engine,
    private readonly hands: HandClient,
    /** Whether recorded hands operate the controls. */
    played: () => boolean = () => false,
  ) {
    const { units } = engine
    this.drawn = new PartChannel('parts', (id) => {
      const unit = units.get(id)
      return unit ? JSON.stringify(partLive(engine, hands, unit, played())) : null
    })
    this.said = new PartChannel('says', (id) => {
      const unit = units.get(id)
      return unit ? JSON.stringify(agreement(engine, unit)) : null
    })
    this.agreed = new PartChannel('agreements', (id) => {
      const unit = units.get(id)
      if (!unit) return null
      const { agrees, waitsFor } = agreement(engine, unit)
      return JSON.stringify(waitsFor === null ? agrees : 'waits')
    })
    this.paths = new PartChannel('paths', (id) => JSON.stringify(trace(engine, id)))
  }

  /** Thirty times a second: to every tab, what changed for it. */
  run(tabs: ReadonlySet<Tab>): void {
    if (tabs.size === 0) return
    this.turn++
    const { changes } = this.engine
    const { everything } = changes
    const slots = everything ? null : changes.slots
    const selectedDirty = this.markDirty()
    const hasTime = clockOf(TURN_MS)
    const tableTurn = this.turn % FEEDS_A_TABLE === 0
    this.drawn.refresh(tabs, hasTime)
    this.said.refresh(tabs, hasTime)
    if (tableTurn) {
      this.paths.refresh(tabs, hasTime)
      this.agreed.refresh(tabs, hasTime)
    }
    const background = this.someOfBackground()
    for (const tab of tabs) {
      // It is told the newest once it reads again.
      if (tab.line.isFull()) {
        tab.missed = true
        continue
      }
      const { missed } = tab
      if (missed) tab.beginAnew([...this.engine.units.keys()])
      this.drawn.tell(tab)
      this.said.tell(tab)
      this.paths.tell(tab)
      this.agreed.tell(tab)
      this.tellValues(tab, missed ? null : slots)
      if (background !== null && !tab.watchesAll) tab.line.send(background)
      if (missed || selectedDirty(tab.selected) || tab.toldTrace === '' || this.turn % FEEDS_A_TRACE === 0)
        this.tellTrace(tab)
      if (missed || everything || changes.slots.length > 0) this.tellLayers(tab)
    }
    this.drawn.told()
    this.said.told()
    this.paths.told()
    this.agreed.told()
    changes.clear()
    this.hands.changed.clear()
  }

  /** Marks what may have changed; gives whether a part is among it. */
  private markDirty(): (partId: string | null) => boolean {
    const { changes, units } = this.engine
    const traced = new Set<string>()
    const all = (id: string) => {
      this.drawn.mark(id)
      this.said.mark(id)
      this.paths.mark(id)
      this.agreed.mark(id)
      traced.add(id)
    }
    if (changes.everything) {
      for (const id of units.keys()) all(id)
      for (const slot of this.engine.variablesInUse()) this.background.add(slot)
    } else {
      for (const id of changes.parts) all(id)
      for (const slot of changes.slots) {
        this.background.add(slot)
        for (const id of this.engine.partsShowing(slot)) {
          // What a part shows is marked by itself; a value is only spoken of.
          this.said.mark(id)
          this.paths.mark(id)
          this.agreed.mark(id)
          traced.add(id)
        }
      }
    }
    for (const identity of this.hands.changed) for (const id of this.partsOn(identity)) this.drawn.mark(id)
    return (id) => id !== null && traced.has(id)
  }

  /** The parts on the board with this identity. */
  private partsOn(identity: string): Iterable<string> {
    const board = rowsOf(this.engine.rig, 'board').find((b) => b.identity === identity)
    return board ? this.engine.partsOnBoard(board.id) : []
  }

  /** A few of the values that have changed behind everybody's back: the page keeps a minute of each. */
  private someOfBackground(): string | null {
    const { variables } = this.engine
    const used = this.engine.variablesInUse()
    const i: number[] = []
    const v: (number | string | null)[] = []
    let looked = 0
    for (const slot of this.background) {
      if (looked++ === BACKGROUND_A_TURN) break
      this.background.delete(slot)
      if (!used.has(slot)) continue
      i.push(slot)
      v.push(variables.read(slot))
    }
    return i.length > 0 ? JSON.stringify({ say: 'values', i, v }) : null
  }

  /** Those that it shows, as soon as they change. */
  private tellValues(tab: Tab, slots: readonly number[] | null): void {
    const { variables } = this.engine
    const used = this.engine.variablesInUse()
    const i: number[] = []
    const v: (number | string | null)[] = []
    const put = (slot: number) => {
      if (slot >= variables.told) return
      i.push(slot)
      v.push(variables.read(slot))
    }
    if (slots === null) {
      if (tab.watchesAll) for (let slot = 0; slot < variables.told; slot++) put(slot)
      else for (const slot of used) put(slot)
    } else {
      for (const slot of slots) if (tab.watchesAll || tab.slots.has(slot)) put(slot)
      for (const slot of tab.freshSlots) put(slot)
    }
    tab.freshSlots.clear()
    if (i.length > 0) tab.send({ say: 'values', i, v })
  }

  private tellLayers(tab: Tab): void {
    const layers: Record<string, LayerLive> = {}
    for (const state of this.engine.layers.sets.values()) {
      const problem = state.looping
        ? 'its choice depends on itself'
        : (state.mistake ?? (state.strange === null ? null : `it has no layer “${state.strange}”`))
      layers[state.set.id] = { active: state.active, problem }
    }
    const lighting = this.engine.lighting.now()
    const text = JSON.stringify([layers, lighting])
    if (text === tab.toldLayers) return
    tab.toldLayers = text
    tab.send({ say: 'layers', layers, lighting })
  }

  private tellTrace(tab: Tab): void {
    if (tab.selected === null) return
    const text = JSON.stringify(trace(this.engine, tab.selected))
    if (text === tab.toldTrace) return
    tab.toldTrace = text
    tab.line.send(
      `{"say":"trace","partId":${JSON.stringify(tab.selected)},"rows":${text},"now":${performance.now()}}`,
    )
  }
}

/** Whether so many milliseconds are not over yet; looks at the clock now and then only. */
const clockOf = (ms: number): (() => boolean) => {
  const end = performance.now() + ms
  let asked = 0
  let over = false
  return () => {
    if (!over && ++asked % 8 === 0) over = performance.now() > end
    return !over
  }
}
