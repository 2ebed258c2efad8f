import { emptyRig, type Rig } from '../src/core/rig/rig'
import type { LegendRow, PanelRow, PartRow } from '../src/core/rig/rows'

export const plate: PanelRow = {
  id: 'plate',
  name: 'Plate',
  position: 1,
  widthMm: 200,
  heightMm: 100,
  cornerMm: 3,
  thicknessMm: 3,
  settings: { holes: [], material: 'acrylic' },
}

/** A part on the plate, called by its id. */
export const partAt = (
  id: string,
  kind: string,
  xMm: number,
  yMm: number,
  more: Partial<PartRow> = {},
): PartRow => ({ id, panelId: plate.id, name: id, kind, xMm, yMm, rotationDeg: 0, settings: {}, ...more })

export const legendAt = (
  id: string,
  text: string,
  xMm: number,
  yMm: number,
  partId: string | null = null,
): LegendRow => ({
  id,
  panelId: plate.id,
  partId,
  xMm,
  yMm,
  settings: { kind: 'text', text, sizeMm: 3, anchor: 'middle' },
})

const byId = <T extends { id: string }>(rows: readonly T[]): Record<string, T> =>
  Object.fromEntries(rows.map((r) => [r.id, r]))

/** A rig of one plate with what lies on it. */
export const plateRig = (
  parts: readonly PartRow[],
  legends: readonly LegendRow[] = [],
  panel: PanelRow = plate,
): Rig => ({ ...emptyRig(), panel: byId([panel]), part: byId(parts), legend: byId(legends) })
