import { channelPlace } from '../../../core/catalogue/place'
import type { Chip } from '../../../core/harness/chip'
import type { Hands } from '../hands'

/** A chip on the two-wire bus: registers that are written and read from a first one on. */
export interface TwoWireChip {
  readonly address: number
  write(register: number, bytes: readonly number[]): void
  read(register: number, count: number): number[]
}

/** A chip as it is soldered to a board: it sees what the board does to its pins, and answers on them. */
export interface SolderedChip {
  /** The board drives a pin. */
  driven?(pin: number, high: boolean): void
  /** Whether it holds a pin low or high; null for a pin that is not its. */
  holds?(pin: number): 'low' | 'high' | null
  /** The level on a pin, 0 to 1; null for a pin that is not its. */
  level?(pin: number): number | null
  readonly twoWire?: TwoWireChip
  /** What a meter reads on each channel that lights something, 0 to 255. */
  lights?(): readonly number[]
  /** How far each of its motors has been stepped, in steps. */
  stepped?(): readonly number[]
  /** How long the pulse of a channel is. */
  pulseUs?(channel: number): number
}

/** What hangs on the channels of a soldered chip: contacts and wipers, under the hands of the builder. */
export interface Channels {
  isClosed(channel: number): boolean
  level(channel: number): number
}

export type ChipMaker = (chip: Chip, channels: Channels) => SolderedChip

/** The channels of the chip at this place among those of its board. */
export const channelsUnder = (hands: Hands, index: number): Channels => ({
  isClosed: (channel) => hands.isClosed(channelPlace(index, channel)),
  level: (channel) => hands.levelOf(channelPlace(index, channel)),
})
