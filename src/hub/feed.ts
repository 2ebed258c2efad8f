import { agreement } from '../core/engine/agreement'
import type { Engine } from '../core/engine/engine'
import { type TraceRow, trace } from '../core/engine/trace'
import { positionOf, type Unit } from '../core/engine/unit'
import { isWired } from '../core/harness/configuration'
import type { PartLive } from '../core/live/feed'
import type { HandClient } from './hand-client'
import type { Tab } from './tab'

/** The table of all paths is told once in so many turns of the feed. */
const FEEDS_A_PATHS = 4

/** What the open tabs are told of parts, values and paths: to each, what has changed since it was last told. */
export class Feed {
  private feeds = 0

  constructor(
    private readonly engine: Engine,
    private readonly hands: HandClient,
  ) {}

  private handOf(unit: Unit): string | null {
    if (!unit.aspect || !isWired(unit.wiring) || unit.wiring.slot.kind !== 'contacts') return null
    const identity = this.engine.rig.board[unit.wiring.boardId]?.identity ?? ''
    const closed = this.hands.closed.get(identity)
    if (!closed) return null
    const bits = unit.wiring.slot.pins.reduce((b, pin, i) => b | (closed.has(pin) ? 1 << i : 0), 0)
    return positionOf(unit.aspect, unit.terminals, bits)
  }

  private levelOf(unit: Unit): number | null {
    if (!unit.lamp || !isWired(unit.wiring) || unit.wiring.slot.kind !== 'lamp') return null
    const identity = this.engine.rig.board[unit.wiring.boardId]?.identity ?? ''
    return this.hands.levels.get(identity)?.get(unit.wiring.slot.pin) ?? null
  }

  private partLive(unit: Unit): PartLive {
    const { panel, craft, agrees } = agreement(this.engine, unit)
    return {
      position: unit.position,
      hand: this.handOf(unit),
      packed: Math.max(0, unit.lamp?.shown ?? 0),
      level: this.levelOf(unit),
      panel,
      craft,
      agrees,
      exercised: unit.lamp?.exercise !== null && unit.lamp?.exercise !== undefined,
    }
  }

  /** Thirty times a second: to every tab, what changed for it. */
  run(tabs: ReadonlySet<Tab>): void {
    if (tabs.size === 0) return
    const parts = [...this.engine.units].map(([id, unit]) => {
      const live = this.partLive(unit)
      return { id, live, text: JSON.stringify(live) }
    })
    const used = this.engine.variablesInUse()
    this.feeds++
    for (const tab of tabs) {
      if (tab.watchesPaths && this.feeds % FEEDS_A_PATHS === 0) this.feedPaths(tab)
      this.feedParts(tab, parts)
      this.feedValues(tab, used)
      this.feedTrace(tab)
    }
  }

  private feedParts(tab: Tab, parts: readonly { id: string; live: PartLive; text: string }[]): void {
    const changed: Record<string, PartLive> = {}
    let any = false
    for (const { id, live, text } of parts) {
      if (tab.toldParts.get(id) === text) continue
      tab.toldParts.set(id, text)
      changed[id] = live
      any = true
    }
    if (any) tab.send({ say: 'parts', parts: changed })
  }

  private feedValues(tab: Tab, used: ReadonlySet<number>): void {
    const { variables } = this.engine
    const i: number[] = []
    const v: (number | string | null)[] = []
    const look = (slot: number) => {
      const value = variables.read(slot)
      if (tab.toldValues.get(slot) === value) return
      tab.toldValues.set(slot, value)
      i.push(slot)
      v.push(value)
    }
    if (tab.watchesAll) for (let slot = 0; slot < variables.numbers.length; slot++) look(slot)
    else for (const slot of used) look(slot)
    if (i.length > 0) tab.send({ say: 'values', i, v })
  }

  /** All paths, for the table of them: eight times a second is as fast as anybody reads one. */
  private feedPaths(tab: Tab): void {
    const changed: Record<string, readonly TraceRow[]> = {}
    let any = false
    for (const id of this.engine.units.keys()) {
      const rows = trace(this.engine, id)
      const text = JSON.stringify(rows)
      if (tab.toldPaths.get(id) === text) continue
      tab.toldPaths.set(id, text)
      changed[id] = rows
      any = true
    }
    if (any) tab.send({ say: 'paths', paths: changed })
  }

  private feedTrace(tab: Tab): void {
    if (tab.selected === null) return
    const rows = trace(this.engine, tab.selected)
    const text = JSON.stringify(rows)
    if (text === tab.toldTrace) return
    tab.toldTrace = text
    tab.send({ say: 'trace', partId: tab.selected, rows, now: performance.now() })
  }
}
