import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { boundsOf } from './boxes'
import { asCircle, circle, flatSided, point, polygon, rectangle } from './contour'
import { flattened } from './flatten'
import { combined, placedAt, transformed } from './matrix'
import { offset } from './offset'
import { pathData } from './path-data'
import { contoursOf, isPathData } from './read-path-data'
import { areaOf, gapBetween, isInside, overlap } from './rings'
import { splinePieces } from './spline'

const place = fc.record({
  x: fc.double({ min: -200, max: 200, noNaN: true }),
  y: fc.double({ min: -200, max: 200, noNaN: true }),
  deg: fc.integer({ min: -360, max: 360 }),
})

describe('contours', () => {
  it('measure what they are: a rounded rectangle, a circle, a hole with a flat', () => {
    expect(boundsOf(rectangle(point(50, 30), 40, 20, 4))).toEqual({ minX: 30, minY: 20, maxX: 70, maxY: 40 })
    expect(areaOf(flattened(rectangle(point(0, 0), 40, 20, 4), 0.0005))).toBeCloseTo(
      800 - (4 - Math.PI) * 16,
      1,
    )
    expect(asCircle(circle(point(3, 4), 5))).toEqual({ centre: point(3, 4), radius: 5 })
    expect(asCircle(flatSided(point(0, 0), 7.2, 6.7))).toBeNull()
    const flat = boundsOf(flatSided(point(0, 0), 7.2, 6.7))
    expect(flat.maxY - flat.minY).toBeCloseTo(6.7, 9)
    expect(flat.maxX - flat.minX).toBeCloseTo(7.2, 9)
  })

  it('keep their size and their circles wherever they are put', () => {
    fc.assert(
      fc.property(place, ({ x, y, deg }) => {
        const there = placedAt(x, y, deg)
        const round = asCircle(transformed(circle(point(10, 0), 3), there))
        expect(round?.radius).toBeCloseTo(3, 6)
        const before = areaOf(flattened(rectangle(point(0, 0), 18, 9, 2), 0.01))
        const after = areaOf(flattened(transformed(rectangle(point(0, 0), 18, 9, 2), there), 0.01))
        expect(after).toBeCloseTo(before, 6)
      }),
    )
  })

  it('stay the same line through path data and back', () => {
    fc.assert(
      fc.property(place, fc.double({ min: 0, max: 9, noNaN: true }), ({ x, y, deg }, corner) => {
        for (const c of [
          rectangle(point(0, 0), 30, 20, corner),
          flatSided(point(0, 0), 9, 8),
          circle(point(0, 0), 4),
        ]) {
          const there = transformed(c, placedAt(x, y, deg))
          const [back] = contoursOf(pathData(there))
          const [a, b] = [boundsOf(there), back && boundsOf(back)]
          for (const key of ['minX', 'minY', 'maxX', 'maxY'] as const) expect(b?.[key]).toBeCloseTo(a[key], 3)
          expect(back?.closed).toBe(true)
        }
      }),
    )
  })

  it('mirrored, run the other way round and lie on the other side', () => {
    const mirror = { a: -1, b: 0, c: 0, d: 1, e: 100, f: 0 }
    const c = transformed(rectangle(point(20, 10), 10, 6, 2), mirror)
    expect(boundsOf(c)).toEqual({ minX: 75, minY: 7, maxX: 85, maxY: 13 })
    expect(areaOf(flattened(c))).toBeLessThan(0)
  })

  it('become ellipses within a thousandth when stretched, and read ellipses from path data', () => {
    const wide = transformed(circle(point(0, 0), 1), { a: 50, b: 0, c: 0, d: 20, e: 0, f: 0 })
    for (const p of flattened(wide, 0.001)) expect((p.x / 50) ** 2 + (p.y / 20) ** 2).toBeCloseTo(1, 4)
    const [read] = contoursOf('M-50 0A50 20 0 0 1 50 0A50 20 0 0 1 -50 0Z')
    for (const p of flattened(read ?? wide, 0.001))
      expect((p.x / 50) ** 2 + (p.y / 20) ** 2).toBeCloseTo(1, 4)
  })

  it('read every command of path data', () => {
    const [c] = contoursOf('m10 10 h20 v10 q5 5 10 0 t10 0 c0 5 5 5 5 0 s5 -5 5 0 l-5 -20 z')
    expect(c?.closed).toBe(true)
    expect(c?.segments.map((s) => s.is)).toEqual([
      'line',
      'line',
      'cubic',
      'cubic',
      'cubic',
      'cubic',
      'line',
      'line',
    ])
    expect(isPathData('M0 0 L nonsense')).toBe(false)
    expect(isPathData('')).toBe(false)
  })

  it('know how far apart they are, and whether one covers the other', () => {
    const ring = (x: number) => flattened(circle(point(x, 0), 5), 0.001)
    expect(gapBetween(ring(0), ring(13))).toBeCloseTo(3, 2)
    expect(overlap(ring(0), ring(9.9))).toBe(true)
    expect(overlap(ring(0), ring(10.1))).toBe(false)
    const small = flattened(circle(point(0, 0), 1))
    expect(overlap(small, ring(0))).toBe(true)
    expect(isInside(point(4.9, 0), ring(0))).toBe(true)
    expect(isInside(point(5.1, 0), ring(0))).toBe(false)
  })

  it('grow by what a tool takes away, whichever way they run', () => {
    const square = polygon([point(0, 0), point(10, 0), point(10, 10), point(0, 10)])
    for (const ring of [flattened(square), flattened(square).reverse()]) {
      expect(offset(ring, 0.1).map(areaOf)).toEqual([expect.closeTo(10.2 * 10.2, 4)])
      expect(offset(ring, -0.1).map(areaOf)).toEqual([expect.closeTo(9.8 * 9.8, 4)])
    }
  })

  it('fall apart at a waist that the tool takes away, and vanish where nothing is left', () => {
    // Two squares of 10 and 6 mm, joined by a neck of 0.4 mm.
    const neck = [
      point(0, 0),
      point(10, 0),
      point(10, 4.8),
      point(14, 4.8),
      point(14, 2),
      point(20, 2),
      point(20, 8),
      point(14, 8),
      point(14, 5.2),
      point(10, 5.2),
      point(10, 10),
      point(0, 10),
    ]
    expect(offset(neck, -0.5).map((r) => Number(areaOf(r).toFixed(3)))).toEqual([81, 25])
    expect(offset(neck, -5)).toEqual([])
  })

  it('close a bay that is narrower than the tool is wide, without a hole in the edge', () => {
    const bay = [
      point(0, 0),
      point(10, 0),
      point(10, 4.9),
      point(4, 4),
      point(4, 6),
      point(10, 5.1),
      point(10, 10),
      point(0, 10),
    ]
    const [grown, ...others] = offset(bay, 0.3)
    expect(others).toEqual([])
    expect(Math.max(...(grown ?? []).map((p) => p.x))).toBeCloseTo(10.3, 5)
    expect(areaOf(grown ?? [])).toBeGreaterThan(10.6 * 10.6 - 6 * 2)
  })

  it('combine movements in the order in which they are made', () => {
    const m = combined(placedAt(10, 0, 90), placedAt(5, 0))
    expect(transformed(polygon([point(0, 0), point(1, 0)], false), m).start.y).toBeCloseTo(5, 9)
  })
})

describe('splines', () => {
  it('are the same curve as Bézier pieces', () => {
    // A uniform cubic B-spline, worked out at its knots by its basis: (a + 4b + c) / 6.
    const control = [0, 10, 30, 40, 60, 70].map((x, i) => point(x, i % 2 === 0 ? 0 : 20))
    const knots = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9]
    const curve = splinePieces(control, knots, 3)
    expect(curve?.segments).toHaveLength(3)
    expect(curve?.start.x).toBeCloseTo((0 + 40 + 30) / 6, 9)
    expect(curve?.segments[0]?.to.y).toBeCloseTo((20 + 0 + 20) / 6, 9)
    expect(curve?.segments[2]?.to.x).toBeCloseTo((40 + 240 + 70) / 6, 9)
  })

  it('with ends held go through their ends, and say no to knots that do not fit', () => {
    const control = [point(0, 0), point(0, 10), point(10, 10), point(10, 0)]
    const curve = splinePieces(control, [0, 0, 0, 0, 1, 1, 1, 1], 3)
    expect(curve?.segments).toEqual([{ is: 'cubic', c1: point(0, 10), c2: point(10, 10), to: point(10, 0) }])
    expect(splinePieces(control, [0, 0, 0, 1, 1, 1], 3)).toBeNull()
    expect(splinePieces(control, [1, 0, 0, 0, 1, 1, 1, 1], 3)).toBeNull()
  })
})
