import { scaleLinear, scaleLog } from 'd3'
import { histogram } from '@/core/calibration/threshold'

const HEIGHT = 92
const FOOT = 18

/** How often something was seen in each stretch of equal ratio, with the border between two kinds of it. */
export const Bars = ({
  label,
  unit,
  values,
  from,
  to,
  ticks,
  border,
  borderWords,
  width = 300,
}: {
  label: string
  unit: string
  values: readonly number[]
  from: number
  to: number
  ticks: readonly number[]
  border: number | null
  borderWords: string
  width?: number
}) => {
  const stretches = 30
  const counts = histogram(values, from, to, stretches)
  const x = scaleLog([from, to], [0, width])
  const y = scaleLinear([0, Math.max(4, ...counts)], [HEIGHT, 20])
  const bar = width / stretches
  return (
    <figure className="m-0">
      <figcaption className="text-[12px] text-ink2">
        {label}, {unit}
      </figcaption>
      <svg width={width} height={HEIGHT + FOOT} role="img" aria-label={`${label}: ${values.length} seen`}>
        <path d={`M0 ${HEIGHT}H${width}`} stroke="var(--line)" />
        {counts.map((n, i) =>
          n === 0 ? null : (
            <rect
              key={i}
              x={i * bar + 0.5}
              y={y(n)}
              width={bar - 1}
              height={HEIGHT - y(n)}
              fill="var(--accent)"
              opacity={0.7}
            />
          ),
        )}
        {ticks.map((t) => (
          <g key={t} transform={`translate(${x(t)} ${HEIGHT})`}>
            <path d="M0 0v4" stroke="var(--ink3)" />
            <text
              y={15}
              fontSize={11}
              textAnchor={t === from ? 'start' : t === to ? 'end' : 'middle'}
              className="mono"
              fill="var(--ink2)"
            >
              {t}
            </text>
          </g>
        ))}
        {border !== null && border > from && border < to && (
          <g transform={`translate(${x(border)} 0)`}>
            <path d={`M0 0V${HEIGHT}`} stroke="var(--warn)" strokeWidth={1.5} strokeDasharray="4 3" />
            <text
              x={x(border) > width / 2 ? -5 : 5}
              y={11}
              fontSize={11}
              textAnchor={x(border) > width / 2 ? 'end' : 'start'}
              fill="var(--warn)"
            >
              {borderWords}
            </text>
          </g>
        )}
      </svg>
    </figure>
  )
}
