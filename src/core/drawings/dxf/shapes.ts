import { type Contour, circle, type Point, point, polygon, type Segment } from '../../geometry/contour'
import { combined, placedAt, transformed } from '../../geometry/matrix'
import { splinePieces } from '../../geometry/spline'
import type { Reason } from '../left-out'
import { facingOf, isLevel, planeOf, pointOf, pointsOf } from './flat'
import { type Entity, numberOf, numbersOf } from './groups'

export type Shape = { readonly contours: readonly Contour[] } | { readonly why: Reason }

const one = (contour: Contour): Shape => ({ contours: [contour] })

/** What each kind of thing draws, with y upwards; kinds that are not here are no lines. */
export const shapes: Readonly<Record<string, (e: Entity) => Shape>> = {
  LINE: (e) => {
    if (!isLevel([numberOf(e, 30, 0), numberOf(e, 31, 0)])) return { why: 'tilted' }
    return one(polygon([pointOf(e, 10), pointOf(e, 11)], false))
  },
  CIRCLE: (e) => inPlane(e, () => round(e, (centre, radius) => circle(centre, radius))),
  ARC: (e) =>
    inPlane(e, () =>
      round(e, (centre, radius) => {
        const at = (deg: number): Point => {
          const a = (deg * Math.PI) / 180
          return point(centre.x + radius * Math.cos(a), centre.y + radius * Math.sin(a))
        }
        const to = at(numberOf(e, 51, 360))
        return {
          start: at(numberOf(e, 50, 0)),
          segments: [{ is: 'arc', to, centre, clockwise: true }],
          closed: false,
        }
      }),
    ),
  ELLIPSE: (e) => {
    const facing = facingOf(e)
    const axis = pointOf(e, 11)
    if (facing === null || !isLevel([0, numberOf(e, 31, 0)])) return { why: 'tilted' }
    return one(ellipse(pointOf(e, 10), axis, facing * numberOf(e, 40, 1), e))
  },
  LWPOLYLINE: (e) =>
    inPlane(e, () => {
      const vertices: { x: number; y: number; bulge: number }[] = []
      for (const g of e.groups) {
        const last = vertices.at(-1)
        if (g.code === 10) vertices.push({ x: Number(g.value), y: 0, bulge: 0 })
        else if (last && g.code === 20) last.y = Number(g.value)
        else if (last && g.code === 42) last.bulge = Number(g.value)
      }
      return polyline(vertices, (numberOf(e, 70, 0) & 1) !== 0)
    }),
  POLYLINE: (e) => {
    const flags = numberOf(e, 70, 0)
    if (flags & (16 | 64)) return { why: 'kind' }
    // Points by which a curve was made lie among those that it goes through.
    const vertices = e.parts.filter((v) => (numberOf(v, 70, 0) & 16) === 0)
    const points = vertices.map((v) => ({ ...pointOf(v, 10), bulge: numberOf(v, 42, 0) }))
    const closed = (flags & 1) !== 0
    if ((flags & 8) === 0) return inPlane(e, () => polyline(points, closed))
    if (!isLevel(vertices.map((v) => numberOf(v, 30, 0)))) return { why: 'tilted' }
    return polyline(
      points.map((p) => ({ ...p, bulge: 0 })),
      closed,
    )
  },
  SPLINE: (e) => {
    const { points, heights } = pointsOf(e, 10)
    if (points.length === 0) return { why: 'through points' }
    if (!isLevel(heights)) return { why: 'tilted' }
    const pieces = splinePieces(points, numbersOf(e, 40), numberOf(e, 71, 3), numbersOf(e, 41))
    return pieces === null ? { why: 'spline' } : one(pieces)
  },
}

/** Things that lie in a plane of their own, laid on the drawing's. */
const inPlane = (e: Entity, draw: () => Shape): Shape => {
  const plane = planeOf(e)
  if (plane === null) return { why: 'tilted' }
  const shape = draw()
  return 'why' in shape ? shape : { contours: shape.contours.map((c) => transformed(c, plane)) }
}

const round = (e: Entity, draw: (centre: Point, radius: number) => Contour): Shape => {
  const radius = numberOf(e, 40, 0)
  return radius === 0 ? { why: 'empty' } : one(draw(pointOf(e, 10), radius))
}

interface Vertex extends Point {
  /** The tangent of a quarter of the arc's angle to the next one, against the clock above zero. */
  readonly bulge: number
}

const polyline = (vertices: readonly Vertex[], closed: boolean): Shape => {
  if (vertices.length < 2) return { why: 'empty' }
  const segments: Segment[] = []
  const count = closed ? vertices.length : vertices.length - 1
  for (let i = 0; i < count; i++) {
    const [p, q] = [vertices[i] as Vertex, vertices[(i + 1) % vertices.length] as Vertex]
    const to = point(q.x, q.y)
    const { bulge } = p
    if (Math.abs(bulge) < 1e-9) {
      segments.push({ is: 'line', to })
      continue
    }
    // The centre lies off the chord's middle by (1 − b²) / 4b of it, to its left for b above zero.
    const k = (1 - bulge * bulge) / (4 * bulge)
    const centre = point((p.x + q.x) / 2 - k * (q.y - p.y), (p.y + q.y) / 2 + k * (q.x - p.x))
    // "Clockwise" is meant with y downwards; here y still runs upwards, so the senses are exchanged.
    segments.push({ is: 'arc', to, centre, clockwise: bulge > 0 })
  }
  const first = vertices[0] as Vertex
  return one({ start: point(first.x, first.y), segments, closed })
}

/** An ellipse by its longer half, and the share of that which the other half has; below zero it runs the other way. */
const ellipse = (centre: Point, axis: Point, ratio: number, e: Entity): Contour => {
  const long = Math.hypot(axis.x, axis.y)
  const turn = (Math.atan2(axis.y, axis.x) * 180) / Math.PI
  const shape = combined(placedAt(centre.x, centre.y, turn), {
    ...placedAt(0, 0),
    a: long,
    d: long * ratio,
  })
  const [from, to] = [numberOf(e, 41, 0), numberOf(e, 42, 2 * Math.PI)]
  if (from === to || Math.abs(Math.abs(to - from) - 2 * Math.PI) < 1e-6)
    return transformed(circle(point(0, 0), 1), shape)
  const at = (a: number) => point(Math.cos(a), Math.sin(a))
  const arc: Segment = { is: 'arc', to: at(to), centre: point(0, 0), clockwise: true }
  return transformed({ start: at(from), segments: [arc], closed: false }, shape)
}
