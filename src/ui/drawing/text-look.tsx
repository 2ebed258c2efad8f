import type { Look } from '@/core/catalogue/part-kind'
import type { AspectLive } from '@/core/live/feed'
import { EDGE } from './lens'

const CELL = { width: 3.55, height: 5.9 } as const

/** A text display: characters in their cells on a lit ground. */
export const TextLook = ({
  look,
  live,
  widthMm,
  heightMm,
}: {
  look: Extract<Look, { look: 'text' }>
  live: AspectLive | undefined
  widthMm: number
  heightMm: number
}) => {
  const state = String(live?.metered ?? live?.told ?? '')
  const lines = state.split('\n')
  const dark = state.trim() === ''
  const w = look.columns * CELL.width
  const h = look.rows * CELL.height
  const x0 = -w / 2
  const y0 = -h / 2
  return (
    <g data-shows={state}>
      <rect
        x={-widthMm / 2}
        y={-heightMm / 2}
        width={widthMm}
        height={heightMm}
        rx={0.8}
        fill="#0d1214"
        stroke={EDGE}
        strokeWidth={0.5}
      />
      <rect
        x={x0 - 2.4}
        y={y0 - 2.2}
        width={w + 4.8}
        height={h + 4.4}
        fill={dark ? '#12201d' : '#0e3d36'}
        stroke="#06110f"
        strokeWidth={0.3}
      />
      <g fontFamily="IBM Plex Mono" fontSize={4.9} fill="#b8f5df">
        {Array.from({ length: look.rows }, (_, row) => {
          const line = (lines[row] ?? '').padEnd(look.columns)
          return (
            <text
              key={row}
              x={Array.from(line, (_c, i) => x0 + i * CELL.width + 0.3).join(' ')}
              y={y0 + (row + 0.78) * CELL.height}
              xmlSpace="preserve"
            >
              {line.replaceAll('~', '→')}
            </text>
          )
        })}
      </g>
    </g>
  )
}
