import type { Engine } from '../../core/engine/engine'
import type { Effect, Input } from '../../core/engine/input'
import type { RecordingState } from '../../core/live/recording-states'
import type { MarkedBy, RecordedMark } from '../../core/recording/moment'
import { Recorder } from '../../core/recording/recorder'
import type { Source } from '../../core/rig/sources'
import type { Millis } from '../../core/units-of-measure'
import type { RecordingBegun, Shelf, ShelfState } from './shelf'

/** Of what hands did so many moments are listed, and of one part one within this time; all of it is in the blocks. */
const MOST_OPERATED = 2000
const ONE_HAND_MS = 1000

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
  private operations = 0
  private last: { readonly part: string; readonly at: Millis } | null = null
  private blocks = 0
  private armed: boolean
  private shelfState: ShelfState = { waitingBytes: 0, problem: null, lost: null }

  constructor(
    private readonly engine: Engine,
    private readonly shelf: Shelf,
    { id, name }: RecordingBegun,
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

  mark(words: string, by: Exclude<MarkedBy, 'hand'>, now: Millis): void {
    this.marks.push({ at: this.recorder.mark(words, by, now), words, by })
  }

  /** A part was operated: its report is recorded; here it is listed. */
  operated(part: string, now: Millis): void {
    const { last } = this
    const goesOn = last?.part === part && now - last.at < ONE_HAND_MS
    this.last = { part, at: now }
    if (goesOn || this.operations++ >= MOST_OPERATED) return
    this.marks.push({ at: this.recorder.length, words: part, by: 'hand' })
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
