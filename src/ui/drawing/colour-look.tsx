import type { AspectLive } from '@/core/live/feed'
import { asMeant, type ColourOrder, onScreen, readColours } from '@/core/signal/colours'
import { EDGE } from './lens'

/** One RGB lamp or a row of them, in the colours they are told. */
export const ColourLook = ({
  lamps,
  pitchMm,
  radiusMm,
  order,
  live,
}: {
  lamps: number
  pitchMm: number
  radiusMm: number
  /** In which order it takes its colours: what it is told is turned round for that. */
  order: ColourOrder | undefined
  live: AspectLive | undefined
}) => {
  const seen = live?.metered ?? asMeant(String(live?.told ?? '\0'), order)
  const state = readColours(String(seen))
  const blink = state.blinkHz > 0 ? { animation: `blink ${1 / state.blinkHz}s steps(1) infinite` } : undefined
  return (
    <g data-shows={state.lamps.join(' ')}>
      {Array.from({ length: lamps }, (_, i) => {
        const colour = state.lamps[i] ?? '#000000'
        return (
          <g key={i} transform={`translate(${(i - (lamps - 1) / 2) * pitchMm} 0)`}>
            <circle r={radiusMm} fill="#2a2f31" stroke={EDGE} strokeWidth={0.4} />
            {colour !== '#000000' && <circle r={radiusMm} fill={onScreen(colour)} style={blink} />}
          </g>
        )
      })}
    </g>
  )
}
