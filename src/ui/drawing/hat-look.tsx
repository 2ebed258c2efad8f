import type { Look } from '@/core/catalogue/part-kind'
import { EDGE } from './lens'

/** Where the cap leans, by the words in its position. */
const leanOf = (position: string | null): readonly [x: number, y: number] => {
  const words = new Set((position ?? '').split(' '))
  return [
    Number(words.has('right')) - Number(words.has('left')),
    Number(words.has('down')) - Number(words.has('up')),
  ]
}

/** Eight ways, from the right clockwise as angles grow on a drawing. */
const ways = ['right', 'down right', 'down', 'down left', 'left', 'up left', 'up', 'up right'] as const

/** The side on which a cap is touched, from its middle. */
export const hatSide = ({ x, y }: { readonly x: number; readonly y: number }): string =>
  ways[(Math.round(Math.atan2(y, x) / (Math.PI / 4)) + 8) % 8] ?? 'up'

export const hatKeys: Readonly<Record<string, string>> = {
  ArrowUp: 'up',
  ArrowRight: 'right',
  ArrowDown: 'down',
  ArrowLeft: 'left',
}

/** A small cap in a ring, seen from above; it leans to the side to which it is pushed. */
export const HatLook = ({
  look,
  position,
}: {
  look: Extract<Look, { look: 'hat' }>
  position: string | null
}) => {
  const [x, y] = leanOf(position)
  const ring = look.bezelMm / 2
  const cap = look.capMm / 2
  const away = (ring - cap) * 0.6 * (x !== 0 && y !== 0 ? Math.SQRT1_2 : 1)
  return (
    <g>
      <circle r={ring} fill="#20272a" stroke={EDGE} strokeWidth={0.4} />
      <path
        d={[0, 90, 180, 270]
          .map((deg) => {
            const a = (deg * Math.PI) / 180
            return `M${(Math.cos(a) * ring * 0.84).toFixed(2)} ${(Math.sin(a) * ring * 0.84).toFixed(2)}L${(Math.cos(a) * ring * 0.96).toFixed(2)} ${(Math.sin(a) * ring * 0.96).toFixed(2)}`
          })
          .join('')}
        stroke="#b9c3c6"
        strokeWidth={0.5}
      />
      <g transform={`translate(${x * away} ${y * away})`}>
        <circle r={cap} fill="#4b565b" stroke={EDGE} strokeWidth={0.35} />
        <circle r={cap * 0.45} fill="#333d41" />
      </g>
    </g>
  )
}
