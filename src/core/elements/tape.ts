import { z } from 'zod'
import { finite } from '../aspects/binding-fields'
import { colour, type ElementKind, heldSettings, live, nothingFollowed, type Pixels } from './element-kind'
import { markWords, type ScaleMark, scaleMarks } from './scale-marks'

const settings = z
  .strictObject({
    kind: z.literal('tape'),
    ...heldSettings,
    /** Whither values rise. */
    along: z.enum(['up', 'down', 'right', 'left']),
    /** How much of the scale is seen. */
    span: finite.gt(0),
    marksEvery: finite.min(0),
    labelsEvery: finite.gt(0),
    /** Where the scale ends; null where it goes on. */
    least: finite.nullable(),
    most: finite.nullable(),
    /** After so much it begins again, as a heading does; null where it does not. */
    round: finite.gt(0).nullable(),
    labelPx: finite.min(4).max(400),
    /** Whether the value stands in figures at the pointer. */
    showsValue: z.boolean(),
    colour,
    ground: colour,
  })
  .refine(
    (s) => s.least === null || s.most === null || s.most > s.least,
    'the most must be more than the least',
  )
export type TapeSettings = z.infer<typeof settings>

export const tape: ElementKind<typeof settings> = {
  kind: 'tape',
  word: 'Tape',
  says: 'a scale that runs past a pointer',
  settings,
  live: () => [live('value'), live('bug')],
  fresh: () => ({
    width: 80,
    height: 220,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'tape', along: 'up', span: 100, marksEvery: 10, labelsEvery: 20, least: 0, most: null },
      ...{ round: null, labelPx: 14, showsValue: true, colour: '#e6ebe7', ground: '#20282b' },
    },
  }),
  range: (s) => [s.least ?? 0, s.most ?? s.round ?? (s.least ?? 0) + 4 * s.span],
}

/** Dots for one of what is shown. */
export const dotsPer = (s: TapeSettings, length: Pixels): number => length / s.span

/**
 * The marks that can be seen while the tape stands at a value, with so many spans to spare on both sides, so that it can be
 * moved that far before it is drawn anew. Of a tape that goes round, values are as they are counted on, and words as they read.
 */
export const tapeMarks = (s: TapeSettings, value: number, spare: number): ScaleMark[] => {
  const reach = s.span * (0.5 + spare)
  const from = s.least === null ? value - reach : Math.max(s.least, value - reach)
  const to = s.most === null ? value + reach : Math.min(s.most, value + reach)
  const marks = scaleMarks(from, to, s.marksEvery, s.labelsEvery)
  const { round } = s
  if (round === null) return marks
  return marks.map((m) =>
    m.words === null ? m : { ...m, words: markWords(((m.value % round) + round) % round, s.labelsEvery) },
  )
}

/** The nearest way round from one value to another: what is shown may be counted on beyond a whole round. */
export const nearestRound = (round: number | null, from: number, to: number): number => {
  if (round === null) return to
  return from + ((((to - from) % round) + 1.5 * round) % round) - round / 2
}
