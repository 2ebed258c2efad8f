import type { PanelRow } from '../rig/rows'
import type { Millimetres } from '../units-of-measure'

/** So close to two edges a hole is one of a corner, as a share of the plate. */
const CORNER_SHARE = 0.2

const moved = (at: Millimetres, before: Millimetres, after: Millimetres): Millimetres | null => {
  if (at <= before * CORNER_SHARE) return at
  return at >= before * (1 - CORNER_SHARE) ? Number((at + after - before).toFixed(3)) : null
}

/** What changes when a plate is given other measures: holes in its corners keep their distance from the edges. */
export const resized = (
  panel: PanelRow,
  to: Partial<Pick<PanelRow, 'widthMm' | 'heightMm' | 'cornerMm' | 'thicknessMm'>>,
): Partial<PanelRow> => {
  const widthMm = to.widthMm ?? panel.widthMm
  const heightMm = to.heightMm ?? panel.heightMm
  if (widthMm === panel.widthMm && heightMm === panel.heightMm) return to
  const holes = panel.settings.holes.map((hole) => {
    const xMm = moved(hole.xMm, panel.widthMm, widthMm)
    const yMm = moved(hole.yMm, panel.heightMm, heightMm)
    return xMm === null || yMm === null ? hole : { ...hole, xMm, yMm }
  })
  return { ...to, settings: { ...panel.settings, holes } }
}
