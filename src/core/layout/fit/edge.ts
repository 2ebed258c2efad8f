import type { Box } from '../../geometry/boxes'
import type { Point } from '../../geometry/contour'
import { gapBetween, isInside } from '../../geometry/rings'
import type { PanelRow } from '../../rig/rows'
import type { Region } from './regions'

/** A quick yes for most: within a plain rectangle, and in none of its round corners. */
export const isClearOfEdge = (panel: PanelRow, b: Box): boolean => {
  const { widthMm: w, heightMm: h, cornerMm: r } = panel
  if (panel.settings.outline !== undefined || b.minX < 0 || b.minY < 0 || b.maxX > w || b.maxY > h)
    return false
  return (b.minX >= r && b.maxX <= w - r) || (b.minY >= r && b.maxY <= h - r)
}

/** Whether a region lies within the edge, on it at the most. */
export const touches = (f: Region, edge: readonly Point[]): boolean =>
  f.outline.every((p) => isInside(p, edge) || gapBetween([p], edge) < 1e-6)
