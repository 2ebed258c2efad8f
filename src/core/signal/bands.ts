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
 * What a lever gives at a place of its travel, 0 to 1, along bands that follow each other. Between two of them it gives the
 * edge of the nearer one, so that a gap is a gate; without bands it gives the place itself.
 */
export const alongBands = (bands: readonly TravelBand[], place: number): number => {
  if (bands.length === 0) return place
  // The last that has begun.
  let low = -1
  let high = bands.length
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if ((bands[middle] as TravelBand).from <= place) low = middle
    else high = middle
  }
  const next = bands[high]
  if (low < 0) return (next as TravelBand).gives[0]
  const { from, to, gives, bend } = bands[low] as TravelBand
  if (place < to) return gives[0] + bent((place - from) / (to - from), bend) * (gives[1] - gives[0])
  return next && next.from - place < place - to ? next.gives[0] : gives[1]
}
