import RBush from 'rbush'
import { type Box, boxOf } from '../../geometry/boxes'
import type { Point } from '../../geometry/contour'
import { overlap } from '../../geometry/rings'

/** Something that takes room on a panel, with its box for the index. */
export interface Region extends Box {
  readonly key: string
  readonly name: string
  readonly outline: readonly Point[]
}

export const region = (key: string, name: string, outline: readonly Point[]): Region => ({
  key,
  name,
  outline,
  ...boxOf(outline),
})

/** Whether two boxes share some area. */
export const meet = (a: Box, b: Box): boolean =>
  a.minX < b.maxX - 1e-6 && b.minX < a.maxX - 1e-6 && a.minY < b.maxY - 1e-6 && b.minY < a.maxY - 1e-6

export const indexed = <T extends Box>(items: readonly T[]): RBush<T> => new RBush<T>().load([...items])

/** What two boxes have in common. */
export const common = (a: Box, b: Box): Box => ({
  minX: Math.max(a.minX, b.minX),
  minY: Math.max(a.minY, b.minY),
  maxX: Math.min(a.maxX, b.maxX),
  maxY: Math.min(a.maxY, b.maxY),
})

/** Each pair of regions that share some area, once. */
export const pairs = (
  items: readonly Region[],
  tree: RBush<Region>,
  found: (a: Region, b: Region) => void,
): void => {
  const order = new Map(items.map((item, i) => [item, i]))
  for (const [i, a] of items.entries())
    for (const b of tree.search(a))
      if ((order.get(b) ?? 0) > i && meet(a, b) && overlap(a.outline, b.outline)) found(a, b)
}
