import { scaleLinear } from 'd3'
import { useRef } from 'react'
import type { Note } from '@/core/calibration/note'
import { formatNumber } from '@/core/signal/format'
import { useWidth } from './use-width'

const LANE = 44
const LEFT = 64
const FOOT = 18

/**
 * Contacts as they came, one line each, closed above open, over the time of the last movement or so: what an ear would
 * hear as one click is seen with all its bounces.
 */
export const Edges = ({
  notes,
  names,
  spanUs,
}: {
  notes: readonly Note[]
  names: readonly string[]
  spanUs: number
}) => {
  const frame = useRef<HTMLDivElement>(null)
  const width = useWidth(frame, 320)
  const last = notes.at(-1)?.at ?? 0
  // The last movement begins a tenth from the left.
  const begin = lastBegin(notes, spanUs)
  const from = begin - spanUs / 10
  const to = from + spanUs
  const x = scaleLinear([from, to], [LEFT, width - 8])
  const height = names.length * LANE
  return (
    <div ref={frame}>
      <svg
        width={width}
        height={height + FOOT}
        role="img"
        aria-label={`Contact changes as they came: ${notes.length}`}
      >
        {names.map((name, bit) => (
          <g key={name} transform={`translate(0 ${bit * LANE})`}>
            <text x={0} y={LANE / 2 + 4} fontSize={12} fill="var(--ink2)">
              {name}
            </text>
            <path d={`M${LEFT} ${LANE - 8}H${width - 8}`} stroke="var(--hair)" />
            <path
              d={lineOf(notes, bit, x, from, Math.max(to, last))}
              fill="none"
              stroke="var(--accent)"
              strokeWidth={1.6}
            />
          </g>
        ))}
        {x.ticks(6).map((t) => (
          <g key={t} transform={`translate(${x(t)} ${height})`}>
            <path d="M0 -4v6" stroke="var(--ink3)" />
          </g>
        ))}
        <text x={LEFT} y={height + 15} fontSize={11} className="mono" fill="var(--ink2)">
          {formatNumber(spanUs / 1000)} ms from edge to edge
        </text>
      </svg>
    </div>
  )
}

/** Where the changes begin that lie within one span of each other, back from the last. */
const lastBegin = (notes: readonly Note[], spanUs: number): number => {
  const last = notes.at(-1)
  if (!last) return 0
  let begin = last.at
  for (let i = notes.length - 2; i >= 0; i--) {
    const { at } = notes[i] as Note
    if (last.at - at > spanUs * 0.85) break
    begin = at
  }
  return begin
}

const lineOf = (
  notes: readonly Note[],
  bit: number,
  x: (at: number) => number,
  from: number,
  to: number,
): string => {
  const y = (value: number) => ((value >> bit) & 1 ? 10 : LANE - 12)
  let first = notes.findIndex((n) => n.at >= from)
  if (first < 0) first = notes.length
  const before = notes[first - 1] ?? notes[0]
  let d = `M${x(from)} ${y(before?.value ?? 0)}`
  for (let i = first; i < notes.length; i++) {
    const n = notes[i] as Note
    if (n.at > to) break
    d += `H${x(n.at).toFixed(1)}V${y(n.value)}`
  }
  return `${d}H${x(to)}`
}
