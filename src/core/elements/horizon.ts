import { z } from 'zod'
import { finite } from '../aspects/binding-fields'
import type { Degrees } from '../units-of-measure'
import {
  colour,
  type ElementKind,
  type Extent,
  heldSettings,
  live,
  nothingFollowed,
  type Pixels,
} from './element-kind'

const settings = z.strictObject({
  kind: z.literal('horizon'),
  ...heldSettings,
  /** Degrees of pitch from the top to the bottom. */
  spanDeg: finite.min(10).max(180),
  /** Lines at multiples of so many degrees; 0 for none. */
  linesEvery: finite.min(0).max(90),
  labelPx: finite.min(4).max(400),
  round: z.boolean(),
  sky: colour,
  ground: colour,
  /** Lines and words, and the craft's own mark. */
  colour,
  markColour: colour,
})
export type HorizonSettings = z.infer<typeof settings>

export const horizon: ElementKind<typeof settings> = {
  kind: 'horizon',
  word: 'Horizon',
  says: 'pitch and roll against the horizon',
  settings,
  live: () => [live('pitch'), live('roll')],
  fresh: () => ({
    width: 220,
    height: 220,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'horizon', spanDeg: 50, linesEvery: 10, labelPx: 12, round: false },
      ...{ sky: '#2f6d9e', ground: '#7a5230', colour: '#eef2ee', markColour: '#ffb454' },
    },
  }),
  range: () => [-30, 30],
}

/** Dots for a degree of pitch. */
export const dotsPerDegree = ({ spanDeg }: HorizonSettings, { height }: Extent): number => height / spanDeg

export interface PitchLine {
  readonly deg: Degrees
  /** Half its length, as a share of the width. */
  readonly half: number
  readonly words: string | null
}

/** The lines of the ladder from straight down to straight up; halves between them are short and bear no words. */
export const pitchLines = ({ linesEvery }: HorizonSettings): PitchLine[] => {
  if (linesEvery === 0) return []
  const step = linesEvery / 2
  const count = Math.floor(90 / step)
  return Array.from({ length: 2 * count + 1 }, (_, i) => (i - count) * step)
    .filter((deg) => deg !== 0)
    .map((deg) => {
      const whole = Math.abs(deg % linesEvery) < 1e-9
      return { deg, half: whole ? 0.16 : 0.08, words: whole ? String(Math.abs(deg)) : null }
    })
}

/** How far down the horizon lies, and beyond straight up or down no farther. */
export const horizonAt = (s: HorizonSettings, extent: Extent, pitch: Degrees): Pixels =>
  Math.min(90, Math.max(-90, pitch)) * dotsPerDegree(s, extent)
