import type { Look } from '@/core/catalogue/part-kind'
import type { AspectLive } from '@/core/live/feed'
import { readDigits } from '@/core/signal/digits'
import { segmentsOf } from '@/core/signal/segments'
import { EDGE } from './lens'

/** Segments a to g of a digit, as corners in a cell of 10 × 17. */
const segments = [
  'M2 1L8 1L7 2.6L3 2.6z',
  'M8.600 1.600L8.600 7.800L7.600 8.300L7.100 7.500L7.100 3.100z',
  'M7.600 8.700L8.600 9.200L8.600 15.400L7.100 13.900L7.100 9.500z',
  'M3 14.400L7 14.400L8 16L2 16z',
  'M1.400 9.200L2.400 8.700L2.900 9.500L2.900 13.900L1.400 15.400z',
  'M1.400 1.600L2.900 3.100L2.900 7.500L2.400 8.300L1.400 7.800z',
  'M2.900 7.800L7.100 7.800L7.500 8.500L7.100 9.200L2.900 9.200L2.500 8.500z',
] as const

/** How high a digit is in its cell. */
const HIGH = 15

const DARK = '#33251a'
const LIGHT = '#ffb65e'

/** Digits behind a dark window, as bright as they are driven. */
export const DigitsLook = ({
  look,
  live,
}: {
  look: Extract<Look, { look: 'digits' }>
  live: AspectLive | undefined
}) => {
  const state = String(live?.metered ?? live?.told ?? '0')
  const { brightness, digits } = readDigits(state)
  const [width, height] = look.glassMm
  const cell = look.digitMm
  const scale = look.highMm / HIGH
  const left = (-look.digits * cell) / 2 + (cell - 10 * scale) / 2
  return (
    <g data-shows={state.slice(1)}>
      <rect
        x={-width / 2}
        y={-height / 2}
        width={width}
        height={height}
        rx={0.8}
        fill="#140e0a"
        stroke={EDGE}
        strokeWidth={0.5}
      />
      {Array.from({ length: look.digits }, (_, i) => {
        const digit = digits[i]
        const on = segmentsOf(digit?.glyph ?? ' ')
        return (
          <g key={i} transform={`translate(${left + i * cell} ${-(17 * scale) / 2}) scale(${scale})`}>
            {segments.map((d, k) => {
              const shines = on.includes('abcdefg'[k] as string)
              return (
                <path
                  key={d}
                  d={d}
                  fill={shines ? LIGHT : DARK}
                  opacity={shines ? 0.35 + 0.65 * brightness : 1}
                />
              )
            })}
            <circle
              cx={10.1}
              cy={15.4}
              r={0.85}
              fill={digit?.point ? LIGHT : DARK}
              opacity={digit?.point ? 0.35 + 0.65 * brightness : 1}
            />
          </g>
        )
      })}
    </g>
  )
}
