import { type Box, boxOf } from '../../geometry/boxes'
import type { Contour, Point } from '../../geometry/contour'
import { flattened } from '../../geometry/flatten'
import { areaOf, gapBetween, isInside } from '../../geometry/rings'

/** Lying on a frame's own line is not being cut off by it; a share of the frame's size. */
const ON_LINE = 1e-4

/** A region outside of which nothing is seen, in the numbers of the whole drawing. */
export interface Clip {
  readonly rings: readonly (readonly Point[])[]
}

/** Whether a contour is seen whole through all of the clips. */
export const isWhole = (c: Contour, clips: readonly Clip[]): boolean => {
  if (clips.length === 0) return true
  const ring = flattened(c, 0.01)
  return clips.every((clip) => clip.rings.some((r) => holds(r, ring)))
}

const holds = (outer: readonly Point[], inner: readonly Point[]): boolean => {
  const [o, i] = [boxOf(outer), boxOf(inner)]
  const slack = ON_LINE * Math.max(o.maxX - o.minX, o.maxY - o.minY)
  if (!within(i, o, slack)) return false
  if (isBox(outer, o)) return true
  return inner.every((p) => isInside(p, outer) || gapBetween([p], outer) <= slack)
}

const within = (i: Box, o: Box, slack: number): boolean =>
  i.minX >= o.minX - slack && i.minY >= o.minY - slack && i.maxX <= o.maxX + slack && i.maxY <= o.maxY + slack

/** Whether a ring is just its own box. */
const isBox = (ring: readonly Point[], box: Box): boolean => {
  const area = (box.maxX - box.minX) * (box.maxY - box.minY)
  return Math.abs(Math.abs(areaOf(ring)) - area) < 1e-6 * area
}
