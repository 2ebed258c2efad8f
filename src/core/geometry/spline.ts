import { type Contour, distance, type Point, point, type Segment } from './contour'

/** A point of a rational curve with its weight: x·w, y·w, w. */
interface Weighted {
  readonly x: number
  readonly y: number
  readonly w: number
}

const mixed = (a: Weighted, b: Weighted, t: number): Weighted => ({
  x: a.x + (b.x - a.x) * t,
  y: a.y + (b.y - a.y) * t,
  w: a.w + (b.w - a.w) * t,
})
const plain = ({ x, y, w }: Weighted): Point => point(x / w, y / w)
const between = (a: Point, b: Point, t: number): Point => point(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t)

/** How far a rational curve may stray where it becomes cubics, as a share of its piece's size. */
const STRAY = 1e-6
/** How far the points of a piece may lie off a circle that is meant, as a share of its radius. */
const ROUND = 2e-6
const MOST_PIECES = 64

/**
 * A B-spline of degree 1 to 3 as lines, arcs and cubic Bézier pieces. The control points of each piece are values of the
 * curve's polar form at its two knots (Ramshaw, 1987), with weights in homogeneous coordinates (Piegl and Tiller, The
 * NURBS Book, 4.2). Without weights that is the same curve exactly; with them, arcs of circles become arcs, and any other
 * piece as many cubics as keep within a millionth of it. Null where knots, points and weights do not go together.
 */
export const splinePieces = (
  control: readonly Point[],
  knots: readonly number[],
  degree: number,
  weights: readonly number[] = [],
): Contour | null => {
  if (degree < 1 || degree > 3 || control.length <= degree || knots.length !== control.length + degree + 1)
    return null
  if (knots.some((k, i) => !Number.isFinite(k) || k < (knots[i - 1] ?? k))) return null
  if (weights.length > 0 && (weights.length !== control.length || !weights.every((w) => w > 0))) return null
  const points = control.map((p, i): Weighted => {
    const w = weights[i] ?? 1
    return { x: p.x * w, y: p.y * w, w }
  })
  const segments: Segment[] = []
  let start: Point | null = null
  for (let span = degree; span < control.length; span++) {
    const [from, to] = [knots[span] as number, knots[span + 1] as number]
    if (to <= from) continue
    const piece = Array.from({ length: degree + 1 }, (_, j) =>
      polar(points, knots, degree, span, [
        ...new Array<number>(degree - j).fill(from),
        ...new Array<number>(j).fill(to),
      ]),
    )
    start ??= plain(piece[0] as Weighted)
    segments.push(...segmentsOf(piece))
  }
  if (start === null) return null
  const end = segments.at(-1)?.to ?? start
  return { start, segments, closed: distance(start, end) < 1e-6 }
}

/** The polar form of one span of the spline, of as many arguments as its degree: de Boor's steps, each with its own. */
const polar = (
  control: readonly Weighted[],
  knots: readonly number[],
  degree: number,
  span: number,
  at: readonly number[],
): Weighted => {
  const points = control.slice(span - degree, span + 1)
  for (let r = 1; r <= degree; r++)
    for (let i = degree; i >= r; i--) {
      const low = knots[span - degree + i] as number
      const high = knots[span + i - r + 1] as number
      const t = high === low ? 0 : ((at[r - 1] as number) - low) / (high - low)
      points[i] = mixed(points[i - 1] as Weighted, points[i] as Weighted, t)
    }
  return points[degree] as Weighted
}

/** A Bézier piece of degree 1 to 3 as segments. */
const segmentsOf = (piece: readonly Weighted[]): Segment[] => {
  const end = plain(piece.at(-1) as Weighted)
  if (piece.length === 2) return [{ is: 'line', to: end }]
  const [w0 = 1] = piece.map((p) => p.w)
  if (piece.every((p) => Math.abs(p.w - w0) < 1e-12 * w0)) {
    const [p, q, r, s] = piece.map(plain) as [Point, Point, Point, Point]
    return [
      piece.length === 3
        ? { is: 'cubic', c1: between(p, q, 2 / 3), c2: between(r, q, 2 / 3), to: r }
        : { is: 'cubic', c1: q, c2: r, to: s },
    ]
  }
  return arcOf(piece) ?? cubicsOf(piece)
}

/** The homogeneous point of a Bézier piece, by de Casteljau. */
const pointAt = (piece: readonly Weighted[], t: number): Weighted => {
  let points = piece
  while (points.length > 1)
    points = points.slice(1).map((p, i) => mixed(points[i] as Weighted, p, t)) as Weighted[]
  return points[0] as Weighted
}

/** Direction and speed of a rational piece: (A′ − w′·C) / w. */
const velocityAt = (piece: readonly Weighted[], t: number): Point => {
  const n = piece.length - 1
  const slope = piece.slice(1).map((p, i) => {
    const q = piece[i] as Weighted
    return { x: n * (p.x - q.x), y: n * (p.y - q.y), w: n * (p.w - q.w) }
  })
  const [at, d] = [pointAt(piece, t), pointAt(slope, t)]
  const here = plain(at)
  return point((d.x - d.w * here.x) / at.w, (d.y - d.w * here.y) / at.w)
}

const centreThrough = (a: Point, b: Point, c: Point): Point | null => {
  const [bx, by, cx, cy] = [b.x - a.x, b.y - a.y, c.x - a.x, c.y - a.y]
  const twice = 2 * (bx * cy - by * cx)
  if (Math.abs(twice) < 1e-9 * (bx * bx + by * by + cx * cx + cy * cy)) return null
  const [b2, c2] = [bx * bx + by * by, cx * cx + cy * cy]
  return point(a.x + (cy * b2 - by * c2) / twice, a.y + (bx * c2 - cx * b2) / twice)
}

/** The piece as one arc, where it is one of a circle; null otherwise. */
const arcOf = (piece: readonly Weighted[]): Segment[] | null => {
  const points = [0, 0.2, 0.4, 0.5, 0.7, 0.9, 1].map((t) => plain(pointAt(piece, t)))
  const [a, , , middle, , , to] = points as [Point, Point, Point, Point, Point, Point, Point]
  // A whole circle in one piece has its ends at one place: its third point is another one then.
  const centre = centreThrough(a, points[2] as Point, distance(a, to) < 1e-9 ? (points[4] as Point) : to)
  if (!centre) return null
  const radius = distance(a, centre)
  if (points.some((p) => Math.abs(distance(p, centre) - radius) > ROUND * radius)) return null
  const v = velocityAt(piece, 0)
  const clockwise = (a.x - centre.x) * v.y - (a.y - centre.y) * v.x > 0
  // In two halves, so that neither is ill defined by its ends.
  return [
    { is: 'arc', to: middle, centre, clockwise },
    { is: 'arc', to, centre, clockwise },
  ]
}

/** The piece as cubics with its own points and velocities at their ends, halved until they keep close to it. */
const cubicsOf = (piece: readonly Weighted[]): Segment[] => {
  const corners = piece.map(plain)
  const size = Math.max(...corners.map((p) => distance(p, corners[0] as Point)), 1e-12)
  for (let count = 2; ; count *= 2) {
    const segments: Segment[] = []
    let worst = 0
    for (let i = 0; i < count; i++) {
      const [t0, t1] = [i / count, (i + 1) / count]
      const [p, q] = [plain(pointAt(piece, t0)), plain(pointAt(piece, t1))]
      const [u, v] = [velocityAt(piece, t0), velocityAt(piece, t1)]
      const h = (t1 - t0) / 3
      const c1 = point(p.x + u.x * h, p.y + u.y * h)
      const c2 = point(q.x - v.x * h, q.y - v.y * h)
      const middle = point((p.x + 3 * c1.x + 3 * c2.x + q.x) / 8, (p.y + 3 * c1.y + 3 * c2.y + q.y) / 8)
      worst = Math.max(worst, distance(middle, plain(pointAt(piece, (t0 + t1) / 2))))
      segments.push({ is: 'cubic', c1, c2, to: q })
    }
    if (worst <= STRAY * size || count >= MOST_PIECES) return segments
  }
}
