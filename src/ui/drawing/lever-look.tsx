import { useId } from 'react'
import type { Look } from '@/core/catalogue/part-kind'
import { EDGE } from './lens'
import { Slot } from './slot'

/** A slot with a round knob on a stem; `y` is where the knob is, in millimetres from the middle. */
export const LeverLook = ({ look, y }: { look: Extract<Look, { look: 'lever' }>; y: number }) => {
  const knob = look.knobMm / 2
  const shade = useId()
  return (
    <g>
      <radialGradient id={shade} cx=".38" cy=".32" r=".8">
        <stop offset="0" stopColor="#8b979c" />
        <stop offset="1" stopColor="#2c3438" />
      </radialGradient>
      <Slot widthMm={7} lengthMm={look.travelMm + 12} />
      <g transform={`translate(0 ${y})`}>
        <rect
          x={-2}
          y={-knob - 5}
          width={4}
          height={knob + 5}
          fill="#59656a"
          stroke={EDGE}
          strokeWidth={0.3}
        />
        <circle r={knob} fill={`url(#${shade})`} stroke={EDGE} strokeWidth={0.4} />
        <circle r={knob * 0.6} fill="none" stroke={EDGE} strokeWidth={0.5} />
        <circle r={knob * 0.21} fill={EDGE} />
      </g>
    </g>
  )
}
