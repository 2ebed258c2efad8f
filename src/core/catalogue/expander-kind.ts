import type { Milliamps, Volts } from '../units-of-measure'
import type { Draw, Terminal } from './part-kind'

/** What can hang on a channel; a line is data, clock or select of a display or strip, a bus one of the two-wire lines. */
export type ChannelAbility = 'contact' | 'wiper' | 'lamp' | 'servo' | 'coil' | 'line' | 'bus'

/** A chip, or a chain of the same chips, that gives a board more inputs or outputs. */
export interface ExpanderKind {
  readonly id: string
  /** What it is called in a configuration on the wire. Given once and never again to another. */
  readonly code: number
  /** Trade type, and what it is. */
  readonly name: string
  readonly says: string
  readonly channelsPerChip: number
  /** How many may hang one behind the other as one chain; 1 where they cannot. */
  readonly mostChips: number
  readonly abilities: readonly ChannelAbility[]
  /** It takes current in: a lamp's plus hangs on a supply, its minus on the channel. */
  readonly sinks?: boolean
  /** It keeps the current itself, so that a lamp needs no resistor. */
  readonly holdsCurrent?: boolean
  /** Each channel follows a lead of its own from the board; nothing has to be told to it. */
  readonly follows?: boolean
  /** What is left between its channel and ground while it conducts. */
  readonly dropVolts?: Volts
  /** One resistor sets the current of all its channels: so many volts through it, times what comes out. */
  readonly setBy?: { readonly volts: Volts; readonly times: number }
  /** It may switch coils of relays and the like. */
  readonly inductive?: boolean
  /** Bytes of a board's memory that its driver works with for each chip; one where this is left out (firmware/core/chains.hpp). */
  readonly worksBytes?: number
  /** It has no pull-ups of its own: so many kiloohms from each contact's channel to plus are needed. */
  readonly pullUpKiloohms?: number
  /** Its own terminals. Those with `shares` may hang on one pin with others of that line. */
  readonly lines: readonly Terminal[]
  /** On the two-wire bus: the first address, and how many its jumpers choose from. */
  readonly addresses?: {
    readonly first: number
    readonly count: number
    /** Jumpers that choose an address which means something else. */
    readonly never?: readonly number[]
  }
  readonly volts: { readonly least: Volts; readonly most: Volts }
  /** What one chip takes itself. */
  readonly draws: Draw
  readonly milliampsPerChannel: Milliamps
  readonly milliampsPerChip: Milliamps
}

export const supplyLines: readonly Terminal[] = [
  { id: 'plus', name: 'supply', role: 'plus' },
  { id: 'ground', name: 'ground', role: 'ground' },
]

export const twoWireLines: readonly Terminal[] = [
  { id: 'data', name: 'two-wire data', role: 'two-wire-data', shares: 'two-wire data' },
  { id: 'clock', name: 'two-wire clock', role: 'two-wire-clock', shares: 'two-wire clock' },
]

/** A line that the board drives and that several chips of one type may listen to. */
export const sharedLine = (
  chip: string,
  id: string,
  name: string,
  more: Partial<Terminal> = {},
): Terminal => ({
  id,
  name,
  role: 'drive',
  shares: `${chip} ${id}`,
  ...more,
})
