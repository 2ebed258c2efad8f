import type { CSSProperties } from 'react'
import type { Look } from '@/core/catalogue/part-kind'
import type { AspectLive } from '@/core/live/feed'
import { lampWords, unpackLamp } from '@/core/signal/lamp-state'
import { EDGE, lens } from './lens'

/** How strongly a lamp shines: by the level on its pin, or as was asked where no pin can be metered. */
export const glowOf = (
  live: AspectLive | undefined,
): { strength: number; style: CSSProperties | undefined; words: string } => {
  const packed = typeof live?.told === 'number' ? live.told : 0
  const metered = typeof live?.metered === 'number' ? live.metered : null
  const asked = unpackLamp(packed)
  const blinksByItself = metered === null && asked.blinkHz > 0
  return {
    strength: (metered ?? asked.level) / 255,
    style: blinksByItself ? { animation: `blink ${1 / asked.blinkHz}s steps(1) infinite` } : undefined,
    words: lampWords(packed),
  }
}

/** A dark field that glows as a whole. */
export const LegendLampLook = ({
  look,
  live,
}: {
  look: Extract<Look, { look: 'legend-lamp' }>
  live: AspectLive | undefined
}) => {
  const colours = lens[look.colour]
  const { strength, style, words } = glowOf(live)
  const { widthMm: w, heightMm: h } = look
  const field = { x: -w / 2, y: -h / 2, width: w, height: h, rx: 0.6 }
  return (
    <g data-lit={strength > 0 ? 'true' : 'false'} data-shows={words}>
      <rect
        x={-w / 2 - 0.75}
        y={-h / 2 - 0.75}
        width={w + 1.5}
        height={h + 1.5}
        rx={1}
        fill="#1a2124"
        stroke={EDGE}
        strokeWidth={0.4}
      />
      <rect {...field} fill={colours.out} />
      <rect
        {...field}
        fill={colours.lit}
        stroke={colours.glow}
        strokeWidth={0.35}
        opacity={Math.sqrt(strength)}
        style={style}
      />
    </g>
  )
}

/** A lens that glows. */
export const LampLook = ({
  look,
  live,
}: {
  look: Extract<Look, { look: 'lamp' }>
  live: AspectLive | undefined
}) => {
  const colours = lens[look.colour]
  const { strength, style, words } = glowOf(live)
  const r = look.lensMm / 2 + 0.6
  return (
    <g data-lit={strength > 0 ? 'true' : 'false'} data-shows={words}>
      <circle r={r} fill={colours.out} stroke={EDGE} strokeWidth={0.5} />
      <g opacity={Math.sqrt(strength)} style={style}>
        <circle r={r} fill={colours.lit} stroke={EDGE} strokeWidth={0.5} />
        <circle r={r * 1.37} fill="none" stroke={colours.glow} strokeWidth={0.35} />
      </g>
    </g>
  )
}
