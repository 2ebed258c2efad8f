import { alongCurve, type CurvePoint } from '../signal/curve'

/** Two levers in one place each, moved together: places of their travel, 0 to 1, at the same moments. */
export interface Pair {
  readonly mine: number
  readonly twins: number
}

/** How far two levers are apart at most, and how far they still are when one follows a curve. */
export interface Match {
  readonly apart: number
  readonly still: number
  /** From one's own place to its twin's, rising in both; ends stay ends. */
  readonly curve: readonly CurvePoint[]
}

const KNOTS = 17
const round = (x: number): number => Number(x.toFixed(4))

/**
 * The curve that makes one lever give what its twin gives at the same place of the hand: means of the twin's place round
 * evenly spaced places of its own, made to rise (pool adjacent violators, Ayer et al., 1955). Null where they were not
 * moved together through most of the travel.
 */
export const matchOf = (pairs: readonly Pair[]): Match | null => {
  const sums = Array.from({ length: KNOTS }, () => ({ n: 0, sum: 0, own: 0 }))
  for (const { mine, twins } of pairs) {
    const s = sums[Math.round(mine * (KNOTS - 1))]
    if (!s) continue
    s.n++
    s.sum += twins
    s.own += mine
  }
  const inner = sums.slice(1, -1)
  if (inner.filter((s) => s.n > 0).length < KNOTS - 5) return null
  const points = inner.filter((s) => s.n > 0).map((s) => ({ from: s.own / s.n, to: s.sum / s.n }))
  const rising = pooled(points.map((p) => p.to))
  const curve = [
    { from: 0, to: 0 },
    ...points.flatMap((p, i) => {
      const to = Math.min(0.999, Math.max(0.001, rising[i] as number))
      return p.from > 0.001 && p.from < 0.999 ? [{ from: round(p.from), to: round(to) }] : []
    }),
    { from: 1, to: 1 },
  ]
  const apart = Math.max(...pairs.map((p) => Math.abs(p.mine - p.twins)))
  const still = Math.max(...pairs.map((p) => Math.abs(alongCurve(curve, p.mine) - p.twins)))
  return { apart, still, curve }
}

/** The nearest list that never falls. */
const pooled = (values: readonly number[]): number[] => {
  const blocks: { mean: number; n: number }[] = []
  for (const v of values) {
    blocks.push({ mean: v, n: 1 })
    for (;;) {
      const last = blocks.at(-1) as { mean: number; n: number }
      const before = blocks.at(-2)
      if (!before || before.mean <= last.mean) break
      blocks.splice(-2, 2, {
        n: before.n + last.n,
        mean: (before.mean * before.n + last.mean * last.n) / (before.n + last.n),
      })
    }
  }
  return blocks.flatMap((b) => new Array<number>(b.n).fill(b.mean))
}
