import { chosen, stepped } from '../../signal/stepping'
import type { Millis } from '../../units-of-measure'
import type { Target } from '../compile-binding'
import type { Effect } from '../input'
import type { Layers } from '../layers'
import type { SecondSteps } from '../second-step'
import { Trembling } from '../trembling'
import type { ControlState, Firing } from '../units'
import type { Variables } from '../variables'
import type { Beliefs } from './beliefs'
import type { Decision } from './decisions'
import type { Later } from './later'
import { beyondLimits } from './limits'
import type { Requests } from './requests'

/** Clicks of one report that are sent as events one by one; a hand turns no faster. */
export const MOST_EVENTS = 32

/** Whom actions reach. */
export interface Reach {
  readonly variables: Variables
  readonly layers: Layers
  readonly secondSteps: SecondSteps
  readonly beliefs: Beliefs
  readonly requests: Requests
  readonly later: (at: Millis, what: Later) => void
  readonly emit: (effect: Effect) => void
}

/** From decisions to what the simulator is told and what layers become. */
export class Actions {
  /** Where the lever of a binding stood when that was last to do something, and how it trembles. */
  private readonly stood = new WeakMap<ControlState, { readonly at: number; readonly trembling: Trembling }>()

  constructor(private readonly reach: Reach) {}

  begin({ state, firing, times }: Decision, now: Millis): void {
    state.last = firing
    state.gesture.sequence++
    if (state.program.layer && this.isByHand(state)) this.reach.layers.used(state.program.layer.setId, now)
    this.run(state, firing, times, 0, now)
  }

  /** Whether a hand is behind it: a lever that only trembles, or tells the craft anew where it stands, is used by nobody. */
  private isByHand(state: ControlState): boolean {
    const { program, control } = state
    if (program.settings.when !== 'move' || control.raw === null) return true
    const { at, trembling } = this.stood.get(state) ?? { at: null, trembling: new Trembling() }
    this.stood.set(state, { at: control.raw, trembling })
    return trembling.isOperated(control, at, control.raw)
  }

  /** Takes a sequence of actions up at one of them, as far as the next pause. */
  run(state: ControlState, firing: Firing, times: number, from: number, now: Millis): void {
    const { targets } = state.program
    for (let i = from; i < targets.length; i++) {
      const target = targets[i] as Target
      if (target.do === 'pause') {
        const { gesture } = state
        const { sequence: token } = gesture
        this.reach.later(now + target.ms, { is: 'sequence', gesture, token, firing, times, next: i + 1 })
        return
      }
      if (target.do === 'layer') this.reach.layers.go(target.set, target.to, now)
      else if (target.do === 'event') this.sendEvent(state, firing, target, times)
      else this.setVariable(state, firing, target, times, now)
    }
    firing.told = true
    this.reach.requests.review(state, firing)
  }

  /** An event a click, however many clicks come at once. */
  private sendEvent(
    state: ControlState,
    firing: Firing,
    target: Extract<Target, { do: 'event' }>,
    times: number,
  ): void {
    const turning = state.program.settings.when === 'clockwise' || state.program.settings.when === 'counter'
    const count = turning && firing.value === null ? Math.min(MOST_EVENTS, Math.abs(times)) : 1
    for (let i = 0; i < count; i++) {
      const request = this.reach.requests.ask(state, firing)
      this.reach.emit({ is: 'event', request, event: target.event, value: firing.value })
    }
  }

  private setVariable(
    state: ControlState,
    firing: Firing,
    target: Exclude<Target, { do: 'pause' | 'layer' | 'event' }>,
    times: number,
    now: Millis,
  ): void {
    const { variables, beliefs, requests, emit } = this.reach
    const value = target.do === 'set' ? firing.value : this.nextValue(state, target, times, now)
    const problem =
      value === undefined ? 'the variable has no value to start from' : beyondLimits(variables, target, value)
    if (problem !== null || value === undefined) {
      firing.problem ??= problem
      return
    }
    if (value === null) return
    if (typeof value === 'number') beliefs.sent(target.variable, value, now)
    const request = requests.ask(state, firing)
    emit({ is: 'set', request, variable: target.variable, value })
  }

  /** The other of two, or so many steps on; undefined where there is nothing to step from. */
  private nextValue(
    state: ControlState,
    target: Extract<Target, { do: 'toggle' | 'step' | 'choose' }>,
    times: number,
    now: Millis,
  ): number | undefined {
    const { variables, beliefs, secondSteps } = this.reach
    const told = variables.read(target.variable)
    if (typeof told !== 'number') return undefined
    const present = beliefs.present(target.variable, told, now)
    const range = variables.index.catalogue.variables[target.variable]?.range
    const next = onwards(target, present, times)
    const to = range && (next < range[0] || next > range[1]) ? present : next
    state.gesture.atEnd = to === present
    const second = onwards(target, to, times)
    secondSteps.sent(target.variable, { from: present, to, second, at: now, state })
    return to
  }
}

const onwards = (
  target: Extract<Target, { do: 'toggle' | 'step' | 'choose' }>,
  present: number,
  times: number,
): number => {
  if (target.do === 'toggle') return Number(present === 0)
  return target.do === 'step' ? stepped(present, target.step, times) : chosen(present, target.choice, times)
}
