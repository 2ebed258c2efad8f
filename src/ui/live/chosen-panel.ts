import { panelsOf, type Rig } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { useStore } from './store'

/** The panel that is looked at: the chosen one, else that of the selected part, else the first. */
export const panelNow = (rig: Rig, chosen: string | null, selected: string | null): PanelRow | undefined =>
  rig.panel[chosen ?? ''] ?? rig.panel[rig.part[selected ?? '']?.panelId ?? ''] ?? panelsOf(rig)[0]

export const useChosenPanel = (): PanelRow | undefined =>
  useStore((s) => panelNow(s.rig, s.panelId, s.selected))
