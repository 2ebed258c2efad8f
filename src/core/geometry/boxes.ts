import type { Millimetres } from '../units-of-measure'
import { onCircle, sweepOf } from './arcs'
import { type Contour, distance, type Point, point } from './contour'
import { flattened } from './flatten'

export interface Box {
  readonly minX: Millimetres
  readonly minY: Millimetres
  readonly maxX: Millimetres
  readonly maxY: Millimetres
}

/** The least box round points. */
export const boxOf = (points: readonly Point[]): Box => {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const p of points) {
    minX = Math.min(minX, p.x)
    minY = Math.min(minY, p.y)
    maxX = Math.max(maxX, p.x)
    maxY = Math.max(maxY, p.y)
  }
  return { minX, minY, maxX, maxY }
}

/** The least box round two boxes. */
export const boxAround = (a: Box, b: Box): Box => ({
  minX: Math.min(a.minX, b.minX),
  minY: Math.min(a.minY, b.minY),
  maxX: Math.max(a.maxX, b.maxX),
  maxY: Math.max(a.maxY, b.maxY),
})

export const isWithin = (inner: Box, outer: Box): boolean =>
  inner.minX >= outer.minX && inner.maxX <= outer.maxX && inner.minY >= outer.minY && inner.maxY <= outer.maxY

/** A box that holds a contour, found quickly: whole circles for arcs, the control points of curves. */
export const boxAbout = (c: Contour): Box => {
  let from = c.start
  return boxOf([
    c.start,
    ...c.segments.flatMap((s): Point[] => {
      const radius = s.is === 'arc' ? distance(from, s.centre) : 0
      from = s.to
      if (s.is === 'line') return [s.to]
      if (s.is === 'cubic') return [s.c1, s.c2, s.to]
      const { x, y } = s.centre
      return [point(x - radius, y - radius), point(x + radius, y + radius)]
    }),
  ])
}

/** The exact box of lines and arcs; of cubics that of fine chords. */
export const boundsOf = (c: Contour): Box => {
  const points: Point[] = [...flattened(c, 0.001)]
  let from = c.start
  for (const s of c.segments) {
    if (s.is === 'arc') {
      const radius = distance(from, s.centre)
      const sweep = sweepOf(from, s)
      const first = Math.atan2(from.y - s.centre.y, from.x - s.centre.x)
      for (const quarter of [0, 1, 2, 3].map((q) => (q * Math.PI) / 2)) {
        const turn = sweep > 0 ? quarter - first : first - quarter
        const ahead = ((turn % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)
        if (ahead <= Math.abs(sweep)) points.push(onCircle(s.centre, radius, quarter))
      }
    }
    from = s.to
  }
  return boxOf(points)
}
