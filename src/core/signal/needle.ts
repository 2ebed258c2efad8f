import type { Degrees } from '../units-of-measure'

export interface NeedlePoint {
  readonly value: number
  readonly deg: Degrees
}

/** Slopes at the points of a curve that never overshoots them: Fritsch and Carlson, 1980. */
const slopes = (points: readonly NeedlePoint[]): number[] => {
  const at = (i: number) => points[i] as NeedlePoint
  const steps = points.slice(1).map((p, i) => (p.deg - at(i).deg) / (p.value - at(i).value))
  const step = (i: number) => steps[i] as number
  const m = points.map((_, i) => {
    if (i === 0) return step(0)
    if (i === points.length - 1) return step(i - 1)
    return step(i - 1) * step(i) <= 0 ? 0 : (step(i - 1) + step(i)) / 2
  })
  for (const [i, s] of steps.entries()) {
    if (s === 0) {
      m[i] = 0
      m[i + 1] = 0
      continue
    }
    const a = (m[i] as number) / s
    const b = (m[i + 1] as number) / s
    const size = Math.hypot(a, b)
    if (size <= 3) continue
    m[i] = (3 * a * s) / size
    m[i + 1] = (3 * b * s) / size
  }
  return m
}

/** Value to angle along needle points that rise in value; beyond the ends the needle rests at the end. */
export const needleAngle = (points: readonly NeedlePoint[], smooth = false): ((value: number) => Degrees) => {
  const m = smooth && points.length > 2 ? slopes(points) : null
  return (value) => {
    const first = points[0]
    const last = points.at(-1)
    if (!first || !last) return Number.NaN
    if (value <= first.value) return first.deg
    if (value >= last.value) return last.deg
    const i = points.findIndex((p) => p.value > value) - 1
    const a = points[i] as NeedlePoint
    const b = points[i + 1] as NeedlePoint
    const width = b.value - a.value
    const t = (value - a.value) / width
    if (!m) return a.deg + t * (b.deg - a.deg)
    const tt = t * t
    const ttt = tt * t
    return (
      (2 * ttt - 3 * tt + 1) * a.deg +
      (ttt - 2 * tt + t) * width * (m[i] as number) +
      (3 * tt - 2 * ttt) * b.deg +
      (ttt - tt) * width * (m[i + 1] as number)
    )
  }
}

/**
 * Angle to value along needle points: the inverse of `needleAngle` where that rises or falls all the way, to within a
 * millionth of the scale. Beyond the ends it is the value at the end; null where one angle stands for several values.
 */
export const needleValue = (
  points: readonly NeedlePoint[],
  smooth = false,
): ((deg: Degrees) => number) | null => {
  const first = points[0]
  const last = points.at(-1)
  if (!first || !last || points.length < 2) return null
  const way = Math.sign(last.deg - first.deg)
  const isMonotone = points.every(
    (p, i) => i === 0 || Math.sign(p.deg - (points[i - 1] as NeedlePoint).deg) === way,
  )
  if (way === 0 || !isMonotone) return null
  const angle = needleAngle(points, smooth)
  return (deg) => {
    if ((deg - first.deg) * way <= 0) return first.value
    if ((deg - last.deg) * way >= 0) return last.value
    let low = first.value
    let high = last.value
    for (let i = 0; i < 60; i++) {
      const middle = (low + high) / 2
      if ((angle(middle) - deg) * way < 0) low = middle
      else high = middle
    }
    return (low + high) / 2
  }
}
