import svgPath from 'svgpath'
import { type Contour, distance, type Point, point, type Segment } from './contour'
import { combined, type Matrix, transformed } from './matrix'

/**
 * The contours of SVG path data: every command of SVG 1.1, arcs of circles kept as arcs, others and quadratic curves
 * as cubic ones. Throws an Error with a sentence where the data is broken.
 */
export const contoursOf = (d: string): Contour[] => {
  const path = svgPath(d).abs().unshort()
  const broken = (path as unknown as { err: string }).err
  if (broken) throw new Error(`A path in it is broken: ${broken.replace(/^SvgPath: /, '')}.`)
  const contours: Contour[] = []
  let start: Point = point(0, 0)
  let segments: Segment[] = []
  let at = start
  const finish = (closed: boolean) => {
    if (closed && segments.length > 0 && distance(at, start) > 1e-6) segments.push({ is: 'line', to: start })
    if (segments.length > 0) {
      const ends = distance(at, start) < 1e-6
      contours.push({ start, segments, closed: closed || ends })
    }
    segments = []
    at = start
  }
  path.iterate((s, _index, x, y) => {
    at = point(x, y)
    const n = s.slice(1) as number[]
    const to = (i: number) => point(n[i] as number, n[i + 1] as number)
    switch (s[0]) {
      case 'M':
        if (segments.length > 0) finish(false)
        start = to(0)
        at = start
        return
      case 'L':
        segments.push({ is: 'line', to: to(0) })
        break
      case 'H':
        segments.push({ is: 'line', to: point(n[0] as number, y) })
        break
      case 'V':
        segments.push({ is: 'line', to: point(x, n[0] as number) })
        break
      case 'C':
        segments.push({ is: 'cubic', c1: to(0), c2: to(2), to: to(4) })
        break
      case 'Q': {
        const [q, end] = [to(0), to(2)]
        const third = (p: Point) => point(p.x + (2 / 3) * (q.x - p.x), p.y + (2 / 3) * (q.y - p.y))
        segments.push({ is: 'cubic', c1: third(at), c2: third(end), to: end })
        break
      }
      case 'A':
        segments.push(...arcSegments(at, n as [number, number, number, number, number, number, number]))
        break
      case 'Z':
        finish(true)
        return
    }
    const last = segments.at(-1)
    if (last) at = last.to
  })
  if (segments.length > 0) finish(false)
  return contours
}

/** An arc by its ends as one by its centre (SVG 1.1, F.6.5). Of an ellipse it comes as cubic curves. */
const arcSegments = (
  from: Point,
  [rx0, ry0, turnDeg, large, clockwise, x, y]: [number, number, number, number, number, number, number],
): Segment[] => {
  const to = point(x, y)
  let [rx, ry] = [Math.abs(rx0), Math.abs(ry0)]
  if (distance(from, to) < 1e-9) return []
  if (rx === 0 || ry === 0) return [{ is: 'line', to }]
  const turn = (turnDeg * Math.PI) / 180
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)]
  const [mx, my] = [(from.x - to.x) / 2, (from.y - to.y) / 2]
  const [px, py] = [cos * mx + sin * my, -sin * mx + cos * my]
  const spread = (px * px) / (rx * rx) + (py * py) / (ry * ry)
  if (spread > 1) {
    rx *= Math.sqrt(spread)
    ry *= Math.sqrt(spread)
  }
  const over = rx * rx * py * py + ry * ry * px * px
  const k = Math.sqrt(Math.max(0, (rx * rx * ry * ry) / over - 1)) * (large === clockwise ? -1 : 1)
  const [cx, cy] = [(k * rx * py) / ry, (-k * ry * px) / rx]
  const centre = point(cos * cx - sin * cy + (from.x + to.x) / 2, sin * cx + cos * cy + (from.y + to.y) / 2)
  if (Math.abs(rx - ry) < 1e-6 * rx) return [{ is: 'arc', to, centre, clockwise: clockwise === 1 }]
  // As an arc of the unit circle, made into the ellipse again.
  const shape: Matrix = combined(
    { a: cos, b: sin, c: -sin, d: cos, e: centre.x, f: centre.y },
    { a: rx, b: 0, c: 0, d: ry, e: 0, f: 0 },
  )
  const unit = (p: Point): Point => {
    const [dx, dy] = [p.x - centre.x, p.y - centre.y]
    return point((cos * dx + sin * dy) / rx, (-sin * dx + cos * dy) / ry)
  }
  const round: Segment = { is: 'arc', to: unit(to), centre: point(0, 0), clockwise: clockwise === 1 }
  return [...transformed({ start: unit(from), segments: [round], closed: false }, shape).segments]
}

export const isPathData = (d: string): boolean => {
  try {
    return contoursOf(d).length > 0
  } catch {
    return false
  }
}
