import type { Micros } from '../../../core/units-of-measure'

/** The board's own program for one chip or chain: it works the chip's pins, and nothing else. */
export interface ChipDriver {
  /** Reads all inputs there are, once a turn. */
  scan?(): void
  isClosed?(channel: number): boolean
  levelOf?(channel: number): number
  /** What a channel is to show, 0 to 255. */
  light?(channel: number, level: number): void
  /** How long a channel's pulses are to be. */
  pulse?(channel: number, us: number): void
  /** Where a motor is to turn, in tenths of a degree, and how fast at most. */
  turn?(motor: number, goalTenths: number, tenthsPerS: number): void
  /** Sends out what has changed since the last turn. */
  send?(now: Micros): void
}
