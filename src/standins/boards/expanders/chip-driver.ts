import type { Chip } from '../../../core/harness/chip'
import type { Micros } from '../../../core/units-of-measure'
import type { TwoWireChip } from './soldered-chip'

/** The pins of the board, as its program drives and reads them. */
export interface BoardPins {
  drive(pin: number, high: boolean): void
  isLow(pin: number): boolean
  levelOf(pin: number): number
  twoWire(address: number): TwoWireChip | null
}

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

/** Makes the program for one chip or chain; `lamps` are its channels that light something. */
export type DriverMaker = (chip: Chip, pins: BoardPins, lamps: ReadonlySet<number>) => ChipDriver
