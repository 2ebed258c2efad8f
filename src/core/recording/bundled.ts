import type { Source } from '../rig/sources'
import type { Micros } from '../units-of-measure'
import type { RecordedMark } from './moment'

/** A recording that comes with Clavik, as a file of its own: its blocks are encoded, compressed, and written as base 64. */
export interface BundledRecording {
  readonly name: string
  readonly sources: readonly Source[]
  readonly armed: boolean
  readonly marks: readonly RecordedMark[]
  readonly blocks: readonly {
    readonly n: number
    readonly from: Micros
    readonly until: Micros
    readonly bytes: string
  }[]
}
