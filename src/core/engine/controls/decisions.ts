import type { Millis } from '../../units-of-measure'
import { evaluated, faultWords } from '../evaluate'
import type { Layers } from '../layers'
import type { ControlState, ControlUnit, Firing } from '../units'

/** Something a binding is going to do. */
export interface Decision {
  readonly state: ControlState
  readonly firing: Firing
  readonly times: number
}

/** Every source, and what needs none. */
export const ALL = -1

/** What a press begins, and what its end ends, belongs to the layer in which the press began. */
const pressing: ReadonlySet<string> = new Set([
  'press',
  'release',
  'short',
  'long',
  'double',
  'repeat',
  'hold',
])

/**
 * What controls are about to do. All that one input concerns is asked here first, against values and layers that do
 * not move meanwhile; only then is any of it done. What a binding throws becomes its own fault and costs nobody else.
 */
/** Whether the simulator reads a control by itself, and Clavik is to do nothing with it. */
export const isLeft = ({ unit }: ControlUnit): boolean => unit.part.settings.leftTo !== undefined

export class Decisions {
  private list: Decision[] = []
  /** Bits of the sources whose bindings may act just now. */
  only = ALL

  constructor(
    private readonly layers: Layers,
    /** Whether actions flow: armed, and all sources there that they need. */
    readonly flowing: (needs: number) => boolean,
  ) {}

  /** Whether a binding has a say now. */
  mayAct(state: ControlState): boolean {
    const { program, looping, gesture, control } = state
    if (looping || isLeft(control) || !this.flowing(program.needs) || !program.row.on) return false
    if (program.mistakes.length > 0 || program.fault !== null) return false
    const inLayer = pressing.has(program.settings.when) ? gesture.mine : this.layers.isActive(program.layer)
    if (!inLayer) return false
    const condition = program.onlyWhile
    return condition === null || this.guard(state, () => evaluated(condition, null)) === 1
  }

  /** Decides on an action where the binding has a say; true when something will be done. */
  fire(state: ControlState, input: number | string | null, times: number, now: Millis): boolean {
    return this.mayAct(state) && this.decide(state, input, times, now)
  }

  /** Decides on an action whether or not its condition holds; true when something will be done. */
  decide(state: ControlState, input: number | string | null, times: number, now: Millis): boolean {
    const { program, last } = state
    if (!this.flowing(program.needs) || program.fault !== null) return false
    if (this.only !== ALL && (program.needs & this.only) === 0) return false
    const { value: expression } = program
    const value = expression === null ? null : this.guard(state, () => evaluated(expression, input))
    if (expression !== null && value === null) return false
    // A lever that gives what it gave before has nothing to say.
    if (program.settings.when === 'move' && last?.value === value && !last.problem) return false
    const firing: Firing = {
      at: now,
      input: wordFor(state, input),
      value,
      problem: null,
      open: 0,
      told: false,
    }
    this.list.push({ state, firing, times })
    return true
  }

  /** Takes out what was decided. */
  take(): readonly Decision[] {
    const { list } = this
    if (list.length > 0) this.list = []
    return list
  }

  get waiting(): boolean {
    return this.list.length > 0
  }

  /** Lets a binding work; what it throws becomes its fault. */
  guard<T>(state: ControlState, work: () => T): T | null {
    try {
      return work()
    } catch (error) {
      state.program.fault = faultWords(error)
      return null
    }
  }
}

/** What was operated, as one of the things that have to be seen before a binding is proven. */
const wordFor = (state: ControlState, input: number | string | null): string => {
  const { when } = state.program.settings
  if (when === 'turn') return Number(input) > 0 ? 'clockwise' : 'counter'
  if (when === 'hold') return input === 1 ? 'on' : 'off'
  return state.control.position ?? ''
}
