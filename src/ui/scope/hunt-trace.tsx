import type { HuntGuess, HuntMark } from '@/core/live/feed'
import { TRACE_SAMPLES, TRACE_STEP_MS } from '@/core/scope/movements'

/** What is shown: as long as the hub keeps samples. */
export const SHOWN_MS = TRACE_SAMPLES * TRACE_STEP_MS

/** Where so long ago lies on a strip of this width. */
export const xOf = (ago: number, width: number): number => width - (ago / SHOWN_MS) * width

/** What is over so soon is a step, or a flag that comes and goes: samples are too far apart for it. */
const QUICK_MS = 600

/** From the moments at which it moved, each where it was: a flag that came back at once is a line up and down. */
const stepsPath = (
  { onsets, trace }: HuntGuess,
  width: number,
  yOf: (v: number) => number,
  from: number,
): string => {
  const first = onsets[0]?.[1] ?? 0
  let d = `M${Math.max(0, from).toFixed(1)} ${yOf(first).toFixed(1)}`
  const peak = Math.max(...trace.filter((v) => v !== null), ...onsets.flatMap(([, a, b]) => [a, b]))
  for (const [ago, a, b] of onsets) {
    const x = xOf(ago, width).toFixed(1)
    d += `L${x} ${yOf(a).toFixed(1)}`
    if (a === b) d += `L${x} ${yOf(peak === a ? a + 1 : peak).toFixed(1)}`
    d += `L${x} ${yOf(b).toFixed(1)}`
  }
  return `${d}L${width} ${yOf(onsets.at(-1)?.[2] ?? first).toFixed(1)}`
}

/** From sample to sample. */
const tracePath = ({ trace }: HuntGuess, from: number, step: number, yOf: (v: number) => number): string => {
  let d = ''
  let before: number | null = null
  for (const [i, v] of trace.entries()) {
    if (v !== null) d += `${before === null ? 'M' : 'L'}${(from + i * step).toFixed(1)} ${yOf(v).toFixed(1)}`
    before = v
  }
  return d
}

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
  const steps = onsets.length === guess.onsets.length && onsets.every(([, , , ms]) => ms < QUICK_MS)
  const d =
    steps && onsets.length > 0 ? stepsPath(guess, width, yOf, from) : tracePath(guess, from, step, yOf)
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
    </svg>
  )
}
