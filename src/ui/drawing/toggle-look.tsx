import type { Look } from '@/core/catalogue/part-kind'
import { EDGE } from './lens'

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
