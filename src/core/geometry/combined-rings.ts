import { booleanOpD, ClipType, FillRule } from 'clipper2-ts'
import type { Point } from './contour'
import { areaOf } from './rings'

/** Decimals of a millimetre that are kept. */
const DECIMALS = 6

const combine = (how: ClipType, first: readonly Point[], second: readonly Point[]): Point[][] =>
  booleanOpD(how, [[...first]], [[...second]], FillRule.EvenOdd, DECIMALS)
    .map((path) => path.map(({ x, y }) => ({ x, y })))
    .filter((path) => areaOf(path) > 0)
    .sort((a, b) => areaOf(b) - areaOf(a))

/** What two rings cover together, the largest piece first; holes that are left between them are filled. */
export const united = (first: readonly Point[], second: readonly Point[]): Point[][] =>
  combine(ClipType.Union, first, second)

/** What is left of the first ring without the second, the largest piece first. */
export const without = (first: readonly Point[], second: readonly Point[]): Point[][] =>
  combine(ClipType.Difference, first, second)
