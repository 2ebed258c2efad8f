import { memo } from 'react'
import { placedAt, transformed } from '@/core/geometry/matrix'
import { pathData } from '@/core/geometry/path-data'
import { type EngravedMark, legendMarks } from '@/core/layout/legend-marks'
import type { OutlineFace } from '@/core/lettering/face-names'
import { runsOf, SPACING_MM } from '@/core/lettering/lettering'
import { strokesOf } from '@/core/lettering/single-line'
import type { LegendRow, PartRow } from '@/core/rig/rows'

/** A legend as it is engraved: the same words and lines that go to the cutter. */
export const LegendDrawing = memo(({ legend, part }: { legend: LegendRow; part: PartRow | undefined }) =>
  legendMarks(legend, part).map((mark, i) => <MarkDrawing key={i} mark={mark} />),
)

const STROKE_MM = 0.3

const families: Record<OutlineFace, { readonly family: string; readonly weight: number }> = {
  b612: { family: 'B612', weight: 400 },
  'b612-bold': { family: 'B612', weight: 700 },
  'plex-mono': { family: 'IBM Plex Mono', weight: 400 },
  dejavu: { family: 'DejaVu Sans', weight: 400 },
  'dejavu-bold': { family: 'DejaVu Sans', weight: 700 },
  'dejavu-mono': { family: 'DejaVu Sans Mono', weight: 400 },
}

const MarkDrawing = ({ mark }: { mark: EngravedMark }) =>
  mark.is === 'lines' ? (
    <path
      d={mark.contours.map(pathData).join('')}
      fill="none"
      stroke="var(--legend)"
      strokeWidth={mark.widthMm}
    />
  ) : mark.font === 'single' ? (
    <Strokes mark={mark} />
  ) : (
    <Letters mark={mark} font={mark.font} />
  )

type TextMark = Extract<EngravedMark, { is: 'text' }>

const Letters = ({ mark, font }: { mark: TextMark; font: Exclude<TextMark['font'], 'single'> }) => (
  <text
    transform={`translate(${mark.at.x} ${mark.at.y})${mark.deg === 0 ? '' : ` rotate(${mark.deg})`}`}
    textAnchor={mark.anchor}
    letterSpacing={SPACING_MM}
    fill="var(--legend)"
    style={{ fontKerning: 'none', whiteSpace: 'pre' }}
  >
    {runsOf(mark.text, font).map((run, i) => (
      <tspan
        key={i}
        fontSize={mark.sizeMm * run.scale}
        fontFamily={families[run.face].family}
        fontWeight={families[run.face].weight}
      >
        {run.text}
      </tspan>
    ))}
  </text>
)

const Strokes = ({ mark }: { mark: TextMark }) => {
  const { contours, widthMm } = strokesOf(mark.text, mark.sizeMm, SPACING_MM)
  const shift = mark.anchor === 'start' ? 0 : mark.anchor === 'middle' ? -widthMm / 2 : -widthMm
  const there = placedAt(mark.at.x, mark.at.y, mark.deg)
  return (
    <path
      d={contours.map((c) => pathData(transformed(transformed(c, placedAt(shift, 0)), there))).join('')}
      fill="none"
      stroke="var(--legend)"
      strokeWidth={STROKE_MM}
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-label={mark.text}
    />
  )
}
