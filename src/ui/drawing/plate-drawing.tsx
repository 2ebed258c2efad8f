import { memo } from 'react'
import { pathData } from '@/core/geometry/path-data'
import { outlineOf } from '@/core/layout/plate'
import type { PanelRow } from '@/core/rig/rows'

/** The bare plate: its edge, its mounting holes and imported openings. */
export const PlateDrawing = memo(({ panel }: { panel: PanelRow }) => (
  <>
    <path d={pathData(outlineOf(panel))} fill="var(--plate)" stroke="var(--ink)" strokeWidth={0.35} />
    {panel.settings.windows?.map((d) => (
      <path key={d} d={d} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={0.3} />
    ))}
    {panel.settings.holes.map((h) => (
      <g
        key={`${h.xMm} ${h.yMm}`}
        transform={`translate(${h.xMm} ${h.yMm})`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={0.3}
      >
        <circle r={h.diameterMm / 2} fill="var(--plate2)" />
        <path d="M-1.300 0h2.600M0-1.300v2.600" />
      </g>
    ))}
  </>
))
