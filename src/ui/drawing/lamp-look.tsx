import type { Look } from '@/core/catalogue/part-kind'
import type { PartLive } from '@/core/live/feed'
import { lampWords, unpackLamp } from '@/core/signal/lamp-state'
import { EDGE, lens } from './lens'

/** A lens that glows with the level on its pin, or with what was asked for where no pin can be metered. */
export const LampLook = ({
  look,
  live,
}: {
  look: Extract<Look, { look: 'lamp' }>
  live: PartLive | undefined
}) => {
  const colours = lens[look.colour]
  const asked = unpackLamp(live?.packed ?? 0)
  const metered = live?.level ?? null
  const strength = (metered ?? asked.level) / 255
  const r = look.lensMm / 2 + 0.6
  const blinksByItself = metered === null && asked.blinkHz > 0
  return (
    <g data-lit={strength > 0 ? 'true' : 'false'} data-shows={lampWords(live?.packed ?? 0)}>
      <circle r={r} fill={colours.out} stroke={EDGE} strokeWidth={0.5} />
      <g
        opacity={Math.sqrt(strength)}
        style={blinksByItself ? { animation: `blink ${1 / asked.blinkHz}s steps(1) infinite` } : undefined}
      >
        <circle r={r} fill={colours.lit} stroke={EDGE} strokeWidth={0.5} />
        <circle r={r * 1.37} fill="none" stroke={colours.glow} strokeWidth={0.35} />
      </g>
    </g>
  )
}
