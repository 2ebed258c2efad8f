import { z } from 'zod'
import { finite } from '../aspects/binding-fields'
import type { Degrees } from '../units-of-measure'
import { colour, type ElementKind, heldSettings, live, nothingFollowed } from './element-kind'

const settings = z.strictObject({
  kind: z.literal('compass'),
  ...heldSettings,
  /** The card turns below a fixed mark, or the mark above a fixed card. */
  turns: z.enum(['card', 'pointer']),
  /** Names of the quarters in place of their figures. */
  letters: z.boolean(),
  labelPx: finite.min(4).max(400),
  colour,
  ground: colour,
  bugColour: colour,
})
export type CompassSettings = z.infer<typeof settings>

export const compass: ElementKind<typeof settings> = {
  kind: 'compass',
  word: 'Compass',
  says: 'a compass card, with a bug',
  settings,
  live: () => [live('value', { as: 'number' }), live('bug', { as: 'number' })],
  fresh: () => ({
    width: 200,
    height: 200,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'compass', turns: 'card', letters: true, labelPx: 16 },
      ...{ colour: '#e6ebe7', ground: '#20282b', bugColour: '#ffb454' },
    },
  }),
  range: () => [0, 360],
}

const LETTERS: Readonly<Record<number, string>> = { 0: 'N', 90: 'E', 180: 'S', 270: 'W' }

export interface CardMark {
  readonly deg: Degrees
  /** As a share of the card's radius. */
  readonly long: number
  readonly words: string | null
}

/** The marks of a card: every 5°, longer every 10°, words every 30°; tens of degrees as they are spoken. */
export const cardMarks = (letters: boolean): CardMark[] =>
  Array.from({ length: 72 }, (_, i) => {
    const deg = i * 5
    const words = deg % 30 !== 0 ? null : ((letters ? LETTERS[deg] : undefined) ?? String(deg / 10))
    return { deg, long: deg % 10 === 0 ? 0.1 : 0.055, words }
  })
