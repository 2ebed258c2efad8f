import type { Millimetres } from '../units-of-measure'
import { onCircle, sweepOf } from './arcs'
import { type Contour, distance, type Point, point, type Segment } from './contour'

const cubicAt = (p: Point, s: Extract<Segment, { is: 'cubic' }>, t: number): Point => {
  const u = 1 - t
  const [w0, w1, w2, w3] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t]
  return point(
    w0 * p.x + w1 * s.c1.x + w2 * s.c2.x + w3 * s.to.x,
    w0 * p.y + w1 * s.c1.y + w2 * s.c2.y + w3 * s.to.y,
  )
}

/** Points along a contour whose chords stray at most so far from it; a closed one does not repeat its start. */
export const flattened = (c: Contour, tolerance: Millimetres = 0.01): Point[] => {
  const points: Point[] = [c.start]
  let from = c.start
  for (const s of c.segments) {
    if (s.is === 'arc') {
      const radius = distance(from, s.centre)
      const sweep = sweepOf(from, s)
      const most = 2 * Math.acos(Math.max(0, 1 - tolerance / Math.max(radius, tolerance)))
      const count = Math.max(1, Math.ceil(Math.abs(sweep) / Math.max(most, 1e-3)))
      const first = Math.atan2(from.y - s.centre.y, from.x - s.centre.x)
      for (let i = 1; i < count; i++) points.push(onCircle(s.centre, radius, first + (sweep * i) / count))
    } else if (s.is === 'cubic') {
      // Chords of n pieces stray at most √3/18 · 3·max‖second difference‖ / n²; Wang's formula, cubic.
      const d1 = Math.hypot(from.x - 2 * s.c1.x + s.c2.x, from.y - 2 * s.c1.y + s.c2.y)
      const d2 = Math.hypot(s.c1.x - 2 * s.c2.x + s.to.x, s.c1.y - 2 * s.c2.y + s.to.y)
      const count = Math.max(1, Math.ceil(Math.sqrt((0.75 * Math.max(d1, d2)) / tolerance)))
      for (let i = 1; i < count; i++) points.push(cubicAt(from, s, i / count))
    }
    points.push(s.to)
    from = s.to
  }
  if (c.closed && points.length > 1 && distance(points[0] as Point, from) < 1e-6) points.pop()
  return points
}
