import type { Engine } from '../../core/engine/engine'
import type { Effect, Input } from '../../core/engine/input'
import type { RecordingState } from '../../core/live/recording-states'
import type { MarkedBy, RecordedMark } from '../../core/recording/moment'
import { Recorder } from '../../core/recording/recorder'
import type { Source } from '../../core/rig/sources'
import type { Millis } from '../../core/units-of-measure'
import type { Beginning, Shelf, ShelfState } from './shelf'

/** Marks of a recording that are listed; there may be more of them in its blocks. */
const MOST_MARKS = 2000

/** Which variables are recorded: all, or those with these names and what is bound. */
export interface Chosen {
  readonly names: ReadonlySet<string> | null
  readonly sources: readonly Source[]
}

/** A recording that is being made: what the engine is told goes through here first, and to the shelf block by block. */
export class Recording {
  readonly id: string
  private readonly name: string
  private readonly recorder: Recorder
  /** By variable, whether it is recorded, and whether in each frame. */
  private readonly isChosen: Uint8Array
  private readonly exact: Uint8Array
  private marks: RecordedMark[] = []
  private marked = 0
  private blocks = 0
  private armed: boolean
  private shelfState: ShelfState = { waitingBytes: 0, problem: null, lost: null }

  constructor(
    private readonly engine: Engine,
    private readonly shelf: Shelf,
    { id, name }: Beginning,
    chosen: Chosen,
    now: Millis,
  ) {
    this.id = id
    this.name = name
    this.armed = engine.armed
    const { told, index } = engine.variables
    this.isChosen = new Uint8Array(told).fill(chosen.names === null ? 1 : 0)
    this.exact = new Uint8Array(told)
    for (const n of chosen.names ?? []) this.keepAsItIs(index.variable.get(n))
    this.keepBound()
    this.recorder = new Recorder(engine, chosen.sources, this.isChosen, now, (block) => {
      // What was bound meanwhile is in, and as it is, from here on.
      this.keepBound()
      shelf.add(id, this.blocks++, block, this.exact.slice(), this.marks)
      this.marks = []
    })
  }

  private keepAsItIs(variable: number | undefined): void {
    if (variable === undefined || variable >= this.exact.length) return
    this.isChosen[variable] = 1
    this.exact[variable] = 1
  }

  /** What is bound is always in, and as it is. */
  private keepBound(): void {
    for (const v of this.engine.variablesInUse()) this.keepAsItIs(v)
  }

  note(input: Input, now: Millis, told: number): void {
    if (input.is === 'arm') this.armed ||= input.armed
    this.recorder.note(input, now, told)
  }

  ordered(effects: readonly Effect[]): void {
    this.recorder.ordered(effects)
  }

  mark(words: string, by: MarkedBy, now: Millis): void {
    const at = this.recorder.mark(words, by, now)
    if (this.marked++ < MOST_MARKS) this.marks.push({ at, words, by })
  }

  /** Time passes, whether anything is told or not. */
  check(now: Millis): void {
    this.recorder.check(now)
  }

  end(why: string | null, now: Millis): void {
    this.recorder.end(now)
    this.shelf.end(this.id, why, this.armed)
  }

  told(state: ShelfState): void {
    this.shelfState = state
  }

  state(): RecordingState {
    const { id, name, shelfState, recorder } = this
    const { waitingBytes, problem } = shelfState
    return { id, name, length: recorder.length, waitingBytes, problem }
  }
}
