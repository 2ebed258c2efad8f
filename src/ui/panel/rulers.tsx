import { changeRow } from '@/core/rig/edit'
import type { PanelRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import type { View } from './view-store'

export const RULER_PX = 20

/** Distances between ticks that read well, in millimetres. */
const steps = [0.5, 1, 2, 5, 10, 20, 50, 100, 200]
const LEAST_PX = 42

const ticks = (from: number, length: number, scale: number): { mm: number; long: boolean }[] => {
  const step = steps.find((s) => s * scale >= LEAST_PX) ?? 500
  const small = step / 5
  const first = Math.ceil(from / small)
  return Array.from(
    { length: Math.max(0, Math.floor((from + length / scale) / small) - first + 1) },
    (_, i) => {
      const n = first + i
      return { mm: Math.round(n * small * 1000) / 1000, long: n % 5 === 0 }
    },
  )
}

/** Millimetres along the top and the left side. A click on a ruler puts a guide there. */
export const Rulers = ({
  view,
  room,
  panel,
}: {
  view: View
  room: { width: number; height: number }
  panel: PanelRow
}) => {
  if (view.scale === 0) return null
  const put = (axis: 'x' | 'y', mm: number) => {
    const atMm = Math.round(mm * 2) / 2
    const guides = [...(panel.settings.guides ?? []), { axis, atMm }]
    edit(`Put a guide at ${axis} = ${atMm} mm on “${panel.name}”`, [
      changeRow('panel', panel, { ...panel, settings: { ...panel.settings, guides } }),
    ])
  }
  return (
    <>
      <svg
        className="absolute top-0 border-b border-line"
        style={{ left: RULER_PX, cursor: 'pointer' }}
        width={room.width}
        height={RULER_PX}
        aria-hidden="true"
        onClick={(e) => {
          const { left } = e.currentTarget.getBoundingClientRect()
          put('x', view.x + (e.clientX - left) / view.scale)
        }}
      >
        <rect
          x={-view.x * view.scale}
          width={panel.widthMm * view.scale}
          height={RULER_PX}
          fill="var(--accent-bg)"
        />
        {ticks(view.x, room.width, view.scale).map(({ mm, long }) => {
          const x = (mm - view.x) * view.scale
          return (
            <g key={mm} transform={`translate(${x} 0)`}>
              <path d={`M0 ${RULER_PX}v${long ? -7 : -4}`} stroke="var(--ink3)" strokeWidth={1} />
              {long && (
                <text x={3} y={10} fontSize={10} fill="var(--ink2)" className="mono">
                  {mm}
                </text>
              )}
            </g>
          )
        })}
      </svg>
      <svg
        className="absolute left-0 border-r border-line"
        style={{ top: RULER_PX, cursor: 'pointer' }}
        width={RULER_PX}
        height={room.height}
        aria-hidden="true"
        onClick={(e) => {
          const { top } = e.currentTarget.getBoundingClientRect()
          put('y', view.y + (e.clientY - top) / view.scale)
        }}
      >
        <rect
          y={-view.y * view.scale}
          width={RULER_PX}
          height={panel.heightMm * view.scale}
          fill="var(--accent-bg)"
        />
        {ticks(view.y, room.height, view.scale).map(({ mm, long }) => {
          const y = (mm - view.y) * view.scale
          return (
            <g key={mm} transform={`translate(0 ${y})`}>
              <path d={`M${RULER_PX} 0h${long ? -7 : -4}`} stroke="var(--ink3)" strokeWidth={1} />
              {long && (
                <text
                  transform="translate(9 3) rotate(-90)"
                  textAnchor="end"
                  fontSize={10}
                  fill="var(--ink2)"
                  className="mono"
                  dx={-2}
                >
                  {mm}
                </text>
              )}
            </g>
          )
        })}
      </svg>
    </>
  )
}
