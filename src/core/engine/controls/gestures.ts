import type { Millis } from '../../units-of-measure'
import type { Layers } from '../layers'
import { type ControlState, type ControlUnit, standing } from '../units'
import type { Decisions } from './decisions'
import { gestureDefaults } from './gesture-defaults'
import type { Later } from './later'
import { isPressed } from './positions'

/** Presses and what becomes of them: short, long, double, repeated, held. */
export class Gestures {
  constructor(
    private readonly decisions: Decisions,
    private readonly layers: Layers,
    private readonly later: (at: Millis, what: Later) => void,
  ) {}

  /** The control has come into another position. */
  moved(control: ControlUnit, now: Millis): void {
    const edges: { state: ControlState; pressed: boolean }[] = []
    for (const state of control.bindings) {
      const { settings, layer } = state.program
      if (settings.when === 'position') {
        this.decisions.fire(state, standing(control), 1, now)
        continue
      }
      const pressed = isPressed(settings, control)
      if (pressed === state.gesture.pressed) continue
      // A press belongs to the layers that are active as it begins, for all bindings alike.
      if (pressed) state.gesture.mine = this.layers.isActive(layer)
      edges.push({ state, pressed })
    }
    for (const { state, pressed } of edges) this.edge(state, pressed, now)
  }

  /** The control stands where it does, but nothing is done because of it: only what a press is counted from. */
  takeAsFound(bindings: readonly ControlState[]): void {
    for (const { gesture, program, control } of bindings) {
      gesture.fresh = false
      gesture.pressed = isPressed(program.settings, control)
      gesture.found = gesture.pressed
      gesture.mine = this.layers.isActive(program.layer)
    }
  }

  private edge(state: ControlState, pressed: boolean, now: Millis): void {
    const { when, timing } = state.program.settings
    const { longMs, doubleMs, delayMs } = { ...gestureDefaults, ...timing }
    const { gesture, control } = state
    const token = ++gesture.token
    gesture.pressed = pressed
    gesture.found = false
    gesture.fresh = false
    if (pressed) {
      gesture.pressedAt = now
      gesture.times = 0
      gesture.atEnd = false
    }
    const wasShort = !pressed && now - gesture.pressedAt < longMs
    const act = () => this.decisions.fire(state, standing(control), 1, now)
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
        if (pressed) this.later(now + longMs, { is: 'gesture', gesture, token, again: false })
        break
      case 'repeat':
        if (!pressed) break
        act()
        gesture.times++
        this.later(now + delayMs, { is: 'gesture', gesture, token, again: true })
        break
      case 'short':
        this.shortEdge(state, { pressed, wasShort, doubleMs, token }, now)
        break
      case 'double':
        if (!gesture.mine) gesture.releasedAt = Number.NEGATIVE_INFINITY
        else if (pressed) {
          gesture.second = now - gesture.releasedAt <= doubleMs
          if (gesture.second) act()
        } else gesture.releasedAt = wasShort && !gesture.second ? now : Number.NEGATIVE_INFINITY
        break
    }
  }

  /** A short press waits to see whether a second follows, but only where double ones mean something now. */
  private shortEdge(
    state: ControlState,
    e: { pressed: boolean; wasShort: boolean; doubleMs: number; token: number },
    now: Millis,
  ): void {
    const { gesture, control } = state
    const { position } = state.program.settings
    const knowsDouble = control.bindings.some(
      ({ program: { row, settings }, gesture: other }) =>
        row.on && other.mine && settings.when === 'double' && settings.position === position,
    )
    if (e.pressed) gesture.second = knowsDouble && now - gesture.releasedAt <= e.doubleMs
    else if (!e.wasShort || gesture.second) gesture.releasedAt = Number.NEGATIVE_INFINITY
    else if (!knowsDouble) this.decisions.fire(state, standing(control), 1, now)
    else {
      gesture.releasedAt = now
      this.later(now + e.doubleMs, { is: 'gesture', gesture, token: e.token, again: false })
    }
  }

  /** Something held is on while the control is pressed and its condition holds, and off as soon as either ends. */
  holdOrLetGo(state: ControlState, now: Millis): void {
    const { gesture } = state
    // What ends while nothing flows is made up for as soon as something flows again.
    if (!this.decisions.flowing(state.program.needs)) return
    const wanted = this.isWanted(state)
    if (wanted === gesture.holding) return
    // What cannot be told for want of a value is told as soon as there is one.
    if (this.decisions.decide(state, Number(wanted), 1, now)) gesture.holding = wanted
  }

  private isWanted(state: ControlState): boolean {
    const { gesture } = state
    return gesture.pressed && !gesture.found && this.decisions.mayAct(state)
  }

  /** The simulator may have forgotten what was held on, or missed that it was pressed or let go. */
  holdAnew(control: ControlUnit, now: Millis): void {
    for (const state of control.bindings) {
      const { gesture } = state
      if (state.program.settings.when !== 'hold') continue
      const wanted = this.isWanted(state)
      if (!wanted && !gesture.holding) continue
      if (this.decisions.decide(state, Number(wanted), 1, now)) gesture.holding = wanted
    }
  }

  /** Lets go of whatever a binding holds on: its board, its wire or the arm switch is about to go. */
  letGo(state: ControlState, now: Millis): void {
    if (!state.gesture.holding) return
    // It takes another press to hold it on again.
    state.gesture.pressed = false
    this.holdOrLetGo(state, now)
  }

  /** The time of a gesture has come. */
  due(what: Extract<Later, { is: 'gesture' }>, now: Millis): void {
    const { gesture, token, again } = what
    if (token !== gesture.token) return
    const { state } = gesture
    const { timing } = state.program.settings
    const { intervalMs } = { ...gestureDefaults, ...timing }
    if (again && (gesture.atEnd || gesture.times >= (timing?.most ?? Number.POSITIVE_INFINITY))) return
    this.decisions.fire(state, standing(state.control), 1, now)
    gesture.times++
    if (again) this.later(now + intervalMs, what)
  }
}
