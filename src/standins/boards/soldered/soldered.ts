import type { Nature } from '../../../core/aspects/nature'
import { channelPlace } from '../../../core/catalogue/place'
import type { Chip } from '../../../core/harness/chip'
import type { Hands } from '../hands'

/** A chip on the two-wire bus. */
export interface TwoWireChip {
  readonly address: number
  write(bytes: readonly number[]): void
  read(count: number): number[]
}

/** Whatever is soldered to a board: it sees what the board does to its pins, and answers on them. */
export interface Soldered {
  /** The board drives a pin. */
  driven?(pin: number, high: boolean): void
  /** Whether it holds a pin low or high; null for a pin that is not its. */
  holds?(pin: number): 'low' | 'high' | null
  /** The level on a pin, 0 to 1; null for a pin that is not its. */
  level?(pin: number): number | null
  /** Colours as they came over a pin, three bytes a lamp in the order in which they travel. */
  colours?(bytes: readonly number[]): void
  /** Pulses of so many microseconds, fifty times a second. */
  pulsed?(us: number): void
  /** So many hertz. */
  turnsOver?(hertz: number): void
  readonly twoWire?: TwoWireChip
}

/** Which way a motor goes that is driven forwards; 0 where it only shivers. */
export type HungWay = 1 | -1 | 0

/** A chip that gives a board more channels. */
export interface SolderedChip extends Soldered {
  /** What a meter reads on each channel that lights something, 0 to 255. */
  lights?(): readonly number[]
  /** How far each of its motors has been stepped, in steps. */
  stepped?(): readonly number[]
  /** A motor hangs on it: with its coils as they should be, one turned round, or the two mixed, and so many steps from stop to stop. */
  hang?(motor: number, way: HungWay, most: number): void
  /** How long the pulse of a channel is. */
  pulseUs?(channel: number): number
}

/** A display, a motor, a strip. */
export interface SolderedThing extends Soldered {
  /** What one sees: a display's state as it travels, or where a needle stands in tenths of a degree. */
  shows(): number | string
  /** What it is really like, or as its maker says. */
  beLike?(nature: Nature | undefined): void
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

/** Registers on the two-wire bus: the first byte that is written says where to begin, what follows goes there. */
export const registersAt = (
  address: number,
  write: (register: number, byte: number) => void,
  read: (register: number) => number,
  /** Whether it goes on to the next register by itself. */
  goesOn: () => boolean = () => true,
): TwoWireChip => {
  let at = 0
  const next = () => {
    const here = at & 255
    if (goesOn()) at++
    return here
  }
  return {
    address,
    write: ([first, ...bytes]) => {
      at = first ?? at
      for (const byte of bytes) write(next(), byte)
    },
    read: (count) => Array.from({ length: count }, () => read(next())),
  }
}
