import type { Micros } from '../units-of-measure'

/**
 * What a board saw of an input at one moment, before any debouncing or smoothing: its contacts, the first lowest, 1 being
 * closed, or the level of an analog pin, 0 to 1023. `at` is the board's own time and never comes round.
 */
export interface Note {
  readonly at: Micros
  readonly value: number
}
