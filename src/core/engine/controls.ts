import type { Millis } from '../units-of-measure'
import type { Target } from './compile-binding'
import { evaluate, holds } from './evaluate'
import type { Effect } from './input'
import type { ControlState, Firing, Unit } from './unit'
import type { Variables } from './variables'

/** Gestures of a binding that says nothing of its own. */
export const gestureDefaults = { longMs: 500, doubleMs: 300, delayMs: 500, intervalMs: 120 } as const

/** How long a stepped value is taken for true before the simulator has told it back. */
const BELIEVED_MS = 250

/** Something a control has still to do, at its time, unless the hand or an edit has called it off. */
export type Later =
  | {
      readonly is: 'gesture'
      readonly unit: Unit
      readonly state: ControlState
      readonly token: number
      readonly again: boolean
    }
  | {
      readonly is: 'sequence'
      readonly state: ControlState
      readonly token: number
      readonly firing: Firing
      readonly next: number
    }

interface Surroundings {
  readonly variables: Variables
  readonly later: (at: Millis, what: Later) => void
  /** Whether actions flow: armed, and a simulator to take them. */
  readonly flowing: () => boolean
  readonly emit: (effect: Effect) => void
  readonly unitOf: (partId: string) => Unit | undefined
}

/** `input` of a control: yes or no for a button, the position's id for a maintained control. */
export const inputOf = (unit: Unit): number | string | null => {
  if (unit.position === null || !unit.aspect) return null
  return unit.aspect.momentary ? Number(unit.position !== unit.aspect.positions[0].id) : unit.position
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

/** From movements of controls to actions: gestures and their timing, sequences with pauses, answers. */
export class Controls {
  private request = 0
  private readonly waiting = new Map<number, { state: ControlState; firing: Firing }>()
  /** Values sent by steps that the simulator has not told back yet. */
  private readonly believed = new Map<number, { value: number; until: Millis }>()

  constructor(private readonly around: Surroundings) {}

  /** The part has come into another position. */
  moved(unit: Unit, now: Millis): void {
    const pressed = inputOf(unit) === 1
    for (const state of unit.controls) {
      if (state.program.settings.when === 'position') this.fire(state, unit, now)
      else this.edge(state, unit, pressed, now)
    }
  }

  private edge(state: ControlState, unit: Unit, pressed: boolean, now: Millis): void {
    const { when, timing } = state.program.settings
    const { longMs, doubleMs, delayMs } = { ...gestureDefaults, ...timing }
    const { gesture } = state
    const token = ++gesture.token
    if (pressed) gesture.pressedAt = now
    const wasShort = !pressed && now - gesture.pressedAt < longMs
    switch (when) {
      case 'press':
        if (pressed) this.fire(state, unit, now)
        break
      case 'release':
        if (!pressed) this.fire(state, unit, now)
        break
      case 'long':
        if (pressed) this.later(now + longMs, { is: 'gesture', unit, state, token, again: false })
        break
      case 'repeat':
        if (!pressed) break
        this.fire(state, unit, now)
        this.later(now + delayMs, { is: 'gesture', unit, state, token, again: true })
        break
      case 'short':
        this.shortEdge(state, unit, { pressed, wasShort, doubleMs, token }, now)
        break
      case 'double':
        if (pressed) {
          gesture.second = now - gesture.releasedAt <= doubleMs
          if (gesture.second) this.fire(state, unit, now)
        } else gesture.releasedAt = wasShort && !gesture.second ? now : Number.NEGATIVE_INFINITY
        break
    }
  }

  /** A short press waits to see whether a second follows, but only where the part knows double ones. */
  private shortEdge(
    state: ControlState,
    unit: Unit,
    e: { pressed: boolean; wasShort: boolean; doubleMs: number; token: number },
    now: Millis,
  ): void {
    const { gesture } = state
    const knowsDouble = unit.controls.some((c) => c.program.row.on && c.program.settings.when === 'double')
    if (e.pressed) gesture.second = knowsDouble && now - gesture.releasedAt <= e.doubleMs
    else if (!e.wasShort || gesture.second) gesture.releasedAt = Number.NEGATIVE_INFINITY
    else if (!knowsDouble) this.fire(state, unit, now)
    else {
      gesture.releasedAt = now
      this.later(now + e.doubleMs, { is: 'gesture', unit, state, token: e.token, again: false })
    }
  }

  private later(at: Millis, what: Later): void {
    this.around.later(at, what)
  }

  /** Does what its time has come for. */
  due(what: Later, now: Millis): void {
    if (what.is === 'sequence') {
      if (what.token === what.state.gesture.sequence && this.around.flowing())
        this.run(what.state, what.firing, what.next, now)
      return
    }
    const { state, unit, token, again } = what
    if (token !== state.gesture.token) return
    this.fire(state, unit, now)
    if (!again) return
    const { intervalMs } = { ...gestureDefaults, ...state.program.settings.timing }
    this.later(now + intervalMs, what)
  }

  /** Calls off whatever a unit's controls have begun: repeats, long presses, sequences. */
  callOff(unit: Unit): void {
    for (const { gesture } of unit.controls) {
      gesture.token++
      gesture.sequence++
    }
  }

  private fire(state: ControlState, unit: Unit, now: Millis): void {
    const { program } = state
    if (!this.around.flowing() || !program.row.on || program.mistakes.length > 0) return
    if (!holds(program.onlyWhile)) return
    const value = program.value === null ? null : evaluate(program.value, inputOf(unit))
    if (program.value !== null && value === null) return
    const firing: Firing = { at: now, input: unit.position ?? '', value, problem: null }
    state.last = firing
    state.gesture.sequence++
    this.run(state, firing, 0, now)
  }

  /** Takes a sequence of actions up at one of them, as far as the next pause. */
  private run(state: ControlState, firing: Firing, from: number, now: Millis): void {
    const { targets } = state.program
    for (let i = from; i < targets.length; i++) {
      const target = targets[i] as Target
      if (target.do === 'pause') {
        const { sequence } = state.gesture
        this.later(now + target.ms, { is: 'sequence', state, token: sequence, firing, next: i + 1 })
        return
      }
      this.act(state, firing, target, now)
    }
  }

  private act(
    state: ControlState,
    firing: Firing,
    target: Exclude<Target, { do: 'pause' }>,
    now: Millis,
  ): void {
    const value = this.valueFor(target, firing.value, now)
    const problem =
      value === undefined
        ? 'the variable has no value to start from'
        : beyondLimits(this.around.variables, target, value)
    if (problem !== null || value === undefined) {
      firing.problem = problem
      return
    }
    if (target.do !== 'event' && value === null) return
    const request = ++this.request
    this.waiting.set(request, { state, firing })
    if (target.do === 'event') this.around.emit({ is: 'event', request, event: target.event, value })
    else if (value !== null) this.around.emit({ is: 'set', request, variable: target.variable, value })
  }

  /** What is sent: the shaped value, the other of two, or one step on; undefined where there is nothing to step from. */
  private valueFor(
    target: Exclude<Target, { do: 'pause' }>,
    shaped: number | string | null,
    now: Millis,
  ): number | string | null | undefined {
    if (target.do === 'set' || target.do === 'event') return shaped
    const told = this.around.variables.read(target.variable)
    if (typeof told !== 'number') return undefined
    const believed = this.believed.get(target.variable)
    const present = believed && believed.until > now && believed.value !== told ? believed.value : told
    const next = target.do === 'toggle' ? Number(present === 0) : stepped(present, target)
    this.believed.set(target.variable, { value: next, until: now + BELIEVED_MS })
    return next
  }

  answered(request: number, problem: string | null): void {
    const asked = this.waiting.get(request)
    if (!asked) return
    this.waiting.delete(request)
    asked.firing.problem = problem ?? ''
    if (problem !== null) return
    const { state } = asked
    if (state.acknowledged.has(asked.firing.input)) return
    state.acknowledged.add(asked.firing.input)
    const unit = this.around.unitOf(state.program.row.partId)
    const all = state.program.settings.when === 'position' ? (unit?.aspect?.positions.length ?? 1) : 1
    if (state.acknowledged.size === all) this.around.emit({ is: 'proven', bindingId: state.program.row.id })
  }

  /** The simulator is gone, and so are its answers. */
  forget(): void {
    this.waiting.clear()
    this.believed.clear()
  }
}

/** One step on, stopping at the limits or coming in again at the other end. Rounded to what decimals the step has. */
const stepped = (
  present: number,
  { by, least, most, atEnd }: { by: number; least: number; most: number; atEnd: 'stop' | 'wrap' },
): number => {
  const raw = present + by
  const span = most - least
  const next =
    raw >= least && raw <= most
      ? raw
      : atEnd === 'stop'
        ? Math.min(most, Math.max(least, raw))
        : least + ((((raw - least) % span) + span) % span)
  return Number(next.toFixed(9))
}
