import type { CapColour, Look } from '@/core/catalogue/part-kind'
import type { AspectLive } from '@/core/live/feed'
import { glowOf } from './lamp-look'
import { EDGE, lens } from './lens'

const caps: Record<CapColour, string> = { red: '#8c352f', grey: '#7d888c', black: '#15191b' }

/** A cap in its bezel, smaller while it is pressed in; with a field that lights where it has a lamp. */
export const ButtonLook = ({
  look,
  pressed,
  lamp,
}: {
  look: Extract<Look, { look: 'button' }>
  pressed: boolean
  lamp: AspectLive | undefined
}) => {
  const size = pressed ? 0.9 : 1
  const cap = look.capMm / 2
  return (
    <g>
      {look.light ? (
        <rect
          x={-look.bezelMm / 2}
          y={-look.bezelMm / 2}
          width={look.bezelMm}
          height={look.bezelMm}
          rx={1.2}
          fill="#2a3236"
          stroke={EDGE}
          strokeWidth={0.4}
        />
      ) : (
        <circle r={look.bezelMm / 2} fill="#2a3236" stroke={EDGE} strokeWidth={0.4} />
      )}
      <g transform={`scale(${size})`}>
        {look.light ? (
          <>
            <rect
              x={-cap}
              y={-cap}
              width={2 * cap}
              height={2 * cap}
              rx={0.8}
              fill={caps[look.colour]}
              stroke={EDGE}
              strokeWidth={pressed ? 0.8 : 0.3}
            />
            <LitField capMm={look.capMm} colour={look.light} lamp={lamp} />
          </>
        ) : (
          <circle r={cap} fill={caps[look.colour]} stroke={EDGE} strokeWidth={pressed ? 0.8 : 0.3} />
        )}
      </g>
    </g>
  )
}

const LitField = ({
  capMm,
  colour,
  lamp,
}: {
  capMm: number
  colour: keyof typeof lens
  lamp: AspectLive | undefined
}) => {
  const colours = lens[colour]
  const { strength, style, words } = glowOf(lamp)
  const w = capMm * 0.72
  const h = capMm * 0.3
  const box = { x: -w / 2, y: -h / 2, width: w, height: h, rx: 0.4 }
  return (
    <g data-lit={strength > 0 ? 'true' : 'false'} data-shows={words}>
      <rect {...box} fill={colours.out} stroke={EDGE} strokeWidth={0.25} />
      <g opacity={Math.sqrt(strength)} style={style}>
        <rect {...box} fill={colours.lit} />
        <rect
          x={-w / 2 - 0.7}
          y={-h / 2 - 0.7}
          width={w + 1.4}
          height={h + 1.4}
          rx={0.8}
          fill="none"
          stroke={colours.glow}
          strokeWidth={0.3}
        />
      </g>
    </g>
  )
}
