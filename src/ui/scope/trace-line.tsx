import { ROW_SAMPLES } from '@/core/scope/movements'

/** The last twenty seconds of a value, as high as it went; one that stands still is a line in the middle. */
export const TraceLine = ({
  trace,
  width,
  height,
  fills = false,
}: {
  trace: readonly (number | null)[]
  width: number
  height: number
  /** As wide as there is room, instead of its width. */
  fills?: boolean
}) => {
  const numbers = trace.filter((v) => v !== null)
  if (numbers.length < 2) return <svg width={fills ? '100%' : width} height={height} aria-hidden="true" />
  const least = Math.min(...numbers)
  const most = Math.max(...numbers)
  // Now is at the right edge, however short the trace is yet.
  const step = width / (ROW_SAMPLES - 1)
  const from = width - (trace.length - 1) * step
  const yOf = (v: number) =>
    most === least ? height / 2 : height - 2 - ((v - least) / (most - least)) * (height - 4)
  let d = ''
  let pen = false
  for (const [i, v] of trace.entries()) {
    if (v === null) {
      pen = false
      continue
    }
    d += `${pen ? 'L' : 'M'}${(from + i * step).toFixed(1)} ${yOf(v).toFixed(1)}`
    pen = true
  }
  return (
    <svg
      width={fills ? '100%' : width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      preserveAspectRatio="none"
      aria-hidden="true"
      className="block"
    >
      <path
        d={d}
        fill="none"
        stroke={most === least ? 'var(--line)' : 'var(--accent)'}
        strokeWidth={1.25}
        vectorEffect="non-scaling-stroke"
        strokeLinejoin="round"
      />
    </svg>
  )
}
