import RBush from 'rbush'
import type { Millimetres } from '../units-of-measure'
import { type Box, boxOf } from './boxes'
import { type Contour, type Point, point } from './contour'
import { flattened } from './flatten'
import { toSegment } from './rings'

interface Line extends Box {
  readonly index: number
  readonly closed: boolean
  /** Its chords, end to end; a closed one comes back to its first point. */
  readonly points: readonly Point[]
}

/** Chords of a curve may lie so far off it. */
const CHORD_MM: Millimetres = 0.005

const lineOf = (c: Contour, index: number): Line => {
  const chords = flattened(c, CHORD_MM)
  const points = c.closed ? [...chords, chords[0] as Point] : chords
  return { index, closed: c.closed, points, ...boxOf(points) }
}

/** For each contour that lies on an earlier one in its whole length, within a tolerance, the index of that one. */
export const coinciding = (contours: readonly Contour[], within: Millimetres = 0.02): Map<number, number> => {
  // By the upper left corner alone: two that coincide have nearly the same.
  const corners = new RBush<Box & { readonly line: Line }>()
  const same = new Map<number, number>()
  for (const [index, c] of contours.entries()) {
    const line = lineOf(c, index)
    const { minX, minY } = line
    const around = { minX: minX - within, minY: minY - within, maxX: minX + within, maxY: minY + within }
    const twin = corners
      .search(around)
      .find(({ line: l }) => isLike(l, line, within) && liesOn(line, l, within) && liesOn(l, line, within))
    if (twin) same.set(index, twin.line.index)
    else corners.insert({ minX, minY, maxX: minX, maxY: minY, line })
  }
  return same
}

const isLike = (a: Line, b: Line, within: Millimetres): boolean =>
  a.closed === b.closed && Math.abs(a.maxX - b.maxX) <= within && Math.abs(a.maxY - b.maxY) <= within

/** Whether corners and middles of a line's pieces lie on another. */
const liesOn = (a: Line, b: Line, within: Millimetres): boolean =>
  a.points.every((p, i) => {
    const next = a.points[i + 1]
    const middle = next && point((p.x + next.x) / 2, (p.y + next.y) / 2)
    return isOn(p, b, within) && (!middle || isOn(middle, b, within))
  })

const isOn = (p: Point, { points }: Line, within: Millimetres): boolean =>
  points.some((from, i) => {
    const to = points[i + 1]
    return to !== undefined && toSegment(p, from, to) <= within
  })
