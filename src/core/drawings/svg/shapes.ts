import { type Contour, circle, point, polygon, rectangle } from '../../geometry/contour'
import { placedAt, transformed } from '../../geometry/matrix'
import { contoursOf } from '../../geometry/read-path-data'
import { type Along, NotRead } from './lengths'

/** What a shape's own attributes are, as lengths in user units. */
export interface ShapeOf {
  readonly attribute: (name: string) => string | undefined
  /** Undefined where nothing is said, or "auto". */
  readonly length: (name: string, along: Along) => number | undefined
}

/** What each kind of shape draws (SVG 2, chapters 9 and 10). Kinds that are not here are no lines. */
export const shapes: Readonly<Record<string, (s: ShapeOf) => Contour[]>> = {
  path: ({ attribute }) => {
    try {
      return contoursOf(attribute('d') ?? '')
    } catch {
      throw new NotRead('broken')
    }
  },
  rect: ({ length }) => {
    const [x, y] = [length('x', 'x') ?? 0, length('y', 'y') ?? 0]
    const [w, h] = [length('width', 'x') ?? 0, length('height', 'y') ?? 0]
    if (w <= 0 || h <= 0) throw new NotRead('empty')
    const [ownRx, ownRy] = [length('rx', 'x'), length('ry', 'y')]
    const rx = Math.min(w / 2, ownRx ?? ownRy ?? 0)
    const ry = Math.min(h / 2, ownRy ?? ownRx ?? 0)
    if (rx <= 0 || ry <= 0) return [rectangle(point(x + w / 2, y + h / 2), w, h)]
    // As one with round corners, drawn out in one direction.
    const round = rectangle(point(0, 0), w, (h * rx) / ry, rx)
    return [transformed(round, { ...placedAt(x + w / 2, y + h / 2), d: ry / rx })]
  },
  circle: ({ length }) => {
    const r = length('r', 'both') ?? 0
    if (r <= 0) throw new NotRead('empty')
    return [circle(point(length('cx', 'x') ?? 0, length('cy', 'y') ?? 0), r)]
  },
  ellipse: ({ length }) => {
    const [ownRx, ownRy] = [length('rx', 'x'), length('ry', 'y')]
    const [rx, ry] = [ownRx ?? ownRy ?? 0, ownRy ?? ownRx ?? 0]
    if (rx <= 0 || ry <= 0) throw new NotRead('empty')
    const there = { ...placedAt(length('cx', 'x') ?? 0, length('cy', 'y') ?? 0), a: rx, d: ry }
    return [transformed(circle(point(0, 0), 1), there)]
  },
  line: ({ length }) => {
    const [a, b] = [
      point(length('x1', 'x') ?? 0, length('y1', 'y') ?? 0),
      point(length('x2', 'x') ?? 0, length('y2', 'y') ?? 0),
    ]
    if (a.x === b.x && a.y === b.y) throw new NotRead('empty')
    return [polygon([a, b], false)]
  },
  polyline: ({ attribute }) => through(attribute('points'), false),
  polygon: ({ attribute }) => through(attribute('points'), true),
}

const through = (text: string | undefined, closed: boolean): Contour[] => {
  const numbers = (text ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  if (!numbers.every(Number.isFinite) || numbers.length % 2 === 1) throw new NotRead('numbers')
  if (numbers.length < 4) throw new NotRead('empty')
  const points = Array.from({ length: numbers.length / 2 }, (_, i) =>
    point(numbers[2 * i] as number, numbers[2 * i + 1] as number),
  )
  return [polygon(points, closed)]
}
