import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { alongCurve } from './curve'

const points = [
  { from: 0, to: 0 },
  { from: 10, to: 100 },
  { from: 20, to: 120 },
]

describe('a curve', () => {
  it('goes through its points and straight between them', () => {
    expect(alongCurve(points, 10)).toBe(100)
    expect(alongCurve(points, 5)).toBe(50)
    expect(alongCurve(points, 15)).toBe(110)
  })

  it('holds its end values beyond its ends', () => {
    expect(alongCurve(points, -5)).toBe(0)
    expect(alongCurve(points, 500)).toBe(120)
  })

  it('never leaves the range of its points', () => {
    const rising = fc
      .uniqueArray(fc.integer({ min: -1000, max: 1000 }), { minLength: 2, maxLength: 12 })
      .map((xs) => xs.sort((a, b) => a - b))
    fc.assert(
      fc.property(
        rising,
        fc.double({ min: -2000, max: 2000, noNaN: true }),
        fc.infiniteStream(fc.integer({ min: -50, max: 50 })),
        (xs, x, ys) => {
          const curve = xs.map((from) => ({ from, to: ys.next().value ?? 0 }))
          const value = alongCurve(curve, x)
          expect(value).toBeGreaterThanOrEqual(Math.min(...curve.map((p) => p.to)) - 1e-9)
          expect(value).toBeLessThanOrEqual(Math.max(...curve.map((p) => p.to)) + 1e-9)
        },
      ),
    )
  })
})
