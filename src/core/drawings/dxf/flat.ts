import type { Point } from '../../geometry/contour'
import type { Matrix } from '../../geometry/matrix'
import { unmoved } from '../../geometry/matrix'
import { type Entity, numberOf } from './groups'

/** Directions count as the same within this. */
const NEAR = 1e-6

/**
 * How a thing's own plane lies on the drawing's (DXF reference, "arbitrary axis algorithm"): as it is for an extrusion
 * of +Z, mirrored left to right for −Z; null for any other, which does not lie flat.
 */
export const planeOf = (e: Entity): Matrix | null => {
  const facing = facingOf(e)
  return facing === null ? null : facing === 1 ? unmoved : { ...unmoved, a: -1 }
}

/** Whether the extrusion of a thing is +Z or −Z; null where it is neither. */
export const facingOf = (e: Entity): 1 | -1 | null => {
  const [x, y, z] = [numberOf(e, 210, 0), numberOf(e, 220, 0), numberOf(e, 230, 1)]
  const long = Math.hypot(x, y, z)
  if (!(long > 0) || Math.hypot(x, y) > NEAR * long) return null
  return z > 0 ? 1 : -1
}

/** Whether all heights are one. */
export const isLevel = (heights: readonly number[]): boolean =>
  heights.every((z) => Math.abs(z - (heights[0] ?? 0)) < NEAR)

/** Points whose x has one code and whose y the one ten above, as they follow each other, with their heights. */
export const pointsOf = (e: Entity, code: number): { points: Point[]; heights: number[] } => {
  const points: { x: number; y: number }[] = []
  const heights: number[] = []
  for (const g of e.groups) {
    const last = points.at(-1)
    if (g.code === code) {
      points.push({ x: Number(g.value), y: 0 })
      heights.push(0)
    } else if (last && g.code === code + 10) last.y = Number(g.value)
    else if (last && g.code === code + 20) heights[heights.length - 1] = Number(g.value)
  }
  return { points, heights }
}

export const pointOf = (e: Entity, code: number): Point => ({
  x: numberOf(e, code, 0),
  y: numberOf(e, code + 10, 0),
})
