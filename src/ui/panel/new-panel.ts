import { addRow } from '@/core/rig/edit'
import { numbered } from '@/core/rig/numbered'
import type { PanelRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { useSurface } from '../surface/view-store'

const HOLE_IN_MM = 6

/** Mounting holes in the four corners, so far in from the edges. */
export const cornerHoles = (widthMm: number, heightMm: number, inMm = HOLE_IN_MM, diameterMm = 4.2) =>
  [inMm, widthMm - inMm].flatMap((xMm) => [inMm, heightMm - inMm].map((yMm) => ({ xMm, yMm, diameterMm })))

/** Sizes of plates that are begun with, in millimetres; any other is typed under Plate. */
export const plateSizes = [
  [160, 100],
  [100, 80],
  [146, 66],
  [200, 120],
  [240, 120],
  [300, 200],
  [480, 200],
] as const
export type PlateSize = (typeof plateSizes)[number]

/** An empty plate, shown at once. */
export const newPanel = (
  panels: readonly PanelRow[],
  [widthMm, heightMm]: PlateSize = plateSizes[0],
): void => {
  const name = numbered('Panel', new Set(panels.map((p) => p.name)), panels.length + 1)
  const id = crypto.randomUUID()
  const position = Math.max(0, ...panels.map((p) => p.position)) + 1
  edit(`Began “${name}”`, [
    addRow('panel', {
      id,
      name,
      position,
      widthMm,
      heightMm,
      cornerMm: 3,
      thicknessMm: 3,
      settings: { holes: cornerHoles(widthMm, heightMm), material: 'acrylic' },
    }),
  ])
  useStore.setState({ panelId: id })
  useSurface.setState({ picked: new Set(), drawer: 'plate' })
}
