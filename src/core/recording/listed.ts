import type { Micros } from '../units-of-measure'
import type { RecordedMark } from './moment'

/** A recording as it is listed. */
export interface ListedRecording {
  readonly id: string
  readonly rigId: string
  /** The name of its rig where another one is open. */
  readonly otherRig: string | null
  readonly name: string
  /** As an ISO date. */
  readonly begunAt: string
  readonly state: 'going on' | 'whole' | 'cut short'
  readonly why: string | null
  readonly craft: string
  readonly variables: number
  /** What of it counts. */
  readonly from: Micros
  readonly until: Micros
  readonly bytes: number
  readonly marks: readonly RecordedMark[]
  /** The revision of the rig that it is an example of, or null. */
  readonly exampleOf: number | null
}

const two = (n: number): string => String(n).padStart(2, '0')

/** Hours, minutes and seconds of a recording: 0:07.3, 12:05.0, 1:02:05.0; or without tenths. */
export const runWords = (at: Micros, tenths = true): string => {
  const all = Math.floor(at / 100_000)
  const [hours, minutes, seconds] = [
    Math.floor(all / 36_000),
    Math.floor(all / 600) % 60,
    Math.floor(all / 10) % 60,
  ]
  const front = hours > 0 ? `${hours}:${two(minutes)}` : String(minutes)
  return `${front}:${two(seconds)}${tenths ? `.${all % 10}` : ''}`
}

/** The largest file that is taken in as a recording. */
export const MOST_RECORDING_BYTES = 500_000_000
