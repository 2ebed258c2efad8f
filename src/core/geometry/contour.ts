import type { Millimetres } from '../units-of-measure'

/** Millimetres from the panel's top left corner, y downwards. */
export interface Point {
  readonly x: Millimetres
  readonly y: Millimetres
}

export type Segment =
  | { readonly is: 'line'; readonly to: Point }
  | { readonly is: 'arc'; readonly to: Point; readonly centre: Point; readonly clockwise: boolean }
  | { readonly is: 'cubic'; readonly c1: Point; readonly c2: Point; readonly to: Point }

/** A line that a tool follows: straight pieces, arcs of circles and cubic curves, end to end. */
export interface Contour {
  readonly start: Point
  readonly segments: readonly Segment[]
  readonly closed: boolean
}

export const point = (x: Millimetres, y: Millimetres): Point => ({ x, y })
export const line = (to: Point): Segment => ({ is: 'line', to })
export const arc = (to: Point, centre: Point, clockwise: boolean): Segment => ({
  is: 'arc',
  to,
  centre,
  clockwise,
})

export const distance = (a: Point, b: Point): Millimetres => Math.hypot(a.x - b.x, a.y - b.y)

export const circle = (centre: Point, radius: Millimetres): Contour => {
  const left = point(centre.x - radius, centre.y)
  const right = point(centre.x + radius, centre.y)
  return { start: left, segments: [arc(right, centre, true), arc(left, centre, true)], closed: true }
}

/** A rectangle by its middle, with round corners where asked. */
export const rectangle = (
  centre: Point,
  width: Millimetres,
  height: Millimetres,
  cornerRadius: Millimetres = 0,
): Contour => {
  const r = Math.min(cornerRadius, width / 2, height / 2)
  const { x, y } = centre
  const [l, t, right, b] = [x - width / 2, y - height / 2, x + width / 2, y + height / 2]
  if (r === 0) return polygon([point(l, t), point(right, t), point(right, b), point(l, b)])
  return {
    start: point(l + r, t),
    segments: [
      line(point(right - r, t)),
      arc(point(right, t + r), point(right - r, t + r), true),
      line(point(right, b - r)),
      arc(point(right - r, b), point(right - r, b - r), true),
      line(point(l + r, b)),
      arc(point(l, b - r), point(l + r, b - r), true),
      line(point(l, t + r)),
      arc(point(l + r, t), point(l + r, t + r), true),
    ],
    closed: true,
  }
}

/** A round hole with one flat at its lower side, `across` from the flat to the far edge, that keeps a body from turning. */
export const flatSided = (centre: Point, diameter: Millimetres, across: Millimetres): Contour => {
  const r = diameter / 2
  const down = across - r
  const half = Math.sqrt(Math.max(0, r * r - down * down))
  const left = point(centre.x - half, centre.y + down)
  const right = point(centre.x + half, centre.y + down)
  return { start: left, segments: [arc(right, centre, true), line(left)], closed: true }
}

export const polygon = (points: readonly Point[], closed = true): Contour => {
  const [start = point(0, 0), ...rest] = points
  return { start, segments: [...rest, ...(closed ? [start] : [])].map(line), closed }
}

/** How far the middles of arcs of one circle may lie apart once their numbers were rounded in a file. */
const SAME_CENTRE_MM = 0.005

/** The circle that a contour is, or null. */
export const asCircle = (c: Contour): { centre: Point; radius: Millimetres } | null => {
  const [first] = c.segments
  if (!c.closed || first?.is !== 'arc') return null
  const same = c.segments.every(
    (s) =>
      s.is === 'arc' && s.clockwise === first.clockwise && distance(s.centre, first.centre) < SAME_CENTRE_MM,
  )
  if (!same) return null
  const centres = c.segments.flatMap((s) => (s.is === 'arc' ? [s.centre] : []))
  const mean = (of: (p: Point) => number) => centres.reduce((sum, p) => sum + of(p), 0) / centres.length
  const centre = point(
    mean((p) => p.x),
    mean((p) => p.y),
  )
  return { centre, radius: distance(c.start, centre) }
}
