import type { Millis } from '../units-of-measure'
import type { Station } from './mistakes'
import type { StopCode } from './stop-code'

export interface TraceStation {
  readonly at: Station
  /** What stands here: a pin, a board, an expression, a variable. */
  readonly what: string
  /** Its value now, in words and with its unit; empty where there is none. */
  readonly value: string
}

export interface TraceRow {
  readonly bindingId: string | null
  readonly aspectId: string
  readonly direction: 'to simulator' | 'from simulator'
  /** When it acts, in a word; empty for what follows the simulator. */
  readonly when: string
  readonly stations: readonly TraceStation[]
  /** The station the value does not get past, and why: as a code for those who act on it, in words for people. */
  readonly stop: { readonly at: Station; readonly code: StopCode; readonly reason: string } | null
  /** Something that does not stop the path but that the builder should know. */
  readonly notice: string | null
  /** When something last passed along the whole row. */
  readonly passedAt: Millis | null
}
