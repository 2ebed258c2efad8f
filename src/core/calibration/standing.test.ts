import { describe, expect, it } from 'vitest'
import type { Note } from './note'
import { standingAt } from './standing'

/** Trembling that is no pattern, the same at each run. */
const random = (seed: number) => () => {
  seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0
  return seed / 2 ** 32
}
const notes = (count: number, level: (i: number) => number): Note[] =>
  Array.from({ length: count }, (_, i) => ({ at: i * 1000, value: Math.round(level(i)) }))

describe('where a lever stands', () => {
  it('is nowhere before anything was heard, and where it was heard once', () => {
    expect(standingAt([])).toBeNull()
    expect(standingAt(notes(1, () => 300))).toBe(300)
  })

  it.each([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16])(
    'is the middle of its trembling, by ±20 counts: %s',
    (seed) => {
      const next = random(seed)
      const at = standingAt(notes(3000, () => 300 + 40 * (next() - 0.5)))
      expect(Math.abs((at ?? 0) - 300)).toBeLessThan(3.5)
    },
  )

  it.each([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16])(
    'is where it was just moved, not where it was: %s',
    (seed) => {
      const next = random(seed)
      const at = standingAt(notes(3000, (i) => (i < 2900 ? 300 : 700) + 40 * (next() - 0.5)))
      expect(Math.abs((at ?? 0) - 700)).toBeLessThan(12)
    },
  )

  it('goes along with a hand that moves it through all in a second', () => {
    expect(standingAt(notes(700, (i) => i))).toBeGreaterThan(685)
  })
})
