export interface TravelBand {
  readonly from: number
  readonly to: number
  readonly gives: readonly [number, number]
  /** Fine at its beginning and coarse at its end, up to 1; the other way round, down to −1; straight without. */
  readonly bend?: number | undefined
}

/** How far along a band what it gives has come where the lever has come so far along it, 0 to 1. */
export const bent = (along: number, bend = 0): number => (bend === 0 ? along : along ** (4 ** bend))

/**
 * What a lever gives at a place of its travel, 0 to 1. Between two bands it gives the edge of the nearer one, so
 * that a gap is a gate; without bands it gives the place itself.
 */
export const alongBands = (bands: readonly TravelBand[], place: number): number => {
  if (bands.length === 0) return place
  let best = Number.NaN
  let least = Number.POSITIVE_INFINITY
  for (const b of bands) {
    const inside = Math.min(b.to, Math.max(b.from, place))
    const away = Math.abs(inside - place)
    if (away >= least) continue
    least = away
    best = b.gives[0] + bent((inside - b.from) / (b.to - b.from), b.bend) * (b.gives[1] - b.gives[0])
  }
  return best
}
