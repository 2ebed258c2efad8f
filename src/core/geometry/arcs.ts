import { type Contour, distance, type Point, point, type Segment } from './contour'

/** Turns smaller than this are none. */
const NEAR = 1e-9

/** How far an arc turns, in radians, positive clockwise as seen on the panel; a closed one turns a whole circle. */
export const sweepOf = (from: Point, s: Extract<Segment, { is: 'arc' }>): number => {
  const a = Math.atan2(from.y - s.centre.y, from.x - s.centre.x)
  const b = Math.atan2(s.to.y - s.centre.y, s.to.x - s.centre.x)
  const turn = s.clockwise ? b - a : a - b
  const positive = turn <= NEAR ? turn + 2 * Math.PI : turn
  return s.clockwise ? positive : -positive
}

/** The point on a circle at an angle, clockwise from the right. */
export const onCircle = (centre: Point, radius: number, angle: number): Point =>
  point(centre.x + radius * Math.cos(angle), centre.y + radius * Math.sin(angle))

/** An arc as several of at most a quarter turn: by their ends and radius alone, half circles are ill defined. */
export const quarters = (from: Point, s: Extract<Segment, { is: 'arc' }>): Segment[] => {
  const sweep = sweepOf(from, s)
  const count = Math.ceil(Math.abs(sweep) / (Math.PI / 2) - 1e-9)
  const radius = distance(from, s.centre)
  const first = Math.atan2(from.y - s.centre.y, from.x - s.centre.x)
  return Array.from({ length: count }, (_, i) => {
    const to = i === count - 1 ? s.to : onCircle(s.centre, radius, first + (sweep * (i + 1)) / count)
    return { ...s, to }
  })
}

/** The same contour without arcs, in pieces of at most an eighth of a circle: as cubics they stray less than one part in a million of the radius. */
export const withoutArcs = (c: Contour): Contour => {
  let from = c.start
  const segments = c.segments.flatMap((s): Segment[] => {
    const begin = from
    from = s.to
    if (s.is !== 'arc') return [s]
    const sweep = sweepOf(begin, s)
    const count = Math.ceil(Math.abs(sweep) / (Math.PI / 4))
    const step = sweep / count
    const radius = distance(begin, s.centre)
    const first = Math.atan2(begin.y - s.centre.y, begin.x - s.centre.x)
    // The control points of an arc: 4/3 tan(θ/4) along its tangents.
    const k = (4 / 3) * Math.tan(step / 4) * radius
    return Array.from({ length: count }, (_, i) => {
      const [a, b] = [first + i * step, first + (i + 1) * step]
      const [p, q] = [onCircle(s.centre, radius, a), onCircle(s.centre, radius, b)]
      return {
        is: 'cubic',
        c1: point(p.x - k * Math.sin(a), p.y + k * Math.cos(a)),
        c2: point(q.x + k * Math.sin(b), q.y - k * Math.cos(b)),
        to: i === count - 1 ? s.to : q,
      }
    })
  })
  return { ...c, segments }
}
