import { FULL_LEVEL } from '../aspects/travel'
import type { Note } from './note'

/** The last of these are always of one place; a window of them grows to half a second of samples while it stood still. */
const LEAST_SAMPLES = 16
const MOST_SAMPLES = 512
/** Means of so many standard errors apart are of two places; a count more is what the converter cannot tell. */
const ERRORS_APART = 4

/**
 * Where a lever stands, in counts: the mean of as many of the last samples as are of one place, so that one which trembles
 * is taken in its middle, and one just moved where it is now. Null without a sample.
 */
export const standingAt = (notes: readonly Note[]): number | null => {
  if (notes.length === 0) return null
  let { mean } = spreadOf(notes, Math.max(0, notes.length - LEAST_SAMPLES), notes.length)
  for (let n = 2 * LEAST_SAMPLES; n <= Math.min(MOST_SAMPLES, notes.length); n *= 2) {
    const older = spreadOf(notes, notes.length - n, notes.length - n / 2)
    const newer = spreadOf(notes, notes.length - n / 2, notes.length)
    const error = Math.sqrt((older.variance + newer.variance) / (n / 2))
    if (Math.abs(older.mean - newer.mean) > ERRORS_APART * error + 1) break
    mean = (older.mean + newer.mean) / 2
  }
  return Math.min(FULL_LEVEL, Math.max(0, mean))
}

const spreadOf = (notes: readonly Note[], from: number, to: number) => {
  let sum = 0
  let squares = 0
  for (let i = from; i < to; i++) {
    const { value } = notes[i] as Note
    sum += value
    squares += value * value
  }
  const mean = sum / (to - from)
  return { mean, variance: squares / (to - from) - mean * mean }
}
