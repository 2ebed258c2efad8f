import type { Millis } from '../units-of-measure'
import type { Changes } from './changes'
import type { Controls } from './controls/controls'
import { noDependents } from './dependents'
import type { Indicators } from './indicators'
import type { SimulatorValue } from './input'
import type { LayerState, Layers } from './layers'
import type { Memories, MemoryCell } from './memories'
import type { SecondSteps } from './second-step'
import { type ControlState, type ControlUnit, type IndicatorUnit, standing } from './units'
import type { Variables } from './variables'

/** Rounds of deciding and committing that one input may set off. More is a loop, which is stopped and said. */
const MOST_ROUNDS = 24

/** Whom a round asks, and what it works on. */
interface Round {
  readonly variables: Variables
  readonly changes: Changes
  readonly layers: Layers
  readonly memories: Memories
  readonly controls: Controls
  readonly indicators: Indicators
  readonly secondSteps: SecondSteps
}

/**
 * From values that have changed to whoever depends on them, in two phases until nothing moves any more. Decide: every binding
 * that is concerned is asked, against values and layers that stand still. Commit: what was decided takes effect. Indicators
 * are looked at in the end, each once.
 */
export class Rounds {
  /** Who depends on which value. */
  dependents = noDependents
  private step = 0
  /** Indicators that a step concerns; kept between steps so that none is made anew. */
  private readonly touched: IndicatorUnit[] = []
  private touches = 0
  /** Values on which more depends than what indicators show, and that have changed in this round. */
  private noticed: number[] = []

  constructor(private readonly around: Round) {}

  /** Another step begins: nothing is concerned yet. */
  begin(): void {
    this.step++
    this.touches = 0
  }

  /** Takes the new values of a source in, by their place in what it told of itself. */
  takeFrame(source: string, indexes: ArrayLike<number>, values: ArrayLike<SimulatorValue>): void {
    const { variables, changes } = this.around
    const place = variables.placeOf(source)
    if (!place) return
    const [from, until] = place.variables
    const { indicators, noticed } = this.dependents
    const { step, touched } = this
    const { numbers, isText } = variables
    let count = 0
    for (let i = 0; i < indexes.length; i++) {
      const slot = from + (indexes[i] as number)
      // Behind its own values come those of others, which are none of its business.
      if (slot >= until) continue
      const value = values[i] as SimulatorValue
      if (typeof value === 'number' && isText[slot] === 0) {
        if (numbers[slot] === value) continue
        numbers[slot] = value
      } else if (!variables.write(slot, value)) continue
      changes.slot(slot)
      if (noticed[slot] === 1) this.noticed.push(slot)
      const list = indicators[slot]
      if (!list) continue
      for (let k = 0; k < list.length; k++) {
        const indicator = list[k] as IndicatorUnit
        if (indicator.seen === step) continue
        indicator.seen = step
        touched[count++] = indicator
      }
    }
    this.touches = count
  }

  /** Puts what a control stands at where expressions read it. */
  tellOwn(control: ControlUnit): void {
    const { ownSlot, aspect } = control
    if (aspect.kind === 'encoder') return
    if (this.around.variables.writeOwn(ownSlot, standing(control))) this.ownChanged(ownSlot)
  }

  /** A value of the rig's own has changed: its dependents look once the round is over. */
  ownChanged(slot: number): void {
    this.around.changes.slot(slot)
    if (this.dependents.noticed[slot] === 1) this.noticed.push(slot)
    for (const indicator of this.dependents.indicators[slot] ?? []) this.touch(indicator)
  }

  private touch(indicator: IndicatorUnit): void {
    if (indicator.seen === this.step) return
    indicator.seen = this.step
    this.touched[this.touches++] = indicator
  }

  /** Indicators that made way are nobody's business any more. */
  keepTouched(isThere: (indicator: IndicatorUnit) => boolean): void {
    const kept = this.touched.slice(0, this.touches).filter(isThere)
    this.touches = 0
    for (const indicator of kept) this.touched[this.touches++] = indicator
  }

  /** Decides and commits until nothing moves any more, then looks at the indicators that are concerned. */
  go(now: Millis): void {
    const { controls, indicators } = this.around
    for (let round = 0; controls.waiting || this.noticed.length > 0; round++) {
      if (round === MOST_ROUNDS) {
        this.stopLoop()
        break
      }
      this.decide(now)
      controls.commit(now)
    }
    for (let i = 0; i < this.touches; i++) indicators.settle(this.touched[i] as IndicatorUnit, now)
    this.begin()
  }

  /** Asks whoever depends on what has changed: what is stepped, choices of layers, what is held. */
  private decide(now: Millis): void {
    if (this.noticed.length === 0) return
    const { noticed, dependents } = this
    const { memories, layers, controls } = this.around
    this.noticed = []
    const choosers = new Set<LayerState>()
    const holders = new Set<ControlState>()
    const remembered = new Set<MemoryCell>()
    for (const slot of noticed) {
      for (const cell of dependents.memories.get(slot) ?? []) remembered.add(cell)
      this.hearStepped(slot, now)
      for (const set of dependents.choosers.get(slot) ?? []) choosers.add(set)
      for (const state of dependents.holders.get(slot) ?? []) holders.add(state)
    }
    for (const cell of remembered) memories.look(cell, now)
    layers.choose(choosers)
    for (const state of holders) controls.holdOrLetGo(state, now)
  }

  /** A variable that is stepped has changed. */
  private hearStepped(slot: number, now: Millis): void {
    const { variables, controls, secondSteps } = this.around
    const value = variables.numbers[slot] as number
    controls.heard(slot, value)
    if (!secondSteps.watches(slot)) return
    const name = variables.index.catalogue.variables[slot]?.name ?? ''
    secondSteps.heard(slot, value, name, now)
  }

  /** What goes round for ever, although no way was found that leads round: all that is still moving is stopped. */
  private stopLoop(): void {
    for (const slot of this.noticed) {
      for (const state of this.dependents.holders.get(slot) ?? []) state.looping = true
      for (const set of this.dependents.choosers.get(slot) ?? []) set.looping = true
    }
    this.noticed = []
    this.around.controls.abandon()
    this.around.changes.everything = true
  }
}
