import { z } from 'zod'
import { finite } from '../aspects/binding-fields'
import { type ColourRule, colourState, readColours } from '../signal/colours'
import type { Rect } from './bar'
import { colour, type ElementKind, type Extent, heldSettings, live, nothingFollowed } from './element-kind'

const settings = z
  .strictObject({
    kind: z.literal('lamps'),
    ...heldSettings,
    lamps: z.number().int().min(1).max(60),
    least: finite,
    most: finite,
    fill: z.enum(['all', 'start', 'end', 'middle']),
    stops: z
      .array(z.strictObject({ at: finite, colour }))
      .min(1)
      .max(24)
      .refine((s) => s.every((q, i) => i === 0 || q.at > (s[i - 1]?.at ?? 0)), 'stops must rise'),
    blend: z.boolean(),
    blinkAbove: finite.nullable(),
    gapPx: finite.min(0).max(200),
    round: z.boolean(),
    /** A lamp that is out. */
    colour,
  })
  .refine((s) => s.most > s.least, 'the most must be more than the least')
export type LampsSettings = z.infer<typeof settings>

export const lamps: ElementKind<typeof settings> = {
  kind: 'lamps',
  word: 'Lamps',
  says: 'a strip of lamps that fills with a value',
  settings,
  live: () => [live('value')],
  fresh: () => ({
    width: 320,
    height: 24,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'lamps', lamps: 12, least: 0, most: 100, fill: 'start', blend: false, blinkAbove: null },
      stops: [
        { at: 0, colour: '#3fbf6a' },
        { at: 60, colour: '#f2a93b' },
        { at: 85, colour: '#e0483c' },
      ],
      ...{ gapPx: 6, round: false, colour: '#262f33' },
    },
  }),
  range: (s) => [s.least, s.most],
}

/** The colour of each lamp at a value, null where it is out, and how often all of them blink. */
export const lampColours = (
  s: LampsSettings,
  value: number,
): { readonly lamps: readonly (string | null)[]; readonly blinkHz: number } => {
  const rule: ColourRule = s
  const { lamps: told, blinkHz } = readColours(colourState(rule, value, s.lamps))
  return { lamps: told.map((c) => (c === '#000000' ? null : c)), blinkHz }
}

/** Where each lamp lies: side by side along the longer side. */
export const lampPlaces = ({ lamps: count, gapPx }: LampsSettings, { width, height }: Extent): Rect[] => {
  const across = width >= height
  const one = Math.max(0.5, ((across ? width : height) - gapPx * (count - 1)) / count)
  return Array.from({ length: count }, (_, i) => {
    const at = i * (one + gapPx)
    // An upright strip fills from below.
    return across ? { x: at, y: 0, width: one, height } : { x: 0, y: height - at - one, width, height: one }
  })
}
