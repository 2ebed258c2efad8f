import { memo } from 'react'
import { kindOf } from '@/core/catalogue/own-kind'
import { pathData } from '@/core/geometry/path-data'
import { drilledContour, holesOf, placeOf } from '@/core/layout/plate'
import { partsOf, type Rig } from '@/core/rig/rig'
import type { PanelRow, PartRow } from '@/core/rig/rows'

/** What is behind the plate as if it were glass: bodies dashed with their depth, holes, screws. */
export const BehindDrawing = memo(({ rig, panel }: { rig: Rig; panel: PanelRow }) => (
  <g>
    {partsOf(rig, panel.id).map((part) => (
      <Behind key={part.id} part={part} />
    ))}
  </g>
))

/** One part's holes and body. */
export const Behind = ({ part }: { part: PartRow }) => {
  const mount = kindOf(part)?.mount
  if (!mount) return null
  const { body, standoffMm } = mount
  const { contours, drilled } = holesOf(mount, placeOf(part))
  return (
    <g fill="none" strokeWidth={0.3}>
      {contours.map((c) => (
        <path key={pathData(c)} d={pathData(c)} stroke="#8fd0e6" />
      ))}
      {drilled.map((h) => (
        <path key={pathData(drilledContour(h))} d={pathData(drilledContour(h))} stroke="#8fd0e6" />
      ))}
      <g transform={`translate(${part.xMm} ${part.yMm}) rotate(${part.rotationDeg})`}>
        <rect
          x={-body.widthMm / 2 + (body.xMm ?? 0)}
          y={-body.heightMm / 2 + (body.yMm ?? 0)}
          width={body.widthMm}
          height={body.heightMm}
          stroke="#e8d9b0"
          strokeDasharray="1.200 .8"
        />
        <text
          x={body.widthMm / 2 - 0.6}
          y={body.heightMm / 2 - 0.6}
          fontSize={2.2}
          textAnchor="end"
          fill="#e8d9b0"
          stroke="none"
        >
          {standoffMm + body.depthMm}
        </text>
      </g>
    </g>
  )
}
