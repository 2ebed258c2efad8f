import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Series } from './series'

describe('what a value was over time', () => {
  it('is what was told last before, and nothing before the first', () => {
    const s = new Series()
    s.add(100, 5)
    s.add(200, 7)
    s.add(150, 99)
    s.add(300, Number.NaN)
    expect([50, 100, 199, 200, 250].map((t) => s.at(t))).toEqual([Number.NaN, 5, 5, 7, 7])
    expect(s.at(400)).toBeNaN()
    expect([...s.within(100, 200)]).toEqual([
      [100, 5],
      [200, 7],
    ])
  })

  it('is drawn with every spike, however many samples lie within a pixel', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 50 }), fc.integer({ min: -1000, max: 1000 })), {
          minLength: 1,
          maxLength: 400,
        }),
        fc.integer({ min: 1, max: 300 }),
        (steps, width) => {
          const s = new Series()
          let t = 0
          const values = steps.map(([by, v]) => {
            t += by
            s.add(t, v)
            return v
          })
          const columns = s.columns(0, t, width)
          expect(Math.max(...columns.map((c) => c.most))).toBe(Math.max(...values))
          expect(Math.min(...columns.map((c) => c.least))).toBe(Math.min(...values))
          expect(columns.at(-1)?.last).toBe(values.at(-1))
          // A column for each pixel at most, from left to right.
          expect(columns.length).toBeLessThanOrEqual(width + 1)
          for (const [i, c] of columns.entries())
            if (i > 0) expect(c.x).toBeGreaterThan((columns[i - 1] as { x: number }).x)
        },
      ),
    )
  })

  it('begins with what held before, and has gaps where nothing was', () => {
    const s = new Series()
    s.add(0, 1)
    s.add(60, Number.NaN)
    s.add(80, 4)
    expect(s.columns(50, 100, 50).map((c) => [c.x, c.last])).toEqual([
      [0, 1],
      [10, Number.NaN],
      [30, 4],
    ])
  })

  it('keeps an hour, and gives up what is older', () => {
    const s = new Series(1000)
    for (let i = 0; i < 10_000; i++) s.add(i, i)
    expect(s.length).toBeLessThanOrEqual(2048)
    expect(s.at(9999)).toBe(9999)
    expect(s.at(9000)).toBe(9000)
    expect(s.at(10)).toBeNaN()
  })
})
