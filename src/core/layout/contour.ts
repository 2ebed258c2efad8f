import type { Degrees, Millimetres } from '../units-of-measure'

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

export interface Box {
  readonly minX: Millimetres
  readonly minY: Millimetres
  readonly maxX: Millimetres
  readonly maxY: Millimetres
}

export const point = (x: Millimetres, y: Millimetres): Point => ({ x, y })
const line = (to: Point): Segment => ({ is: 'line', to })
const arc = (to: Point, centre: Point, clockwise: boolean): Segment => ({ is: 'arc', to, centre, clockwise })

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

// --- transforms -----------------------------------------------------------------------------------------------

/** x' = a·x + c·y + e, y' = b·x + d·y + f, as in SVG. */
export interface Matrix {
  readonly a: number
  readonly b: number
  readonly c: number
  readonly d: number
  readonly e: number
  readonly f: number
}

export const unmoved: Matrix = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 }

/** Turns clockwise round the origin, then moves: how a part lies on its panel. */
export const placedAt = (x: Millimetres, y: Millimetres, deg: Degrees = 0): Matrix => {
  const turn = (deg * Math.PI) / 180
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)]
  return { a: cos, b: sin, c: -sin, d: cos, e: x, f: y }
}

/** First `inner`, then `outer`. */
export const combined = (outer: Matrix, inner: Matrix): Matrix => ({
  a: outer.a * inner.a + outer.c * inner.b,
  b: outer.b * inner.a + outer.d * inner.b,
  c: outer.a * inner.c + outer.c * inner.d,
  d: outer.b * inner.c + outer.d * inner.d,
  e: outer.a * inner.e + outer.c * inner.f + outer.e,
  f: outer.b * inner.e + outer.d * inner.f + outer.f,
})

export const through = (m: Matrix, p: Point): Point => ({
  x: m.a * p.x + m.c * p.y + m.e,
  y: m.b * p.x + m.d * p.y + m.f,
})

const NEAR = 1e-9

/** A contour moved, turned, mirrored or scaled; where circles become ellipses their arcs become cubic curves. */
export const transformed = (c: Contour, m: Matrix): Contour => {
  const keepsCircles =
    Math.abs(m.a * m.a + m.b * m.b - m.c * m.c - m.d * m.d) < NEAR && Math.abs(m.a * m.c + m.b * m.d) < NEAR
  const mirrors = m.a * m.d - m.b * m.c < 0
  const source = keepsCircles ? c : withoutArcs(c)
  const segments = source.segments.map((s) => mapped(s, m, mirrors))
  return { start: through(m, source.start), closed: source.closed, segments }
}

const mapped = (s: Segment, m: Matrix, mirrors: boolean): Segment => {
  const to = through(m, s.to)
  if (s.is === 'line') return line(to)
  if (s.is === 'arc') return arc(to, through(m, s.centre), s.clockwise !== mirrors)
  return { is: 'cubic', c1: through(m, s.c1), c2: through(m, s.c2), to }
}

/** How far an arc turns, in radians, positive clockwise as seen on the panel; a closed one turns a whole circle. */
export const sweepOf = (from: Point, s: Extract<Segment, { is: 'arc' }>): number => {
  const a = Math.atan2(from.y - s.centre.y, from.x - s.centre.x)
  const b = Math.atan2(s.to.y - s.centre.y, s.to.x - s.centre.x)
  const turn = s.clockwise ? b - a : a - b
  const positive = turn <= NEAR ? turn + 2 * Math.PI : turn
  return s.clockwise ? positive : -positive
}

const onCircle = (centre: Point, radius: number, angle: number): Point =>
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

// --- measures -------------------------------------------------------------------------------------------------

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

const toSegment = (p: Point, a: Point, b: Point): number => {
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

/** A ring moved outwards by so much (inwards below zero), its corners mitred. Meant for shifts far smaller than it. */
export const offset = (ring: readonly Point[], by: Millimetres): Point[] => {
  const outwards = areaOf(ring) > 0 ? by : -by
  return ring.map((p, i) => {
    const before = ring[(i + ring.length - 1) % ring.length] as Point
    const after = ring[(i + 1) % ring.length] as Point
    const normal = (a: Point, b: Point): Point => {
      const long = distance(a, b) || 1
      return point((b.y - a.y) / long, (a.x - b.x) / long)
    }
    const [m, n] = [normal(before, p), normal(p, after)]
    const cos = 1 + m.x * n.x + m.y * n.y
    const k = outwards / Math.max(cos, 0.2)
    return point(p.x + (m.x + n.x) * k, p.y + (m.y + n.y) * k)
  })
}
