/** Where something hangs, as one number: a pin of the board below 256, or 256 × (chip + 1) + channel. */
export type Place = number

const CHIP = 256

export const channelPlace = (chip: number, channel: number): Place => CHIP * (chip + 1) + channel

/** The chip and channel of a place, or null for a pin. */
export const channelOf = (place: Place): { chip: number; channel: number } | null =>
  place < CHIP || place >= CHIP * CHIP ? null : { chip: Math.floor(place / CHIP) - 1, channel: place % CHIP }
