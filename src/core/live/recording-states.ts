import type { RecordedMark } from '../recording/moment'
import type { Micros } from '../units-of-measure'

/** A recording that is being made. */
export interface RecordingState {
  readonly id: string
  readonly name: string
  readonly length: Micros
  /** How much of it waits to be kept, and why; what is wrong is said as long as it is. */
  readonly waitingBytes: number
  readonly problem: string | null
}

/** A recording that is played in place of the sources. */
export interface ReplayState {
  readonly id: string
  readonly name: string
  /** What of it counts, and where it is. */
  readonly from: Micros
  readonly until: Micros
  readonly at: Micros
  readonly marks: readonly RecordedMark[]
  /** The sources that it tells, by their connection. */
  readonly sources: readonly string[]
  readonly playing: boolean
  readonly speed: number
  readonly loop: boolean
  /** Whether the recorded hands operate the panel, and not those at the panel. */
  readonly hands: boolean
  /** It goes slower than it was asked to: as fast as this machine can. */
  readonly behind: boolean
  readonly problem: string | null
}

/** How fast a recording can be played. */
export const SPEEDS = [0.1, 0.25, 0.5, 1, 2, 4, 8, 16] as const
