import { partKind } from '@/core/catalogue/parts'
import type { Point } from '@/core/geometry/contour'
import { keyOf } from '@/core/layout/things'
import { addRow, changeRow } from '@/core/rig/edit'
import { numbered } from '@/core/rig/numbered'
import { type Rig, rowsOf } from '@/core/rig/rig'
import type { LegendRow, PanelRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { pick, type Tool, useSurface } from '../surface/view-store'

const half = (mm: number): number => Math.round(mm * 2) / 2

const freshPartName = (rig: Rig, { kind, own }: Extract<Tool, { is: 'part' }>): string => {
  const word = (own?.name ?? partKind(kind)?.name ?? 'Part').split(',')[0] ?? 'Part'
  return numbered(word, new Set(rowsOf(rig, 'part').map((p) => p.name)))
}

const freshLegend: Record<'text' | 'frame' | 'line', LegendRow['settings']> = {
  text: { kind: 'text', text: 'LEGEND', sizeMm: 3, anchor: 'middle' },
  frame: { kind: 'frame', title: 'TITLE', sizeMm: 3, widthMm: 40, heightMm: 30 },
  line: { kind: 'line', dxMm: 20, dyMm: 0 },
}

/** Puts what the tool holds down at a place, and picks it; with `more` the tool stays in hand. */
export const place = (rig: Rig, panel: PanelRow, tool: Tool, at: Point, more: boolean): void => {
  const [xMm, yMm] = [half(at.x), half(at.y)]
  const id = crypto.randomUUID()
  if (!more) useSurface.setState({ tool: { is: 'pick' } })
  switch (tool.is) {
    case 'pick':
      return
    case 'part': {
      const name = freshPartName(rig, tool)
      const settings = tool.own ? { own: tool.own } : {}
      edit(`Put “${name}” on “${panel.name}”`, [
        addRow('part', {
          id,
          panelId: panel.id,
          name,
          kind: tool.kind,
          xMm,
          yMm,
          rotationDeg: 0,
          settings,
        }),
      ])
      pick(new Set([keyOf('part', id)]))
      return
    }
    case 'hole': {
      const holes = [...panel.settings.holes, { xMm, yMm, diameterMm: 4.2 }]
      edit(`Drilled a hole in “${panel.name}”`, [
        changeRow('panel', panel, { ...panel, settings: { ...panel.settings, holes } }),
      ])
      return
    }
    case 'element':
      return
    default:
      edit(`Put a ${tool.is === 'text' ? 'legend' : tool.is} on “${panel.name}”`, [
        addRow('legend', { id, panelId: panel.id, partId: null, xMm, yMm, settings: freshLegend[tool.is] }),
      ])
      pick(new Set([keyOf('legend', id)]))
  }
}
