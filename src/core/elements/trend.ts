import { z } from 'zod'
import { finite } from '../aspects/binding-fields'
import type { Millis } from '../units-of-measure'
import { colour, type ElementKind, type Extent, heldSettings, live, nothingFollowed } from './element-kind'

const settings = z
  .strictObject({
    kind: z.literal('trend'),
    ...heldSettings,
    seconds: finite.min(2).max(3600),
    /** Null where the scale follows what is seen. */
    least: finite.nullable(),
    most: finite.nullable(),
    widthPx: finite.min(0.5).max(40),
    /** Lines across at multiples of so much; 0 for none. */
    linesEvery: finite.min(0),
    colour,
    ground: colour,
  })
  .refine(
    (s) => s.least === null || s.most === null || s.most > s.least,
    'the most must be more than the least',
  )
export type TrendSettings = z.infer<typeof settings>

export const trend: ElementKind<typeof settings> = {
  kind: 'trend',
  word: 'Trend',
  says: 'a value over the last while',
  settings,
  live: () => [live('value')],
  fresh: () => ({
    width: 240,
    height: 90,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'trend', seconds: 30, least: null, most: null, widthPx: 2, linesEvery: 0 },
      ...{ colour: '#7fd1a8', ground: '#20282b' },
    },
  }),
  range: (s) => [s.least ?? 0, s.most ?? 100],
}

/** A value at a moment; null while there was none. */
export interface TrendPoint {
  readonly at: Millis
  readonly value: number | null
}

/** The last while of a value, thinned to what can be seen: in each column the least and the most. */
export class TrendKeeper {
  private points: TrendPoint[] = []

  constructor(private readonly keepsMs: Millis) {}

  add(value: number | null, at: Millis): void {
    const last = this.points.at(-1)
    if (last && last.value === value) return
    this.points.push({ at, value })
    // What is older than the last one before the beginning shows nowhere.
    let old = 0
    while (old + 1 < this.points.length && (this.points[old + 1] as TrendPoint).at < at - this.keepsMs) old++
    if (old > 256 || (old > 0 && this.points.length > 4096)) this.points = this.points.slice(old)
  }

  get all(): readonly TrendPoint[] {
    return this.points
  }
}

/** The least and the most of a trend's scale: as set, or what is seen with some room. */
export const trendScale = (
  s: Pick<TrendSettings, 'least' | 'most'>,
  points: readonly TrendPoint[],
): readonly [number, number] => {
  let low = Number.POSITIVE_INFINITY
  let high = Number.NEGATIVE_INFINITY
  for (const { value } of points) {
    if (value === null) continue
    low = Math.min(low, value)
    high = Math.max(high, value)
  }
  if (low > high) [low, high] = [0, 1]
  const room = (high - low) * 0.08 || Math.abs(high) * 0.05 || 0.5
  const least = s.least ?? low - room
  const most = s.most ?? high + room
  return most > least ? [least, most] : [least, least + 1]
}

/** Its line as path data: steps from value to value, as they were told, broken where there was none; now is at the right edge. */
export const trendPath = (
  s: Pick<TrendSettings, 'seconds' | 'least' | 'most'>,
  { width, height }: Extent,
  points: readonly TrendPoint[],
  now: Millis,
): string => {
  const from = now - s.seconds * 1000
  const [least, most] = trendScale(s, points)
  const x = (at: Millis) => (((Math.max(from, at) - from) / (s.seconds * 1000)) * width).toFixed(1)
  const y = (value: number) =>
    ((1 - (Math.min(most, Math.max(least, value)) - least) / (most - least)) * height).toFixed(1)
  // Not more columns than dots: of what falls into one, its first, least, most and last.
  const column = (s.seconds * 1000) / Math.max(1, width)
  let d = ''
  let open = false
  let inColumn = -1
  let low = 0
  let high = 0
  const settle = () => {
    if (inColumn >= 0 && low !== high) d += `V${y(low)}V${y(high)}`
  }
  for (const [i, { at, value }] of points.entries()) {
    const next = points[i + 1]
    if (next && next.at <= from) continue
    if (value === null) {
      settle()
      if (open) d += `H${x(at)}`
      open = false
      inColumn = -1
      continue
    }
    const c = Math.floor((at - from) / column)
    if (open && c === inColumn) {
      low = Math.min(low, value)
      high = Math.max(high, value)
      d += next && Math.floor((next.at - from) / column) === c ? '' : `V${y(low)}V${y(high)}V${y(value)}`
      if (!(next && Math.floor((next.at - from) / column) === c)) inColumn = -1
      continue
    }
    d += open ? `H${x(at)}V${y(value)}` : `M${x(at)} ${y(value)}`
    open = true
    inColumn = c
    low = value
    high = value
  }
  if (open) d += `H${x(now)}`
  return d
}
