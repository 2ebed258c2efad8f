import type { Millis } from '../units-of-measure'
import type { Note } from './note'

/** One thing that a builder is asked to do with a part. */
export interface Step {
  readonly id: string
  readonly words: string
  readonly done: boolean
}

/** What is asked for now: readable from across the room, with how far it has come. */
export interface Asking {
  readonly says: string
  readonly hint: string
  /** 0 to 1 where waiting has an end that can be seen; null otherwise. */
  readonly share: number | null
}

/**
 * Leads through the measuring of one part. Whoever holds it feeds notes as they come and lets time pass; a step is taken
 * by itself once what it asks for has been seen, and `taken` counts them, for a sound.
 */
export interface Guide {
  readonly steps: readonly Step[]
  readonly asking: Asking
  readonly isDone: boolean
  readonly taken: number
  /** What was seen and could not be used, said beside what is asked for; null while all is well. */
  readonly objection: string | null
  take(notes: readonly Note[]): void
  /** `now` is the time of the board, as far as it is known: that of the last note, and what has passed since. */
  pass(now: Millis): void
}
