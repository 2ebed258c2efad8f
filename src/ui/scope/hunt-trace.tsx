import type { HuntGuess, HuntMark } from '@/core/live/feed'
import { TRACE_SAMPLES, TRACE_STEP_MS } from '@/core/scope/movements'

/** What is shown: as long as the hub keeps samples. */
export const SHOWN_MS = TRACE_SAMPLES * TRACE_STEP_MS

/** Where so long ago lies on a strip of this width. */
export const xOf = (ago: number, width: number): number => width - (ago / SHOWN_MS) * width

/** A value over the last forty seconds, with the marks through it; now is at the right edge. */
export const HuntTrace = ({
  guess,
  marks,
  width,
  height,
  strong,
}: {
  guess: HuntGuess
  marks: readonly HuntMark[]
  width: number
  height: number
  strong: boolean
}) => {
  const onsets = guess.onsets.filter(([ago]) => ago < SHOWN_MS)
  const values = [...guess.trace.filter((v) => v !== null), ...onsets.flatMap(([, from, to]) => [from, to])]
  const least = Math.min(...values)
  const most = Math.max(...values)
  const yOf = (v: number) =>
    most === least ? height / 2 : height - 6 - ((v - least) / (most - least)) * (height - 12)
  const step = width / TRACE_SAMPLES
  const from = width - (guess.trace.length - 1) * step
  let d = ''
  let before: number | null = null
  for (const [i, v] of guess.trace.entries()) {
    const x = (from + i * step).toFixed(1)
    // From sample to sample it stood where it was, and then was there.
    if (v !== null)
      d +=
        before === null
          ? `M${x} ${yOf(v).toFixed(1)}`
          : `L${x} ${yOf(before).toFixed(1)}L${x} ${yOf(v).toFixed(1)}`
    before = v
  }
  return (
    <svg width={width} height={height} aria-hidden="true" className="block">
      {marks.map((m) => {
        const x = xOf(m.ago, width)
        return x < 0 ? null : (
          <path
            key={m.ago}
            d={`M${x} 0V${height}`}
            stroke="var(--warn)"
            strokeWidth={1}
            strokeDasharray="3 2"
          />
        )
      })}
      <path
        d={d}
        fill="none"
        stroke={strong ? 'var(--accent)' : 'var(--ink3)'}
        strokeWidth={strong ? 1.75 : 1.25}
      />
      {onsets.map(([ago, a, b]) => (
        // What is quicker than the samples shows all the same.
        <path
          key={ago}
          d={`M${xOf(ago, width)} ${yOf(a)}V${yOf(b)}`}
          stroke={strong ? 'var(--accent)' : 'var(--ink3)'}
          strokeWidth={2.5}
        />
      ))}
    </svg>
  )
}
