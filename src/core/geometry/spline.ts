import { type Contour, distance, type Point, point, type Segment } from './contour'

const between = (a: Point, b: Point, t: number): Point => point(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t)

/**
 * A non-rational B-spline of degree 1 to 3 as lines or cubic Bézier pieces, the same curve exactly: knots are put in
 * until each is as often there as the degree (Boehm, 1980). Null where knots and points do not go together.
 */
export const splinePieces = (
  control: readonly Point[],
  knots: readonly number[],
  degree: number,
): Contour | null => {
  if (degree < 1 || degree > 3 || control.length <= degree || knots.length !== control.length + degree + 1)
    return null
  if (knots.some((k, i) => !Number.isFinite(k) || k < (knots[i - 1] ?? k))) return null
  let points = control.map((p) => point(p.x, p.y))
  let u = [...knots]
  const [from, to] = [u[degree] as number, u[u.length - degree - 1] as number]
  for (const value of new Set(u.filter((k) => k >= from && k <= to))) {
    let times = u.filter((k) => k === value).length
    while (times < degree) {
      ;[points, u] = inserted(points, u, degree, value)
      times++
    }
  }
  // The pieces begin where the curve does: behind the knots that lie before it.
  const first = u.lastIndexOf(from) - degree
  const own = points.slice(Math.max(0, first))
  const spans = new Set(u.filter((k) => k >= from && k <= to)).size - 1
  const start = own[0]
  if (!start || own.length < spans * degree + 1) return null
  const segments: Segment[] = []
  for (let i = 0; i < spans; i++) {
    const piece = own.slice(i * degree, i * degree + degree + 1) as Point[]
    const [p, q, r, s] = piece as [Point, Point, Point, Point]
    if (degree === 1) segments.push({ is: 'line', to: q })
    else if (degree === 2)
      segments.push({ is: 'cubic', c1: between(p, q, 2 / 3), c2: between(r, q, 2 / 3), to: r })
    else segments.push({ is: 'cubic', c1: q, c2: r, to: s })
  }
  const end = segments.at(-1)?.to ?? start
  return { start, segments, closed: distance(start, end) < 1e-6 }
}

/** One knot more at a value, and the control points that leave the curve as it was. */
const inserted = (points: Point[], u: number[], degree: number, value: number): [Point[], number[]] => {
  const last = u.length - degree - 2
  let span = degree
  while (span < last && (u[span + 1] as number) <= value) span++
  const next: Point[] = []
  for (let i = 0; i <= points.length; i++) {
    if (i <= span - degree) next.push(points[i] as Point)
    else if (i > span) next.push(points[i - 1] as Point)
    else {
      const [low, high] = [u[i] as number, u[i + degree] as number]
      const t = high === low ? 0 : (value - low) / (high - low)
      next.push(between(points[i - 1] as Point, points[i] as Point, t))
    }
  }
  return [next, [...u.slice(0, span + 1), value, ...u.slice(span + 1)]]
}
