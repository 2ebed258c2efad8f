import { EDGE } from './lens'

const toPoint = (deg: number, r: number): string => {
  const a = ((deg - 90) * Math.PI) / 180
  return `${(r * Math.cos(a)).toFixed(2)} ${(r * Math.sin(a)).toFixed(2)}`
}

/** A milled ring seen from above; the notch turns with it. */
export const KnobRing = ({
  radiusMm,
  deg,
  ribs,
  raised,
}: {
  radiusMm: number
  deg: number
  ribs: number
  raised: boolean
}) => (
  <g>
    <circle r={radiusMm} fill={raised ? '#4b565b' : '#262e32'} stroke={EDGE} strokeWidth={0.4} />
    <g transform={`rotate(${deg})`}>
      <path
        d={Array.from({ length: ribs }, (_, i) => {
          const at = (i * 360) / ribs
          return `M${toPoint(at, radiusMm * 0.87)}L${toPoint(at, radiusMm * 0.99)}`
        }).join('')}
        stroke={raised ? '#20282b' : '#5d696e'}
        strokeWidth={0.45}
      />
      <path
        d={`M${toPoint(0, radiusMm * 0.5)}L${toPoint(0, radiusMm * 0.82)}`}
        stroke="#dfe5e2"
        strokeWidth={0.7}
      />
    </g>
  </g>
)

/** A pointer knob on a switch or pot, standing at an angle from straight up. */
export const PointerKnob = ({ radiusMm, deg }: { radiusMm: number; deg: number }) => (
  <g>
    <circle r={radiusMm} fill="#20272a" stroke={EDGE} strokeWidth={0.4} />
    <circle r={radiusMm * 0.78} fill="#333d41" stroke="#151b1d" strokeWidth={0.3} />
    <g transform={`rotate(${deg})`}>
      <path
        d={`M${-radiusMm * 0.2} ${radiusMm * 0.7}L${-radiusMm * 0.12} ${-radiusMm * 0.9}h${radiusMm * 0.24}L${radiusMm * 0.2} ${radiusMm * 0.7}z`}
        fill="#4b565b"
        stroke={EDGE}
        strokeWidth={0.25}
      />
      <path d={`M0 ${-radiusMm * 0.86}V${-radiusMm * 0.3}`} stroke="#f0f3ef" strokeWidth={0.6} />
    </g>
  </g>
)
