import { z } from 'zod'
import { finite } from '../aspects/binding-fields'
import {
  colour,
  colourRanges,
  type ElementKind,
  type Extent,
  heldSettings,
  live,
  nothingFollowed,
} from './element-kind'

const settings = z
  .strictObject({
    kind: z.literal('bar'),
    ...heldSettings,
    least: finite,
    most: finite,
    /** Whither it grows. */
    along: z.enum(['right', 'left', 'up', 'down']),
    /** From its beginning, from its end, from its middle, or from where zero is. */
    grows: z.enum(['start', 'end', 'middle', 'zero']),
    /** Marks at multiples of so much, and numbers; 0 for none. */
    marksEvery: finite.min(0),
    labelsEvery: finite.min(0),
    labelPx: finite.min(4).max(400),
    colour,
    track: colour,
    ranges: colourRanges.nullable(),
    /** Stretches in a colour along its edge. */
    bands: z.array(z.strictObject({ from: finite, to: finite, colour })).max(12),
  })
  .refine((s) => s.most > s.least, 'the most must be more than the least')
export type BarSettings = z.infer<typeof settings>

export const bar: ElementKind<typeof settings> = {
  kind: 'bar',
  word: 'Bar',
  says: 'a bar or column that grows with a value',
  settings,
  live: () => [live('value')],
  fresh: () => ({
    width: 180,
    height: 22,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'bar', least: 0, most: 100, along: 'right', grows: 'start' },
      ...{ marksEvery: 0, labelsEvery: 0, labelPx: 12, colour: '#7fd1a8', track: '#2a3337' },
      ...{ ranges: null, bands: [] },
    },
  }),
  range: (s) => [s.least, s.most],
}

/** A rectangle in the element's own dots. */
export interface Rect extends Extent {
  readonly x: number
  readonly y: number
}

/** Where a value lies along a bar, 0 at its least to 1; beyond its ends it stays at them. */
export const shareOf = ({ least, most }: Pick<BarSettings, 'least' | 'most'>, value: number): number =>
  Math.min(1, Math.max(0, (value - least) / (most - least)))

const originOf = (s: BarSettings): number => {
  switch (s.grows) {
    case 'start':
      return 0
    case 'end':
      return 1
    case 'middle':
      return 0.5
    case 'zero':
      return shareOf(s, 0)
  }
}

/** A stretch between two shares of the bar, as it lies. */
export const stretch = (
  along: BarSettings['along'],
  { width, height }: Extent,
  a: number,
  b: number,
): Rect => {
  const [low, high] = [Math.min(a, b), Math.max(a, b)]
  switch (along) {
    case 'right':
      return { x: low * width, y: 0, width: (high - low) * width, height }
    case 'left':
      return { x: (1 - high) * width, y: 0, width: (high - low) * width, height }
    case 'down':
      return { x: 0, y: low * height, width, height: (high - low) * height }
    case 'up':
      return { x: 0, y: (1 - high) * height, width, height: (high - low) * height }
  }
}

/** What of the bar is filled at a value. */
export const filled = (s: BarSettings, extent: Extent, value: number): Rect =>
  stretch(s.along, extent, originOf(s), shareOf(s, value))
