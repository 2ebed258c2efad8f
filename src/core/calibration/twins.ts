import { alongCurve, type CurvePoint } from '../signal/curve'

/** Two levers in one place each, moved together: places of their travel, 0 to 1, at the same moments. */
export interface Pair {
  readonly mine: number
  readonly twins: number
}

/** How far two levers are apart, where most, and how far they still are when one follows a curve; by means, not by their noise. */
export interface Match {
  readonly apart: number
  readonly still: number
  /** From one's own place to its twin's, rising in both; ends stay ends. */
  readonly curve: readonly CurvePoint[]
}

const KNOTS = 17
/** Stretches in which it is looked how far they are apart: knots, and what lies between them. */
const FINER = 2 * KNOTS - 1
/** So many of the last pairs are kept for each stretch of travel, however long both rest in one of them. */
const MOST_A_STRETCH = 12
const round = (x: number): number => Number(x.toFixed(4))

const stretchOf = ({ mine }: Pair, count: number): number => Math.round(mine * (count - 1))

/** The pairs with one more, in their order; its stretch lets go of its oldest, and what was gone through elsewhere stays. */
export const withPair = (pairs: readonly Pair[], pair: Pair): Pair[] => {
  const stretch = stretchOf(pair, FINER)
  const beside = pairs.filter((p) => stretchOf(p, FINER) === stretch)
  const oldest = beside.length < MOST_A_STRETCH ? undefined : beside[0]
  return [...pairs.filter((p) => p !== oldest), pair]
}

/** The middles of what was seen in each of so many even stretches of one's own travel, where anything was. */
const middles = (pairs: readonly Pair[], count: number): (CurvePoint | null)[] => {
  const sums = Array.from({ length: count }, () => ({ n: 0, from: 0, to: 0 }))
  for (const pair of pairs) {
    const s = sums[stretchOf(pair, count)]
    if (!s) continue
    s.n++
    s.from += pair.mine
    s.to += pair.twins
  }
  return sums.map((s) => (s.n > 0 ? { from: s.from / s.n, to: s.to / s.n } : null))
}

/**
 * The curve that makes one lever give what its twin gives at the same place of the hand: means of the twin's place round
 * evenly spaced places of its own, made to rise (pool adjacent violators, Ayer et al., 1955). Null where they were not
 * moved together through most of the travel.
 */
export const matchOf = (pairs: readonly Pair[]): Match | null => {
  const inner = middles(pairs, KNOTS).slice(1, -1)
  const points = inner.filter((p) => p !== null)
  if (points.length < KNOTS - 5) return null
  const rising = pooled(points.map((p) => p.to))
  const curve = [
    { from: 0, to: 0 },
    ...points.flatMap((p, i) => {
      const to = Math.min(0.999, Math.max(0.001, rising[i] as number))
      return p.from > 0.001 && p.from < 0.999 ? [{ from: round(p.from), to: round(to) }] : []
    }),
    { from: 1, to: 1 },
  ]
  const seen = middles(pairs, FINER).filter((p) => p !== null)
  const most = (apart: (p: CurvePoint) => number) => Math.max(...seen.map((p) => Math.abs(apart(p))))
  const apart = most((p) => p.from - p.to)
  const still = most((p) => alongCurve(curve, p.from) - p.to)
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
