import { EndType, inflatePathsD, JoinType } from 'clipper2-ts'
import type { Millimetres } from '../units-of-measure'
import type { Point } from './contour'
import { areaOf } from './rings'

/** Corners sharper than so many times the offset are cut off. */
const MITRE = 5
/** Decimals of a millimetre that are kept. */
const DECIMALS = 6

/**
 * A ring moved outwards by so much (inwards below zero), its corners mitred: what is left of it, the largest piece
 * first. Inwards it may fall into several, or vanish; outwards a bay may close and leave a hole, which is left out.
 */
export const offset = (ring: readonly Point[], by: Millimetres): Point[][] => {
  const outwards = areaOf(ring) > 0 ? [...ring] : [...ring].reverse()
  const moved = inflatePathsD([outwards], by, JoinType.Miter, EndType.Polygon, MITRE, DECIMALS)
  return moved
    .map((path) => path.map(({ x, y }) => ({ x, y })))
    .filter((path) => areaOf(path) > 0)
    .sort((a, b) => areaOf(b) - areaOf(a))
}
