import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { coinciding } from './coinciding'
import { type Contour, circle, type Point, point, polygon, rectangle } from './contour'

const square = [point(0, 0), point(10, 0), point(10, 10), point(0, 10)]
/** The same closed line, begun at another corner, perhaps the other way round. */
const begunAt = (i: number, turned: boolean): Contour => {
  const points = [...square.slice(i), ...square.slice(0, i)]
  return polygon(turned ? points.reverse() : points)
}

describe('lines that coincide', () => {
  it('are found wherever they begin and whichever way they run', () => {
    fc.assert(
      fc.property(
        fc.nat(3),
        fc.boolean(),
        fc.double({ min: -0.01, max: 0.01, noNaN: true }),
        (i, turned, off) => {
          const other = begunAt(i, turned)
          const moved: Contour = {
            ...other,
            start: point(other.start.x + off, other.start.y),
            segments: other.segments.map((s) => ({ is: 'line', to: point(s.to.x + off, s.to.y) })),
          }
          expect([...coinciding([begunAt(0, false), moved])]).toEqual([[1, 0]])
        },
      ),
    )
  })

  it('are not those that only share corners, box, or a part', () => {
    const u = (order: readonly number[]) =>
      polygon(
        order.map((i) => square[i] as Point),
        false,
      )
    expect(coinciding([u([0, 1, 2, 3]), u([1, 2, 3, 0])]).size).toBe(0)
    expect(coinciding([polygon(square), u([0, 1, 2, 3])]).size).toBe(0)
    expect(coinciding([polygon(square), circle(point(5, 5), 5)]).size).toBe(0)
    expect(coinciding([rectangle(point(5, 5), 10, 10, 1), rectangle(point(5, 5), 10, 10, 1.5)]).size).toBe(0)
    expect(coinciding([polygon(square), polygon(square.map((p) => point(p.x + 0.1, p.y)))]).size).toBe(0)
  })
})
