import type { ControlSettings } from '../rig/binding'
import { chosen, stepped } from '../signal/stepping'
import type { Millis } from '../units-of-measure'
import type { Target } from './compile-binding'
import { evaluate, holds } from './evaluate'
import type { Effect } from './input'
import type { Layers } from './layers'
import type { SecondSteps } from './second-step'
import { type ControlState, type ControlUnit, type Firing, standing } from './unit'
import type { Variables } from './variables'

/** Gestures of a binding that says nothing of its own. */
export const gestureDefaults = { longMs: 500, doubleMs: 300, delayMs: 500, intervalMs: 120 } as const

/** How long a stepped value is taken for true before the simulator has told it back. */
const BELIEVED_MS = 250
/** Clicks of one report that are sent as events one by one; a hand turns no faster. */
const MOST_EVENTS = 32

/** Something a control has still to do, at its time, unless the hand or an edit has called it off. */
export type Later =
  | {
      readonly is: 'gesture'
      readonly state: ControlState
      readonly token: number
      readonly again: boolean
    }
  | {
      readonly is: 'sequence'
      readonly state: ControlState
      readonly token: number
      readonly firing: Firing
      readonly times: number
      readonly next: number
    }

interface Surroundings {
  readonly variables: Variables
  readonly layers: Layers
  readonly secondSteps: SecondSteps
  readonly later: (at: Millis, what: Later) => void
  /** Whether actions flow: armed, and a simulator to take them. */
  readonly flowing: () => boolean
  readonly emit: (effect: Effect) => void
}

/** What stands against sending a value to a target, in words, or null. */
export const beyondLimits = (
  variables: Variables,
  target: Target,
  value: number | string | null,
): string | null => {
  if (target.do !== 'set' || typeof value !== 'number') return null
  const info = variables.index.catalogue.variables[target.variable]
  if (!info?.range || (value >= info.range[0] && value <= info.range[1])) return null
  return `${value} is outside ${info.range[0]} to ${info.range[1]}${info.unit ? ` ${info.unit}` : ''} of ${info.name}`
}

/** Whether a gesture's position is the one it stands in: the named one, or any but the first. */
const isPressed = ({ position }: ControlSettings, control: ControlUnit): boolean => {
  const { aspect } = control
  if (aspect.kind !== 'positions' || control.position === null) return false
  return position === undefined ? control.position !== aspect.positions[0].id : control.position === position
}

/** From movements of controls to actions: gestures and their timing, turning, sequences with pauses, answers. */
export class Controls {
  private request = 0
  private readonly waiting = new Map<number, { state: ControlState; firing: Firing }>()
  /** Values sent by steps that the simulator has not told back yet. */
  private readonly believed = new Map<number, { value: number; until: Millis }>()

  constructor(private readonly around: Surroundings) {}

  /** The control has come into another position. */
  moved(control: ControlUnit, now: Millis): void {
    for (const state of control.bindings) {
      const { settings } = state.program
      if (settings.when === 'position') this.fire(state, standing(control), 1, now)
      else {
        const pressed = isPressed(settings, control)
        if (pressed !== state.gesture.pressed) this.edge(state, pressed, now)
      }
    }
  }

  /** The control stands where it does, but nothing is done because of it: only what a press is counted from. */
  takeAsFound(control: ControlUnit): void {
    for (const { gesture, program } of control.bindings)
      gesture.pressed = isPressed(program.settings, control)
  }

  /** The knob was turned by so many clicks, clockwise above zero, of which `rate` came a second. */
  turned(control: ControlUnit, clicks: number, rate: number, now: Millis): void {
    for (const state of control.bindings) {
      const { when, coarse } = state.program.settings
      if ((when === 'clockwise' && clicks < 0) || (when === 'counter' && clicks > 0)) continue
      const times = coarse && rate >= coarse.perSecond ? coarse.times : 1
      const turned = (when === 'counter' ? -clicks : clicks) * times
      this.fire(state, turned, turned, now)
    }
  }

  /** The lever gives another value; or the same one is to be told again, because the craft may have another. */
  travelled(control: ControlUnit, now: Millis, again = false): void {
    for (const state of control.bindings) {
      if (again) state.last = null
      this.fire(state, control.output, 1, now)
    }
  }

  private edge(state: ControlState, pressed: boolean, now: Millis): void {
    const { when, timing } = state.program.settings
    const { longMs, doubleMs, delayMs } = { ...gestureDefaults, ...timing }
    const { gesture, control } = state
    const token = ++gesture.token
    gesture.pressed = pressed
    if (pressed) gesture.pressedAt = now
    const wasShort = !pressed && now - gesture.pressedAt < longMs
    const act = () => this.fire(state, standing(control), 1, now)
    switch (when) {
      case 'press':
        if (pressed) act()
        break
      case 'release':
        if (!pressed) act()
        break
      case 'hold':
        this.holdOrLetGo(state, now)
        break
      case 'long':
        if (pressed) this.later(now + longMs, { is: 'gesture', state, token, again: false })
        break
      case 'repeat':
        if (!pressed) break
        act()
        this.later(now + delayMs, { is: 'gesture', state, token, again: true })
        break
      case 'short':
        this.shortEdge(state, { pressed, wasShort, doubleMs, token }, now)
        break
      case 'double':
        if (pressed) {
          gesture.second = now - gesture.releasedAt <= doubleMs
          if (gesture.second) act()
        } else gesture.releasedAt = wasShort && !gesture.second ? now : Number.NEGATIVE_INFINITY
        break
    }
  }

  /** A short press waits to see whether a second follows, but only where the control knows double ones. */
  private shortEdge(
    state: ControlState,
    e: { pressed: boolean; wasShort: boolean; doubleMs: number; token: number },
    now: Millis,
  ): void {
    const { gesture, control } = state
    const { position } = state.program.settings
    const knowsDouble = control.bindings.some(
      ({ program: { row, settings } }) =>
        row.on && settings.when === 'double' && settings.position === position,
    )
    if (e.pressed) gesture.second = knowsDouble && now - gesture.releasedAt <= e.doubleMs
    else if (!e.wasShort || gesture.second) gesture.releasedAt = Number.NEGATIVE_INFINITY
    else if (!knowsDouble) this.fire(state, standing(control), 1, now)
    else {
      gesture.releasedAt = now
      this.later(now + e.doubleMs, { is: 'gesture', state, token: e.token, again: false })
    }
  }

  /** Something held is on while the control is pressed and its condition holds, and off as soon as either ends. */
  holdOrLetGo(state: ControlState, now: Millis): void {
    const { gesture } = state
    // What ends while nothing flows is made up for as soon as something flows again.
    if (!this.around.flowing()) return
    const wanted = gesture.pressed && this.mayAct(state)
    if (wanted === gesture.holding) return
    gesture.holding = wanted
    this.send(state, Number(wanted), 1, now)
  }

  /** The simulator may have forgotten what was held on, or missed that it was let go. */
  holdAnew(control: ControlUnit, now: Millis): void {
    for (const state of control.bindings) {
      const { gesture } = state
      if (!gesture.holding) continue
      gesture.holding = gesture.pressed && this.mayAct(state)
      this.send(state, Number(gesture.holding), 1, now)
    }
  }

  /** Lets go of whatever the control holds on: its board or the arm switch is about to go. */
  letGo(control: ControlUnit, now: Millis): void {
    for (const state of control.bindings) {
      if (!state.gesture.holding) continue
      // It takes another press to hold it on again.
      state.gesture.pressed = false
      this.holdOrLetGo(state, now)
    }
  }

  private later(at: Millis, what: Later): void {
    this.around.later(at, what)
  }

  /** Does what its time has come for. */
  due(what: Later, now: Millis): void {
    if (what.is === 'sequence') {
      if (what.token === what.state.gesture.sequence && this.around.flowing())
        this.run(what.state, what.firing, what.times, what.next, now)
      return
    }
    const { state, token, again } = what
    if (token !== state.gesture.token) return
    this.fire(state, standing(state.control), 1, now)
    if (!again) return
    const { intervalMs } = { ...gestureDefaults, ...state.program.settings.timing }
    this.later(now + intervalMs, what)
  }

  /** Calls off whatever a control has begun: repeats, long presses, sequences. */
  callOff(control: ControlUnit): void {
    for (const { gesture } of control.bindings) {
      gesture.token++
      gesture.sequence++
    }
  }

  private mayAct({ program, looping }: ControlState): boolean {
    if (looping || !this.around.flowing() || !program.row.on || program.mistakes.length > 0) return false
    return this.around.layers.isActive(program.layer) && holds(program.onlyWhile)
  }

  private fire(state: ControlState, input: number | string | null, times: number, now: Millis): void {
    if (this.mayAct(state)) this.send(state, input, times, now)
  }

  private send(state: ControlState, input: number | string | null, times: number, now: Millis): void {
    const { program } = state
    if (!this.around.flowing()) return
    const value = program.value === null ? null : evaluate(program.value, input)
    if (program.value !== null && value === null) return
    // A lever that gives what it gave before has nothing to say.
    if (program.settings.when === 'move' && state.last?.value === value && state.last?.problem === '') return
    const firing: Firing = { at: now, input: wordFor(state, input), value, problem: null }
    state.last = firing
    state.gesture.sequence++
    if (program.layer) this.around.layers.used(program.layer.setId, now)
    this.run(state, firing, times, 0, now)
  }

  /** Takes a sequence of actions up at one of them, as far as the next pause. */
  private run(state: ControlState, firing: Firing, times: number, from: number, now: Millis): void {
    const { targets } = state.program
    for (let i = from; i < targets.length; i++) {
      const target = targets[i] as Target
      if (target.do === 'pause') {
        const { sequence } = state.gesture
        this.later(now + target.ms, { is: 'sequence', state, token: sequence, firing, times, next: i + 1 })
        return
      }
      if (target.do === 'layer') this.changeLayer(state, firing, target, now)
      else if (target.do === 'event') this.sendEvent(state, firing, target, times)
      else this.setVariable(state, firing, target, times, now)
    }
  }

  private changeLayer(
    state: ControlState,
    firing: Firing,
    target: Extract<Target, { do: 'layer' }>,
    now: Millis,
  ): void {
    this.around.layers.go(target.set, target.to, now)
    firing.problem = ''
    this.acknowledge(state, firing)
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
      const request = this.ask(state, firing)
      this.around.emit({ is: 'event', request, event: target.event, value: firing.value })
    }
  }

  private setVariable(
    state: ControlState,
    firing: Firing,
    target: Exclude<Target, { do: 'pause' | 'layer' | 'event' }>,
    times: number,
    now: Millis,
  ): void {
    const value = target.do === 'set' ? firing.value : this.nextValue(state, target, times, now)
    const problem =
      value === undefined
        ? 'the variable has no value to start from'
        : beyondLimits(this.around.variables, target, value)
    if (problem !== null || value === undefined) {
      firing.problem = problem
      return
    }
    if (value === null) return
    const request = this.ask(state, firing)
    this.around.emit({ is: 'set', request, variable: target.variable, value })
  }

  private ask(state: ControlState, firing: Firing): number {
    const request = ++this.request
    this.waiting.set(request, { state, firing })
    return request
  }

  /** The other of two, or so many steps on; undefined where there is nothing to step from. */
  private nextValue(
    state: ControlState,
    target: Extract<Target, { do: 'toggle' | 'step' | 'choose' }>,
    times: number,
    now: Millis,
  ): number | undefined {
    const told = this.around.variables.read(target.variable)
    if (typeof told !== 'number') return undefined
    const believed = this.believed.get(target.variable)
    const present = believed && believed.until > now && believed.value !== told ? believed.value : told
    const range = this.around.variables.index.catalogue.variables[target.variable]?.range
    const next = onwards(target, present, times)
    const to = range && (next < range[0] || next > range[1]) ? present : next
    this.believed.set(target.variable, { value: to, until: now + BELIEVED_MS })
    const second = onwards(target, to, times)
    this.around.secondSteps.sent(target.variable, { from: present, to, second, at: now, state })
    return to
  }

  answered(request: number, problem: string | null): void {
    const asked = this.waiting.get(request)
    if (!asked) return
    this.waiting.delete(request)
    asked.firing.problem = problem ?? ''
    if (problem === null) this.acknowledge(asked.state, asked.firing)
  }

  /** Proven is a binding of which everything it can do was taken by the simulator. */
  private acknowledge(state: ControlState, firing: Firing): void {
    if (state.acknowledged.has(firing.input)) return
    state.acknowledged.add(firing.input)
    const { aspect } = state.control
    const { when } = state.program.settings
    const skipped = aspect.kind === 'positions' ? skippedPositions(state.control) : []
    const all =
      when === 'position' && aspect.kind === 'positions'
        ? aspect.positions.length - skipped.length
        : when === 'turn' || when === 'hold'
          ? 2
          : 1
    if (state.acknowledged.size === all) this.around.emit({ is: 'proven', bindingId: state.program.row.id })
  }

  /** The simulator is gone, and so are its answers. */
  forget(): void {
    this.waiting.clear()
    this.believed.clear()
    this.around.secondSteps.forget()
  }
}

/** What was operated, as one of the things that have to be seen before a binding is proven. */
const wordFor = (state: ControlState, input: number | string | null): string => {
  const { when } = state.program.settings
  if (when === 'turn') return Number(input) > 0 ? 'clockwise' : 'counter'
  if (when === 'hold') return input === 1 ? 'on' : 'off'
  return state.control.position ?? ''
}

const onwards = (
  target: Extract<Target, { do: 'toggle' | 'step' | 'choose' }>,
  present: number,
  times: number,
): number => {
  if (target.do === 'toggle') return Number(present === 0)
  return target.do === 'step' ? stepped(present, target.step, times) : chosen(present, target.choice, times)
}

const nowhere: readonly string[] = []

/** Positions of a switch that are only passed through. */
export const skippedPositions = (control: ControlUnit): readonly string[] => {
  const { settings } = control
  return settings?.kind === 'positions' ? (settings.skips ?? nowhere) : nowhere
}
