import { FULL_LEVEL, MOST_SMOOTHING } from '../aspects/travel'
import type { Millis } from '../units-of-measure'

/** How a level trembles while nobody moves it, in counts of the converter. */
export interface Noise {
  readonly middle: number
  /** Standard deviation, and half of what lies between the least and the most. */
  readonly sigma: number
  readonly peak: number
}

/** Of samples taken while it rests; a slow drift within them counts as noise. Null for fewer than 20. */
export const noiseOf = (levels: readonly number[]): Noise | null => {
  if (levels.length < 20) return null
  const middle = levels.reduce((sum, v) => sum + v, 0) / levels.length
  const spread = levels.reduce((sum, v) => sum + (v - middle) ** 2, 0)
  let least = FULL_LEVEL
  let most = 0
  for (const v of levels) {
    least = Math.min(least, v)
    most = Math.max(most, v)
  }
  return { middle, sigma: Math.sqrt(spread / levels.length), peak: (most - least) / 2 }
}

/**
 * Whether it stands still: its quarters lie in one place, and none of them spreads much more than the calmest, as the end
 * of a movement would.
 */
export const isStill = (levels: readonly number[], trembles: number): boolean => {
  const quarter = levels.length >> 2
  const parts = [0, 1, 2, 3].map((i) => noiseOf(levels.slice(i * quarter, (i + 1) * quarter)))
  if (parts.some((p) => p === null)) return false
  const [middles, peaks] = [parts.map((p) => p?.middle ?? 0), parts.map((p) => p?.peak ?? 0)]
  const apart = Math.max(...middles) - Math.min(...middles)
  return apart <= Math.max(1.5, trembles / 2) && Math.max(...peaks) <= 2 * Math.min(...peaks) + 2
}

/** A board tells a level when it has gone by this; `docs/board-link.md`. */
export const TOLD_STEP = 4
/** Samples that are off by more than this many standard deviations come once in some hundred thousand. */
const RARE = 4.5

/**
 * What is left of noise behind a first-order recursive filter whose samples count 1 / 2^n: its variance times a / (2 − a),
 * for noise without memory.
 */
export const smoothed = (sigma: number, n: number): number => sigma * Math.sqrt(2 ** -n / (2 - 2 ** -n))

/** By how long such a filter is late for a steady movement, a sample a millisecond: 2^n − 1 samples. */
export const delayOf = (n: number): Millis => 2 ** n - 1

/** The least smoothing that keeps a level from being told for its noise alone: half of it stays within a step. */
export const smoothingFor = (sigma: number): number => {
  for (let n = 0; n < MOST_SMOOTHING; n++) if (smoothed(sigma, n) * RARE < TOLD_STEP / 2 + 1) return n
  return MOST_SMOOTHING
}
