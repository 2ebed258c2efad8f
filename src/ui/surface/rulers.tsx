import type { Surface } from '@/core/layout/things'
import { changeRow } from '@/core/rig/edit'
import { edit } from '../live/edits'
import type { View } from './view-store'

export const RULER_PX = 20

/** Distances between long ticks that read well, in millimetres or dots. */
const steps = [0.5, 1, 2, 5, 10, 20, 50, 100, 200]
const LEAST_PX = 42

const ticks = (from: number, pixels: number, scale: number): { at: number; long: boolean }[] => {
  const step = steps.find((s) => s * scale >= LEAST_PX) ?? 500
  const small = step / 5
  const first = Math.ceil(from / small)
  const last = Math.floor((from + pixels / scale) / small)
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => {
    const n = first + i
    return { at: Math.round(n * small * 1000) / 1000, long: n % 5 === 0 }
  })
}

interface Props {
  readonly view: View
  readonly room: { readonly width: number; readonly height: number }
  readonly on: Surface
}

/** Puts a guide on a panel or a screen. */
const putGuide = (on: Surface, axis: 'x' | 'y', at: number): void => {
  const words = `Put a guide at ${axis} = ${at} ${on.unit} on “${on.name}”`
  if (on.of === 'panel') {
    const { panel } = on
    const guides = [...(panel.settings.guides ?? []), { axis, atMm: at }]
    edit(words, [changeRow('panel', panel, { ...panel, settings: { ...panel.settings, guides } })])
  } else {
    const { screen } = on
    const guides = [...(screen.settings.guides ?? []), { axis, at }]
    edit(words, [changeRow('screen', screen, { ...screen, settings: { ...screen.settings, guides } })])
  }
}

/** Millimetres, or dots, along the top and the left side. A click on a ruler puts a guide there. */
export const Rulers = (props: Props) =>
  props.view.scale === 0 ? null : (
    <>
      <Ruler axis="x" {...props} />
      <Ruler axis="y" {...props} />
    </>
  )

/** One of the two; both grow away from their common corner. */
const Ruler = ({ axis, view, room, on }: Props & { axis: 'x' | 'y' }) => {
  const level = axis === 'x'
  const [from, pixels, length] = level ? [view.x, room.width, on.width] : [view.y, room.height, on.height]
  const size = level ? { width: pixels, height: RULER_PX } : { width: RULER_PX, height: pixels }
  const put = (e: React.MouseEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const at = from + (level ? e.clientX - box.left : e.clientY - box.top) / view.scale
    putGuide(on, axis, on.of === 'panel' ? Math.round(at * 2) / 2 : Math.round(at))
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
        width={level ? length * view.scale : RULER_PX}
        height={level ? RULER_PX : length * view.scale}
        fill="var(--accent-bg)"
      />
      {ticks(from, pixels, view.scale).map((t) => (
        <g key={t.at} transform={along((t.at - from) * view.scale)}>
          <path d={tick(t.long ? 7 : 4)} stroke="var(--ink3)" strokeWidth={1} />
          {t.long && (
            <text {...words} fontSize={10} fill="var(--ink2)" className="mono">
              {t.at}
            </text>
          )}
        </g>
      ))}
    </svg>
  )
}
