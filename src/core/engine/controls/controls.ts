import type { Millis } from '../../units-of-measure'
import type { Effect } from '../input'
import type { Layers } from '../layers'
import type { SecondSteps } from '../second-step'
import type { ControlState, ControlUnit } from '../units'
import type { Variables } from '../variables'
import { Actions } from './actions'
import { Beliefs } from './beliefs'
import { ALL, Decisions } from './decisions'
import { Gestures } from './gestures'
import type { Later } from './later'
import { Requests } from './requests'

/** What controls work with. */
export interface ControlSurroundings {
  readonly variables: Variables
  readonly layers: Layers
  readonly secondSteps: SecondSteps
  readonly later: (at: Millis, what: Later) => void
  /** Whether actions flow: armed, and all sources there that they need. */
  readonly flowing: (needs: number) => boolean
  readonly emit: (effect: Effect) => void
}

/**
 * From movements of controls to actions, in two phases: what is moved, turned, timed or held is decided on, and
 * nothing of it is done before `commit`.
 */
export class Controls {
  private readonly decisions: Decisions
  private readonly gestures: Gestures
  private readonly actions: Actions
  private readonly beliefs = new Beliefs()
  private readonly requests: Requests

  constructor(private readonly around: ControlSurroundings) {
    const { layers, emit, later, variables, secondSteps } = around
    const { beliefs } = this
    this.decisions = new Decisions(layers, around.flowing)
    this.gestures = new Gestures(this.decisions, layers, later)
    this.requests = new Requests(emit)
    const { requests } = this
    this.actions = new Actions({ variables, layers, secondSteps, beliefs, requests, later, emit })
  }

  /** Whether something is decided on that is not done yet. */
  get waiting(): boolean {
    return this.decisions.waiting
  }

  /** Does what was decided. */
  commit(now: Millis): void {
    for (const decision of this.decisions.take())
      this.decisions.guard(decision.state, () => this.actions.begin(decision, now))
  }

  /** Forgets what was decided: it leads round in a loop. */
  abandon(): void {
    for (const { state } of this.decisions.take()) state.looping = true
  }

  /** The control has come into another position. */
  moved(control: ControlUnit, now: Millis): void {
    this.gestures.moved(control, now)
  }

  /** The control stands where it does, but nothing is done because of it. */
  takeAsFound(control: ControlUnit): void {
    this.gestures.takeAsFound(control.bindings)
  }

  /** The same for those of its bindings that are new. */
  takeFreshAsFound(control: ControlUnit): void {
    this.gestures.takeAsFound(control.bindings.filter((b) => b.gesture.fresh))
  }

  /** The knob was turned by so many clicks, clockwise above zero, of which `rate` came a second. */
  turned(control: ControlUnit, clicks: number, rate: number, now: Millis): void {
    for (const state of control.bindings) {
      const { when, coarse } = state.program.settings
      if ((when === 'clockwise' && clicks < 0) || (when === 'counter' && clicks > 0)) continue
      const times = coarse && rate >= coarse.perSecond ? coarse.times : 1
      const turned = (when === 'counter' ? -clicks : clicks) * times
      this.decisions.fire(state, turned, turned, now)
    }
  }

  /** The lever gives another value; or the same one is to be told again, because the craft may have another. */
  travelled(control: ControlUnit, now: Millis, again = false): void {
    for (const state of control.bindings) {
      if (again) state.last = null
      this.decisions.fire(state, control.output, 1, now)
    }
  }

  /** Something that what is held depends on has changed. */
  holdOrLetGo(state: ControlState, now: Millis): void {
    this.gestures.holdOrLetGo(state, now)
  }

  /** The simulator may have forgotten what was held on. */
  holdAnew(control: ControlUnit, now: Millis): void {
    this.gestures.holdAnew(control, now)
  }

  /** Lets go of whatever the control holds on. */
  letGo(control: ControlUnit, now: Millis): void {
    for (const state of control.bindings) this.gestures.letGo(state, now)
  }

  /** Calls off whatever a control has begun: repeats, long presses, sequences. */
  callOff(control: ControlUnit): void {
    for (const { gesture } of control.bindings) {
      gesture.token++
      gesture.sequence++
    }
  }

  /** A binding goes for good: what it holds on is let go, what it has begun is called off. */
  retire(state: ControlState, now: Millis): void {
    this.gestures.letGo(state, now)
    state.gesture.token++
    state.gesture.sequence++
  }

  /** Does what its time has come for. */
  due(what: Later, now: Millis): void {
    if (what.is === 'gesture') {
      this.gestures.due(what, now)
      return
    }
    const { gesture, token, firing, times, next } = what
    if (token !== gesture.sequence || !this.around.flowing(gesture.state.program.needs)) return
    this.decisions.guard(gesture.state, () => this.actions.run(gesture.state, firing, times, next, now))
  }

  /** The simulator tells a variable that is stepped. */
  heard(variable: number, value: number): void {
    this.beliefs.heard(variable, value)
  }

  /** The simulator has answered; gives the control it had been asked for. */
  answered(request: number, problem: string | null): ControlUnit | null {
    return this.requests.answered(request, problem)?.control ?? null
  }

  /** Some sources are gone, and so are their answers. */
  forget(gone: number): void {
    const isGone = (variable: number) => (this.around.variables.needs([variable]) & gone) !== 0
    this.requests.forget(gone)
    this.beliefs.forget(isGone)
    this.around.secondSteps.forget(isGone)
  }

  /** Lets only bindings decide that need one of these sources, while `work` goes on. */
  onlyFor(sources: number, work: () => void): void {
    this.decisions.only = sources
    try {
      work()
    } finally {
      this.decisions.only = ALL
    }
  }
}
