import type { Drawing, ReadDrawing } from '../../src/core/drawings/drawing'
import { type Box, boundsOf } from '../../src/core/geometry/boxes'

/** Edges of a box, to the thousandth. */
export const rounded = ({ minX, minY, maxX, maxY }: Box) =>
  [minX, minY, maxX, maxY].map((n) => Math.round(n * 1000) / 1000 + 0)

/** What was read, or the reason why not as an error. */
export const drawing = (read: ReadDrawing): Drawing => {
  if ('problem' in read) throw new Error(read.problem)
  return read
}
export const problemOf = (read: ReadDrawing) => ('problem' in read ? read.problem : 'none')
/** What was left out: how many of what, and why. */
export const left = (read: ReadDrawing) => drawing(read).left.map((l) => `${l.count} ${l.what} ${l.why}`)
/** The box about each thing found. */
export const boxes = (read: ReadDrawing) => drawing(read).lines.map((f) => rounded(boundsOf(f.contour)))
