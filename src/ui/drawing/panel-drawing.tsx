'use client'
import { useEffect, useRef, useState } from 'react'
import { legendsOf } from '@/core/layout/things'
import { partsOf, type Rig } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'
import { PlateDrawing } from './plate-drawing'
import { PlateThings } from './plate-things'

interface Props {
  readonly rig: Rig
  readonly panel: PanelRow
  readonly selected: string | null
  readonly operable: boolean
  /** A line above the plate with its width. */
  readonly measured: boolean
  /** The most pixels a millimetre may take. */
  readonly mostScale: number
}

const MARGIN_MM = 3

/** A panel in millimetres, as large as its place allows, with all its parts alive. */
export const PanelDrawing = ({ rig, panel, selected, operable, measured, mostScale }: Props) => {
  const box = useRef<HTMLDivElement>(null)
  const [room, setRoom] = useState<{ width: number; height: number } | null>(null)
  useEffect(() => {
    const element = box.current
    if (!element) return
    const seen = new ResizeObserver(() =>
      setRoom({ width: element.clientWidth, height: element.clientHeight }),
    )
    seen.observe(element)
    return () => seen.disconnect()
  }, [])
  const above = measured ? 8 : MARGIN_MM
  const width = panel.widthMm + 2 * MARGIN_MM
  const height = panel.heightMm + above + MARGIN_MM
  const scale = room ? Math.min(mostScale, room.width / width, room.height / height) : 0
  return (
    <div ref={box} className="h-full w-full min-h-0 min-w-0">
      {scale > 0 && (
        <svg
          width={width * scale}
          height={height * scale}
          viewBox={`${-MARGIN_MM} ${-above} ${width} ${height}`}
          aria-label={`Panel ${panel.name}`}
          style={{ fontFamily: 'B612' }}
        >
          {measured && <Measure widthMm={panel.widthMm} />}
          <PlateDrawing panel={panel} />
          <PlateThings
            rig={rig}
            legends={legendsOf(rig, panel.id)}
            parts={partsOf(rig, panel.id)}
            selected={selected}
            operable={operable}
          />
        </svg>
      )}
    </div>
  )
}

const Measure = ({ widthMm }: { widthMm: number }) => (
  <g stroke="var(--ink3)" strokeWidth={0.2} fontSize={3} fill="var(--ink3)">
    <path
      d={`M0-3.500H${widthMm / 2 - 8}M${widthMm / 2 + 8}-3.500H${widthMm}M0-4.600v2.200M${widthMm}-4.600v2.200`}
      fill="none"
    />
    <text x={widthMm / 2} y={-2.5} textAnchor="middle" stroke="none">
      {formatNumber(widthMm)} mm
    </text>
  </g>
)
