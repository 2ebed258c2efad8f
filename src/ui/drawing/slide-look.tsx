import type { Look } from '@/core/catalogue/part-kind'
import { EDGE } from './lens'
import { Slot } from './slot'

/** A slot with a broad cap; `place` is 0 at the near end and 1 at the far one. */
export const SlideLook = ({ look, place }: { look: Extract<Look, { look: 'slide' }>; place: number }) => {
  const half = look.slotMm / 2
  const y = half - place * look.slotMm
  const w = look.capMm
  return (
    <g>
      <Slot widthMm={3.2} lengthMm={look.slotMm + 8} />
      <g transform={`translate(0 ${y})`}>
        <rect
          x={-w / 2}
          y={-6}
          width={w}
          height={12}
          rx={1.5}
          fill="#59656a"
          stroke={EDGE}
          strokeWidth={0.4}
        />
        <path
          d={`M${-w / 2 + 1.5} -3.500h${w - 3}M${-w / 2 + 1.5} 3.500h${w - 3}`}
          stroke="#3a4448"
          strokeWidth={0.6}
        />
        <path d={`M${-w / 2} 0h${w}`} stroke="#eef1ec" strokeWidth={0.8} />
      </g>
    </g>
  )
}
