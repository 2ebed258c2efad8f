import type { Degrees, Millimetres } from '../units-of-measure'
import { withoutArcs } from './arcs'
import { arc, type Contour, line, type Point, type Segment } from './contour'

/** Differences smaller than this are rounding. */
const NEAR = 1e-9

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
