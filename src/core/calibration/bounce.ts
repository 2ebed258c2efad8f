import { MOST_DEBOUNCE_MS } from '../aspects/positions'
import type { Micros, Millis } from '../units-of-measure'
import type { Note } from './note'

/** One movement of a contact: all its changes until it stays. */
export interface Bounce {
  /** Its first change. */
  readonly at: Micros
  /** From its first change to its last. */
  readonly us: Micros
  readonly changes: number
  /** What it came to. */
  readonly closed: boolean
}

/** Changes of one contact that lie closer together than this belong to one movement; no finger is quicker. */
const STILL_US: Micros = 25_000

/**
 * The movements of one contact, of a group by its bit: each with how long it bounced. One that came back to what it was
 * (a knock, a bad solder joint) is a movement as well. The last one counts only if it was still for `STILL_US` at `until`.
 */
export const bouncesOf = (notes: readonly Note[], bit = 0, until = Number.POSITIVE_INFINITY): Bounce[] => {
  const found: Bounce[] = []
  let stands: boolean | null = null
  let from = 0
  let last = 0
  let changes = 0
  const endAt = (now: Micros) => {
    if (changes === 0 || now - last < STILL_US) return
    found.push({ at: from, us: last - from, changes, closed: stands === true })
    changes = 0
  }
  for (const { at, value } of notes) {
    const closed = ((value >> bit) & 1) === 1
    // Where it stood when it was first seen is no movement.
    if (stands !== null && closed !== stands) {
      endAt(at)
      if (changes === 0) from = at
      last = at
      changes++
    }
    stands = closed
  }
  endAt(until)
  return found
}

/** How a contact bounces, over all that it was seen to do. */
export interface BounceMeasure {
  readonly movements: number
  /** Nine of ten movements are over within this, and all within the longest. */
  readonly usualUs: Micros
  readonly longestUs: Micros
}

export const measureBounces = (bounces: readonly Bounce[]): BounceMeasure | null => {
  if (bounces.length === 0) return null
  const sorted = bounces.map((b) => b.us).sort((a, b) => a - b)
  return {
    movements: sorted.length,
    usualUs: sorted[Math.ceil(sorted.length * 0.9) - 1] as Micros,
    longestUs: sorted.at(-1) as Micros,
  }
}

/** No contact is trusted to be quicker. */
const LEAST_DEBOUNCE_MS: Millis = 2

/**
 * How long a contact has to be still before it counts, for one that bounces like this: half as long again as the longest
 * pause within a movement can be, which is no longer than the movement, and a millisecond for the board's own turns.
 */
export const debounceFor = ({ longestUs }: BounceMeasure): Millis =>
  Math.min(MOST_DEBOUNCE_MS, Math.max(LEAST_DEBOUNCE_MS, Math.ceil((longestUs * 1.5) / 1000) + 1))

/** How long each press lasted, from the first change that closed the contact to the first that opened it. */
export const pressesOf = (bounces: readonly Bounce[]): Millis[] => {
  const lengths: Millis[] = []
  let pressed: Micros | null = null
  for (const b of bounces) {
    if (b.closed) pressed ??= b.at
    else if (pressed !== null) {
      lengths.push((b.at - pressed) / 1000)
      pressed = null
    }
  }
  return lengths
}
