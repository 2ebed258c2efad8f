export interface CurvePoint {
  readonly from: number
  readonly to: number
}

/** Piecewise linear through points that rise in `from`; beyond the ends the end value holds. */
export const alongCurve = (points: readonly CurvePoint[], x: number): number => {
  let low = 0
  let high = points.length - 1
  const first = points[0]
  const last = points[high]
  if (!first || !last) return Number.NaN
  if (x <= first.from) return first.to
  if (x >= last.from) return last.to
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if ((points[middle] as CurvePoint).from <= x) low = middle
    else high = middle
  }
  const a = points[low] as CurvePoint
  const b = points[high] as CurvePoint
  return a.to + ((x - a.from) / (b.from - a.from)) * (b.to - a.to)
}
