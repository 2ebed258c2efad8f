import fc from 'fast-check'
import { expect, it } from 'vitest'
import { alongBands, bent, type TravelBand } from './bands'

/** The same by looking at every band: what the nearest of them gives, the earlier of two. */
const byLookingAtAll = (bands: readonly TravelBand[], place: number): number => {
  const found = bands
    .map((b) => {
      const inside = Math.min(b.to, Math.max(b.from, place))
      const along = bent((inside - b.from) / (b.to - b.from), b.bend)
      return { away: Math.abs(inside - place), gives: b.gives[0] + along * (b.gives[1] - b.gives[0]) }
    })
    .reduce((a, b) => (b.away < a.away ? b : a))
  return found.gives
}

const bands = fc
  .array(
    fc.record({
      gap: fc.constantFrom(0, 0.01, 0.05),
      width: fc.double({ min: 0.01, max: 0.2, noNaN: true }),
      gives: fc.tuple(
        fc.double({ min: -10, max: 10, noNaN: true }),
        fc.double({ min: -10, max: 10, noNaN: true }),
      ),
      bend: fc.constantFrom(undefined, 0.5, -1),
    }),
    { minLength: 1, maxLength: 8 },
  )
  .map((list) => {
    let at = 0
    return list.map(({ gap, width, gives, bend }): TravelBand => {
      const from = at + gap
      at = from + width
      return { from, to: at, gives, bend }
    })
  })

it('what a lever gives is what the nearest band gives, wherever it stands', () => {
  fc.assert(
    fc.property(bands, fc.double({ min: -0.1, max: 1.7, noNaN: true }), (list, place) => {
      // Where one begins as another ends either may have the say.
      fc.pre(list.every((b) => Math.abs(b.from - place) > 1e-9 && Math.abs(b.to - place) > 1e-9))
      const middles = list.slice(1).map((b, i) => (b.from + (list[i]?.to ?? 0)) / 2)
      fc.pre(middles.every((m) => Math.abs(m - place) > 1e-9))
      expect(alongBands(list, place)).toBeCloseTo(byLookingAtAll(list, place), 9)
    }),
    { numRuns: 1000 },
  )
  expect(alongBands([], 0.3)).toBe(0.3)
})
