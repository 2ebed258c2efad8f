import { changeRow } from '@/core/rig/edit'
import type { PanelRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import type { View } from './view-store'

export const RULER_PX = 20

/** Distances between long ticks that read well, in millimetres. */
const steps = [0.5, 1, 2, 5, 10, 20, 50, 100, 200]
const LEAST_PX = 42

const ticks = (from: number, pixels: number, scale: number): { mm: number; long: boolean }[] => {
  const step = steps.find((s) => s * scale >= LEAST_PX) ?? 500
  const small = step / 5
  const first = Math.ceil(from / small)
  const last = Math.floor((from + pixels / scale) / small)
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => {
    const n = first + i
    return { mm: Math.round(n * small * 1000) / 1000, long: n % 5 === 0 }
  })
}

interface Props {
  readonly view: View
  readonly room: { readonly width: number; readonly height: number }
  readonly panel: PanelRow
}

/** Millimetres along the top and the left side. A click on a ruler puts a guide there. */
export const Rulers = (props: Props) =>
  props.view.scale === 0 ? null : (
    <>
      <Ruler axis="x" {...props} />
      <Ruler axis="y" {...props} />
    </>
  )

/** One of the two; both grow away from their common corner. */
const Ruler = ({ axis, view, room, panel }: Props & { axis: 'x' | 'y' }) => {
  const level = axis === 'x'
  const [from, pixels, mm] = level
    ? [view.x, room.width, panel.widthMm]
    : [view.y, room.height, panel.heightMm]
  const size = level ? { width: pixels, height: RULER_PX } : { width: RULER_PX, height: pixels }
  const put = (e: React.MouseEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const at = from + (level ? e.clientX - box.left : e.clientY - box.top) / view.scale
    const atMm = Math.round(at * 2) / 2
    const guides = [...(panel.settings.guides ?? []), { axis, atMm }]
    edit(`Put a guide at ${axis} = ${atMm} mm on “${panel.name}”`, [
      changeRow('panel', panel, { ...panel, settings: { ...panel.settings, guides } }),
    ])
  }
  const along = (px: number) => (level ? `translate(${px} 0)` : `translate(0 ${px})`)
  const tick = (long: number) => (level ? `M0 ${RULER_PX}v${-long}` : `M${RULER_PX} 0h${-long}`)
  const words = level
    ? { x: 3, y: 10 }
    : ({ transform: 'translate(9 3) rotate(-90)', textAnchor: 'end' } as const)
  return (
    <svg
      className={`absolute cursor-pointer border-line ${level ? 'top-0 border-b' : 'left-0 border-r'}`}
      style={level ? { left: RULER_PX } : { top: RULER_PX }}
      {...size}
      aria-hidden="true"
      onClick={put}
    >
      <rect
        transform={along(-from * view.scale)}
        width={level ? mm * view.scale : RULER_PX}
        height={level ? RULER_PX : mm * view.scale}
        fill="var(--accent-bg)"
      />
      {ticks(from, pixels, view.scale).map((t) => (
        <g key={t.mm} transform={along((t.mm - from) * view.scale)}>
          <path d={tick(t.long ? 7 : 4)} stroke="var(--ink3)" strokeWidth={1} />
          {t.long && (
            <text {...words} fontSize={10} fill="var(--ink2)" className="mono">
              {t.mm}
            </text>
          )}
        </g>
      ))}
    </svg>
  )
}
