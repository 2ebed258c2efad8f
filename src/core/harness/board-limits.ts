import { type Configuration, longestState, type Slot } from './slot'

/** What a board can hold and carry, as its hello tells. */
export interface BoardLimits {
  /** The longest frame it takes, before stuffing and with its checksum. */
  readonly frameBytes: number
  readonly configurationBytes: number
  readonly slots: number
  /** What its line carries each way. */
  readonly bytesPerS: number
}

/** Version, type, sequence number and checksum; then slot and row of what is shown. `docs/board-link.md`. */
const SHOW_BYTES = 5 + 3

/** The longest frame a slot can be told in. */
const longestShow = (slot: Slot): number => {
  const state = longestState(slot)
  return state === 0 ? 0 : SHOW_BYTES + state
}

/** Why a board with these limits cannot hold a configuration of so many bytes, in words; null where it can. */
export const loadObjection = (
  { slots }: Configuration,
  bytes: number,
  limits: BoardLimits,
): string | null => {
  if (slots.length > limits.slots) return `${slots.length} things hang on it, and it can hold ${limits.slots}`
  if (bytes > limits.configurationBytes)
    return `what hangs on it takes ${bytes} bytes of its memory, and it has ${limits.configurationBytes}`
  const longest = Math.max(0, ...slots.map(longestShow))
  if (longest > limits.frameBytes)
    return `its longest display or strip is told in ${longest} bytes at a time, and it takes ${limits.frameBytes}`
  return null
}
