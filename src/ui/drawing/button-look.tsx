import type { CapColour, Look } from '@/core/catalogue/part-kind'
import { EDGE } from './lens'

const caps: Record<CapColour, string> = { red: '#8c352f', grey: '#7d888c', black: '#15191b' }

/** A cap in its bezel, smaller while it is pressed in. */
export const ButtonLook = ({
  look,
  pressed,
}: {
  look: Extract<Look, { look: 'button' }>
  pressed: boolean
}) => (
  <g>
    <circle r={look.bezelMm / 2} fill="#2a3236" stroke={EDGE} strokeWidth={0.4} />
    <circle
      r={(look.capMm / 2) * (pressed ? 0.9 : 1)}
      fill={caps[look.colour]}
      stroke={EDGE}
      strokeWidth={pressed ? 0.8 : 0.3}
    />
  </g>
)
