import type { Look } from '@/core/catalogue/part-kind'
import { EDGE } from './lens'

/** The cover that has to be lifted: seen on edge behind the bat when open, round it when closed. */
const Guard = ({ open }: { open: boolean }) => (
  <g fill="#7a2d28" stroke={EDGE} strokeWidth={0.35}>
    <rect x={-8.5} y={-19} width={17} height={open ? 7 : 38} rx={1} />
    <path d="M-8.500-13.500h17" stroke="#b9c3c6" fill="none" />
  </g>
)

/** A bat that leans up or down out of its bush, or stands towards the eye in the middle. */
export const ToggleLook = ({
  look,
  lean,
}: {
  look: Extract<Look, { look: 'toggle' }>
  lean: 'up' | 'middle' | 'down'
}) => {
  const r = look.bushMm / 2
  return (
    <g>
      {look.guarded && <Guard open={lean === 'up'} />}
      <circle r={r} fill="#2a3236" stroke={EDGE} strokeWidth={0.4} />
      <circle r={r * 0.65} fill="#1a2124" />
      {lean === 'middle' ? (
        <circle r={2.5} fill="#b9c3c6" stroke={EDGE} strokeWidth={0.35} />
      ) : (
        <path
          d="M-1.8 0l.6-9.500a1.900 1.900 0 0 1 3.400 0l-.4 9.500z"
          transform={lean === 'up' ? undefined : 'scale(1 -1)'}
          fill="#b9c3c6"
          stroke={EDGE}
          strokeWidth={0.35}
        />
      )}
    </g>
  )
}
