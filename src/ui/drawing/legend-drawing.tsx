import { memo } from 'react'
import { pathData } from '@/core/geometry/path-data'
import { type EngravedMark, legendMarks } from '@/core/layout/legend-marks'
import { SPACING_MM } from '@/core/layout/lettering'
import type { LegendRow, PartRow } from '@/core/rig/rows'

/** A legend as it is engraved: the same words and lines that go to the cutter. */
export const LegendDrawing = memo(({ legend, part }: { legend: LegendRow; part: PartRow | undefined }) =>
  legendMarks(legend, part).map((mark, i) => <MarkDrawing key={i} mark={mark} />),
)

const MarkDrawing = ({ mark }: { mark: EngravedMark }) =>
  mark.is === 'line' ? (
    <path d={pathData(mark.contour)} fill="none" stroke="var(--legend)" strokeWidth={mark.widthMm} />
  ) : (
    <text
      transform={`translate(${mark.at.x} ${mark.at.y})${mark.deg === 0 ? '' : ` rotate(${mark.deg})`}`}
      fontSize={mark.sizeMm}
      fontFamily={mark.font === 'mono' ? 'IBM Plex Mono' : 'B612'}
      fontWeight={mark.font === 'bold' ? 700 : 400}
      textAnchor={mark.anchor}
      letterSpacing={SPACING_MM}
      fill="var(--legend)"
      style={{ fontKerning: 'none' }}
    >
      {mark.text}
    </text>
  )
