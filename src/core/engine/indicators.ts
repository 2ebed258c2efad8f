import { indicatorKind } from '../aspects/aspects'
import { takesInput } from '../rig/binding'
import type { State } from '../signal/state'
import type { Millis } from '../units-of-measure'
import type { BoardState } from './board-state'
import type { IndicatorProgram } from './compile-indicator'
import { faultWords } from './evaluate'
import type { Exercise } from './exercise'
import type { Effect } from './input'
import type { Layers } from './layers'
import { type IndicatorUnit, isReached } from './units'
import type { Variables } from './variables'

/** How long an exercise lasts at most: it ends by itself. */
export const EXERCISE_MS = 5000
/** How often a sweep moves on. */
const SWEEP_MS = 50

/** An exercise that has to move on, or to end. */
export interface ExerciseTimer {
  readonly is: 'exercise'
  readonly partId: string
  readonly aspectId: string
}

/** What indicators work with. */
export interface IndicatorSurroundings {
  readonly variables: Variables
  readonly layers: Layers
  /** Whether outputs follow these sources: armed, and all of them are there. */
  readonly flowing: (needs: number) => boolean
  readonly later: (at: Millis, timer: ExerciseTimer) => void
  readonly emit: (effect: Effect) => void
  /** A board has something to be told. */
  readonly waits: (board: BoardState) => void
  /** The time on the lines to the boards. */
  readonly lineTime: () => Millis
  /** What an indicator shows has changed. */
  readonly changed: (indicator: IndicatorUnit) => void
}

/** From values to what indicators show, and what their boards are told of it; exercise by hand; proof. */
export class Indicators {
  constructor(private readonly around: IndicatorSurroundings) {}

  /** Works out what an indicator shows and hands it to its board's queue when that is news. */
  settle(indicator: IndicatorUnit, now: Millis): void {
    const before = indicator.shown
    const state = this.wanted(indicator, now)
    if (state === before) {
      if (indicator.slot >= 0 && !indicator.proven) this.prove(indicator)
      return
    }
    indicator.shown = state
    indicator.changedAt = now
    this.around.changed(indicator)
    if (!isReached(indicator)) return
    this.send(indicator, before)
    if (!indicator.proven) this.prove(indicator)
  }

  /** Queues a state; of a page only the rows that differ from the one before. */
  send(indicator: IndicatorUnit, before: State): void {
    const now = this.around.lineTime()
    const { shown, slot, aspect } = indicator
    const board = indicator.board as BoardState
    const { priority, inRows } = indicatorKind(aspect.kind)
    if (!inRows || typeof shown === 'number') board.queue.put(slot, 0, shown, priority, now)
    else {
      const old = typeof before === 'string' ? before.split('\n') : []
      for (const [row, line] of shown.split('\n').entries())
        if (line !== old[row]) board.queue.put(slot, row, line, priority, now)
    }
    this.around.waits(board)
  }

  /** Proven is what was seen to show two different things, each because the craft said so. */
  private prove(indicator: IndicatorUnit): void {
    const owner = indicator.programs[0]
    if (!indicator.live || !owner || !isReached(indicator)) return
    const { shown, aspect } = indicator
    const state = aspect.kind === 'lamp' ? Number(((shown as number) & 255) > 0) : shown
    if (indicator.provenBy === null) indicator.provenBy = state
    else if (indicator.provenBy !== state) {
      indicator.proven = true
      this.around.emit({ is: 'proven', bindingId: owner.row.id })
    }
  }

  private wanted(indicator: IndicatorUnit, now: Millis): State {
    indicator.live = false
    if (indicator.exercise !== null) {
      const state = this.exercised(indicator, now)
      if (state !== null) return state
    }
    const { first, others } = indicator
    let state = first === null ? null : this.flowingState(first)
    for (let i = 0; state === null && others !== null && i < others.length; i++)
      state = this.flowingState(others[i] as IndicatorProgram)
    if (state === null) return this.resting(indicator)
    indicator.live = true
    return state
  }

  private flowingState(p: IndicatorProgram): State | null {
    return this.around.flowing(p.needs) ? this.showing(p) : null
  }

  /** What a binding makes its indicator show now, or null when it has no say. What it throws becomes its fault. */
  showing(p: IndicatorProgram): State | null {
    if (p.fault !== null) return null
    try {
      return this.worked(p)
    } catch (error) {
      p.fault = faultWords(error)
      return null
    }
  }

  private worked(p: IndicatorProgram): State | null {
    const { packs } = p
    if (packs === null && p.state === null) return null
    let input: number | string | null = null
    if (p.source >= 0) {
      if (p.sourceIsText) input = this.around.variables.texts[p.source] ?? null
      else {
        const number = this.around.variables.numbers[p.source] as number
        input = Number.isNaN(number) ? null : number
      }
      if (input === null && !p.showsAbsent) return null
    }
    if (p.condition !== null && p.condition(null) !== 1) return null
    if (p.layer !== null && !this.around.layers.isActive(p.layer)) return null
    if (packs === null) return (p.state as (input: number | string | null) => State | null)(input)
    const packed = packs(input) as number
    return packed >= 0 ? packed : null
  }

  /** What the craft would have an indicator show, armed or not. */
  wantedNow(indicator: IndicatorUnit): State {
    for (const p of indicator.programs) {
      const state = this.showing(p)
      if (state !== null) return state
    }
    return this.resting(indicator)
  }

  private resting(indicator: IndicatorUnit): State {
    if (indicator.resting !== null) return indicator.resting
    return indicator.shown !== -1 ? indicator.shown : (indicator.presence.rest('out') ?? 0)
  }

  private planExercise(indicator: IndicatorUnit, now: Millis): void {
    const { exercise } = indicator
    if (!exercise) return
    const at = exercise.how.as === 'sweep' ? Math.min(now + SWEEP_MS, exercise.until) : exercise.until
    const timer = { is: 'exercise', partId: indicator.unit.part.id, aspectId: indicator.aspect.id } as const
    this.around.later(at, timer)
  }

  private exercised(indicator: IndicatorUnit, now: Millis): State | null {
    const { exercise, presence } = indicator
    if (!exercise || exercise.until <= now) return null
    const { how } = exercise
    if (how.as === 'all') return presence.all
    if (how.as === 'sweep') {
      const share = (now - exercise.since) / EXERCISE_MS
      return presence.sweep(share < 0.5 ? share * 2 : 2 - share * 2)
    }
    if (how.as === 'trial') return presence.trial?.(how) ?? null
    const [program] = indicator.programs
    return this.shaped(program, how.value) ?? presence.bare(how.value)
  }

  /** What a binding makes of a value given by hand. */
  private shaped(program: IndicatorProgram | undefined, value: number | string): State | null {
    if (!program || !takesInput(program.settings)) return null
    try {
      return program.state?.(value) ?? null
    } catch {
      return null
    }
  }

  /** Drives an indicator by hand for a while, or ends that. */
  exercise(indicator: IndicatorUnit, how: Exercise | null, now: Millis): void {
    indicator.exercise = how === null ? null : { how, since: now, until: now + EXERCISE_MS }
    if (how !== null) this.planExercise(indicator, now)
    this.settle(indicator, now)
  }

  /** The time of an exercise has come: it moves on, or is over. */
  goOnExercising(indicator: IndicatorUnit, now: Millis): void {
    if (!indicator.exercise) return
    if (indicator.exercise.until <= now) indicator.exercise = null
    else if (indicator.exercise.how.as === 'sweep') this.planExercise(indicator, now)
    this.settle(indicator, now)
  }
}
