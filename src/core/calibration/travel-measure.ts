import { FULL_LEVEL } from '../aspects/travel'
import type { Micros } from '../units-of-measure'
import type { Note } from './note'

/** A stretch of travel where something is wrong, in levels. */
export interface Flaw {
  readonly kind: /** The level jumps over a stretch although the hand went on evenly. */
    | 'dead spot'
    /** The wiper loses the track: the level falls to an end and comes back. */
    | 'broken track'
  readonly from: number
  readonly to: number
}

/** Levels this near to an end are that end. */
const AT_END = 6
/** A wiper that lost its track comes back within this. */
const LOST_US: Micros = 120_000
/** A jump that a hand cannot make within a millisecond: it would go through the whole travel in a fiftieth of a second. */
const JUMP = FULL_LEVEL / 20

/**
 * What is wrong along a travel that was gone through slowly: places where the level jumps, and places where the wiper
 * loses its track for a moment. `trembles` is half of what it does at rest. Flaws seen several times are told once.
 */
export const flawsOf = (notes: readonly Note[], trembles: number): Flaw[] => {
  const found: Flaw[] = []
  const least = Math.max(JUMP, 4 * trembles)
  let i = 1
  while (i < notes.length) {
    const before = notes[i - 1] as Note
    const now = notes[i] as Note
    const ms = Math.max(1, (now.at - before.at) / 1000)
    if (Math.abs(now.value - before.value) < least * ms) {
      i++
      continue
    }
    const isAtEnd = now.value <= AT_END || now.value >= FULL_LEVEL - AT_END
    const comes = isAtEnd ? comesBack(notes, i, least) : -1
    if (comes > 0) {
      const again = notes[comes] as Note
      put(found, 'broken track', before.value, again.value, least)
      i = comes + 1
      continue
    }
    put(found, 'dead spot', before.value, now.value, least)
    i++
  }
  return found
}

/** Where a level that has fallen to an end stands away from it again, within the time that a lost wiper takes; or -1. */
const comesBack = (notes: readonly Note[], from: number, least: number): number => {
  const { at, value } = notes[from] as Note
  for (let i = from + 1; i < notes.length; i++) {
    const n = notes[i] as Note
    if (n.at - at > LOST_US) return -1
    if (Math.abs(n.value - value) >= least) return i
  }
  return -1
}

const put = (found: Flaw[], kind: Flaw['kind'], a: number, b: number, least: number): void => {
  const from = Math.min(a, b)
  const to = Math.max(a, b)
  const i = found.findIndex((f) => f.kind === kind && f.from <= to + least && from <= f.to + least)
  if (i < 0) found.push({ kind, from, to })
  else {
    const f = found[i] as Flaw
    found[i] = { kind, from: Math.min(f.from, from), to: Math.max(f.to, to) }
  }
}

/** The ends between which a lever really goes, as shares of the converter's range. */
export interface Ends {
  readonly low: number
  readonly high: number
}

/** Ends that lie closer together than this tell that something else than the lever moved, or nothing did. */
const LEAST_REACH = 0.05

/**
 * Ends from the levels at which it stood all the way forward and all the way back; each drawn in by a margin, so that it is
 * reached for certain. `isSwapped` is told where forward is the lower one. Null where it has hardly moved.
 */
export const endsFrom = (
  forward: number,
  back: number,
  margin: number,
): (Ends & { readonly isSwapped: boolean }) | null => {
  const low = (Math.min(forward, back) + margin) / FULL_LEVEL
  const high = (Math.max(forward, back) - margin) / FULL_LEVEL
  if (high - low < LEAST_REACH) return null
  const round = (x: number) => Number(Math.min(1, Math.max(0, x)).toFixed(4))
  return { low: round(low), high: round(high), isSwapped: forward < back }
}
