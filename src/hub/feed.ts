import { positionAtLevel, positionOf } from '../core/catalogue/part-kind'
import { agreement } from '../core/engine/agreement'
import type { Engine } from '../core/engine/engine'
import { trace } from '../core/engine/trace'
import type { TraceRow } from '../core/engine/trace-row'
import { type ControlUnit, type IndicatorUnit, standing, type Unit } from '../core/engine/unit'
import { ownPlace } from '../core/harness/slot'
import { isWired } from '../core/harness/wiring'
import type { AspectLive, LayerLive, PartLive } from '../core/live/feed'
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

  private identityOf(seat: ControlUnit | IndicatorUnit): string {
    return isWired(seat.wiring) ? (this.engine.rig.board[seat.wiring.boardId]?.identity ?? '') : ''
  }

  /** Where the hand has put a simulated control. */
  private handOn(control: ControlUnit): number | string | null {
    const { aspect, wiring } = control
    if (!isWired(wiring)) return null
    const identity = this.identityOf(control)
    const { slot } = wiring
    if (slot.kind === 'contacts' && aspect.kind === 'positions') {
      const closed = this.hands.closed.get(identity)
      if (!closed) return null
      const bits = slot.pins.reduce((b, pin, i) => b | (closed.has(pin) ? 1 << i : 0), 0)
      return positionOf(aspect, control.terminals, bits) ?? null
    }
    if (slot.kind !== 'analog') return null
    const level =
      this.hands.wipers.get(identity)?.get(slot.pin) ?? (this.hands.wipers.has(identity) ? 0 : null)
    if (level === null) return null
    if (aspect.kind === 'positions') return positionAtLevel(aspect, level) ?? null
    const inverted = control.settings?.kind === 'travel' && control.settings.invert
    return inverted ? 1 - level : level
  }

  /** What the meter on its pins reads. */
  private metered(indicator: IndicatorUnit): number | string | null {
    const { wiring } = indicator
    if (!isWired(wiring)) return null
    const identity = this.identityOf(indicator)
    const pin = ownPlace(wiring.slot)
    const from = wiring.slot.kind === 'lamp' ? this.hands.levels : this.hands.shows
    return from.get(identity)?.get(pin) ?? null
  }

  private partLive(unit: Unit): PartLive {
    const aspects: Record<string, AspectLive> = {}
    for (const control of unit.controls) {
      const told = control.aspect.kind === 'positions' ? control.position : standing(control)
      aspects[control.aspect.id] = { told, metered: this.handOn(control) }
    }
    for (const indicator of unit.indicators) {
      const told = indicator.shown === -1 ? null : indicator.shown
      aspects[indicator.aspect.id] = { told, metered: this.metered(indicator) }
    }
    const { panel, craft, agrees, waitsFor } = agreement(this.engine, unit)
    const exercised = unit.indicators.some((i) => i.exercise !== null)
    return { aspects, panel, craft, agrees, waitsFor, exercised }
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
      this.feedLayers(tab)
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
    if (tab.watchesAll)
      for (let slot = 0; slot < variables.index.catalogue.variables.length; slot++) look(slot)
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

  private feedLayers(tab: Tab): void {
    const layers: Record<string, LayerLive> = {}
    for (const state of this.engine.layers.sets.values()) {
      const problem = state.looping
        ? 'its choice depends on itself'
        : (state.mistake ?? (state.strange === null ? null : `it has no layer “${state.strange}”`))
      layers[state.set.id] = { active: state.active, problem }
    }
    const text = JSON.stringify(layers)
    if (text === tab.toldLayers) return
    tab.toldLayers = text
    tab.send({ say: 'layers', layers })
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
