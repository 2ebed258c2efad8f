import { type Contour, distance, type Point, point, type Segment } from './contour'

const between = (a: Point, b: Point, t: number): Point => point(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t)

/**
 * A non-rational B-spline of degree 1 to 3 as lines or cubic Bézier pieces, the same curve exactly: the control points
 * of each piece are values of the curve's polar form at its two knots (Ramshaw, 1987). Null where knots and points do
 * not go together.
 */
export const splinePieces = (
  control: readonly Point[],
  knots: readonly number[],
  degree: number,
): Contour | null => {
  if (degree < 1 || degree > 3 || control.length <= degree || knots.length !== control.length + degree + 1)
    return null
  if (knots.some((k, i) => !Number.isFinite(k) || k < (knots[i - 1] ?? k))) return null
  const segments: Segment[] = []
  let start: Point | null = null
  for (let span = degree; span < control.length; span++) {
    const [from, to] = [knots[span] as number, knots[span + 1] as number]
    if (to <= from) continue
    const piece = Array.from({ length: degree + 1 }, (_, j) =>
      polar(control, knots, degree, span, [
        ...new Array<number>(degree - j).fill(from),
        ...new Array<number>(j).fill(to),
      ]),
    )
    const [p, q, r, s] = piece as [Point, Point, Point, Point]
    start ??= p
    if (degree === 1) segments.push({ is: 'line', to: q })
    else if (degree === 2)
      segments.push({ is: 'cubic', c1: between(p, q, 2 / 3), c2: between(r, q, 2 / 3), to: r })
    else segments.push({ is: 'cubic', c1: q, c2: r, to: s })
  }
  if (start === null) return null
  const end = segments.at(-1)?.to ?? start
  return { start, segments, closed: distance(start, end) < 1e-6 }
}

/** The polar form of one span of the spline, of as many arguments as its degree: de Boor's steps, each with its own. */
const polar = (
  control: readonly Point[],
  knots: readonly number[],
  degree: number,
  span: number,
  at: readonly number[],
): Point => {
  const points = control.slice(span - degree, span + 1).map((p) => point(p.x, p.y))
  for (let r = 1; r <= degree; r++)
    for (let i = degree; i >= r; i--) {
      const low = knots[span - degree + i] as number
      const high = knots[span + i - r + 1] as number
      const t = high === low ? 0 : ((at[r - 1] as number) - low) / (high - low)
      points[i] = between(points[i - 1] as Point, points[i] as Point, t)
    }
  return points[degree] as Point
}
