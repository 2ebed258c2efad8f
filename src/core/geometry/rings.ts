import type { Millimetres } from '../units-of-measure'
import type { Point } from './contour'

/** Area inside a closed contour, positive when it runs clockwise as seen on the panel. */
export const areaOf = (points: readonly Point[]): number => {
  let twice = 0
  for (let i = 0; i < points.length; i++) {
    const [p, q] = [points[i] as Point, points[(i + 1) % points.length] as Point]
    twice += p.x * q.y - q.x * p.y
  }
  return twice / 2
}

/** Whether a point lies inside a ring of points (crossing number). */
export const isInside = (p: Point, ring: readonly Point[]): boolean => {
  let inside = false
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [a, b] = [ring[i] as Point, ring[j] as Point]
    if (a.y > p.y !== b.y > p.y && p.x < ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y) + a.x) inside = !inside
  }
  return inside
}

/** How far a point lies off a straight piece. */
export const toSegment = (p: Point, a: Point, b: Point): number => {
  const [dx, dy] = [b.x - a.x, b.y - a.y]
  const long = dx * dx + dy * dy
  const t = long === 0 ? 0 : Math.max(0, Math.min(1, ((p.x - a.x) * dx + (p.y - a.y) * dy) / long))
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy)
}

const side = (a: Point, b: Point, p: Point) => (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)

const cross = (a: Point, b: Point, c: Point, d: Point): boolean =>
  side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0

/** The least way between two rings of points; 0 where their edges cross. One inside the other is not special. */
export const gapBetween = (first: readonly Point[], second: readonly Point[]): Millimetres => {
  let least = Infinity
  for (let i = 0; i < first.length; i++) {
    const [a, b] = [first[i] as Point, first[(i + 1) % first.length] as Point]
    for (let k = 0; k < second.length; k++) {
      const [c, d] = [second[k] as Point, second[(k + 1) % second.length] as Point]
      if (cross(a, b, c, d)) return 0
      least = Math.min(least, toSegment(a, c, d), toSegment(c, a, b))
    }
  }
  return least
}

/** Whether two filled rings share any area. */
export const overlap = (first: readonly Point[], second: readonly Point[]): boolean =>
  isInside(first[0] as Point, second) ||
  isInside(second[0] as Point, first) ||
  gapBetween(first, second) === 0
