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

/** Hours, minutes and seconds of a recording: 0:07.3, 12:05.0, 1:02:05.0. */
export const clockWords = (at: Micros, places = 1): string => {
  const tenths = Math.floor(at / 10 ** (6 - places))
  const seconds = Math.floor(tenths / 10 ** places)
  const [h, m, s] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60]
  const minutes = h > 0 ? `${h}:${String(m).padStart(2, '0')}` : String(m)
  const part = places > 0 ? `.${String(tenths % 10 ** places).padStart(places, '0')}` : ''
  return `${minutes}:${String(s).padStart(2, '0')}${part}`
}

/** The largest file that is taken in as a recording. */
export const MOST_RECORDING_BYTES = 500_000_000
