import { z } from 'zod'
import type { ColourAspect } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import {
  asMeant,
  asTaken,
  type ColourRule,
  colourOrders,
  colourState,
  darkState,
  readColours,
  whiteState,
  withStrength,
} from '../signal/colours'
import type { IndicatorKind, SlotKind } from './aspect-kind'
import { expression, finite, fromVariable } from './binding-fields'
import { isCurved, lightCurve, strengthOf } from './light'
import { KEEPS, number, places } from './slot-bytes'

export interface ColourSlot {
  readonly kind: 'colour'
  readonly pin: Place
  readonly lamps: number
  readonly keep: boolean
}

export const colourSlot: SlotKind<ColourSlot> = {
  kind: 'colour',
  code: 8,
  write: ({ pin, lamps, keep }) => ({
    flags: keep ? KEEPS : 0,
    bytes: [...places([pin]), ...number(lamps)],
  }),
  read: (flags, b) => ({ kind: 'colour', pin: b.number(), lamps: b.number(), keep: (flags & KEEPS) !== 0 }),
  longestState: ({ lamps }) => 1 + 3 * lamps,
  worksBytes: ({ lamps }) => 14 + 3 * lamps,
}

/** How strongly a strip shines, how many lamps it really has, and in which order it takes its colours. */
const own = z.strictObject({
  kind: z.literal('colour'),
  ...lightCurve,
  order: z.enum(colourOrders).optional(),
  lamps: z.number().int().min(1).max(1000).optional(),
})
export type ColourOwn = z.infer<typeof own>

/** How many lamps a strip really has. */
export const lampsOf = (aspect: ColourAspect, settings: ColourOwn | undefined): number =>
  settings?.lamps ?? aspect.lamps

/** From a variable to the colours of an RGB lamp or strip. */
const binding = z.strictObject({
  kind: z.literal('colour'),
  ...fromVariable,
  show: expression,
  stops: z
    .array(
      z.strictObject({
        at: finite,
        colour: z.string().regex(/^#[0-9a-f]{6}$/, 'a colour is written #rrggbb'),
      }),
    )
    .min(1)
    .max(16)
    .refine((s) => s.every((x, i) => i === 0 || x.at > (s[i - 1]?.at ?? 0)), 'colour stops must rise'),
  /** Steps from stop to stop, or blends between them. */
  blend: z.boolean(),
  /** All lamps alike, or as many of them as the value reaches between `least` and `most`. */
  fill: z.enum(['all', 'start', 'end', 'middle']),
  least: finite.optional(),
  most: finite.optional(),
  blinkAbove: finite.optional(),
  rest: z.enum(['out', 'keep']),
})

const white: ColourRule = {
  stops: [{ at: 0, colour: '#ffffff' }],
  blend: false,
  fill: 'start',
  least: 0,
  most: 1,
  blinkAbove: null,
}

export const colour: IndicatorKind<ColourAspect, typeof binding, ColourOwn> & { own: typeof own } = {
  kind: 'colour',
  own,
  word: 'colours',
  binding,
  priority: 2,
  showsAbsent: false,
  wanted: { as: 'number' },
  terminals: ({ terminals }) => terminals,
  slot: (aspect, { places: [pin], rest }, strip): ColourSlot => ({
    kind: 'colour',
    pin,
    lamps: lampsOf(aspect, strip),
    keep: rest === 'keep',
  }),
  fresh: ({ lamps }) => ({
    show: 'input',
    stops: [
      { at: 0, colour: '#1a7f37' },
      { at: 1, colour: '#c62828' },
    ],
    blend: true,
    fill: lamps > 1 ? 'start' : 'all',
  }),
  presence: (aspect, strip) => {
    const lamps = lampsOf(aspect, strip)
    return {
      rest: () => darkState(lamps),
      all: whiteState(lamps),
      bare: (value) => {
        const level = Math.round(Math.min(1, Math.max(0, Number(value))) * 255)
        return Number.isFinite(level) ? `\0${String.fromCharCode(level).repeat(lamps * 3)}` : null
      },
      sweep: (share) => colourState(white, share, lamps),
      trial: ({ strength = 1, lamps: lit = lamps, colour = '#ffffff' }) => {
        const shown = { ...white, stops: [{ at: 0, colour }] }
        // A strip that is longer than it is said to be lights no further than it is driven.
        const state = colourState(shown, lit === 0 ? -1 : lit / lamps, lamps)
        return asTaken(
          withStrength(state, (c) => c * strength),
          strip?.order,
        )
      },
    }
  },
  lit: (state, dimmed, strip) => {
    const strong = (c: number) => strengthOf(strip, c * dimmed)
    return asTaken(withStrength(String(state), strong), strip?.order)
  },
  isCurved: (strip) => isCurved(strip) || strip?.order !== undefined,
  compile: (s, aspect, shaper, strip) => {
    const lamps = lampsOf(aspect, strip)
    const show = shaper.expression(s.show, { as: 'number' })
    const rule: ColourRule = {
      ...s,
      least: s.least ?? s.stops[0]?.at ?? 0,
      most: s.most ?? s.stops.at(-1)?.at ?? 1,
      blinkAbove: s.blinkAbove ?? null,
    }
    if (rule.fill !== 'all' && rule.least >= rule.most)
      shaper.say('shaping', 'The strip is filled from a least to a larger most value.')
    if (!show) return null
    return (input) => {
      const value = show(input) as number
      return Number.isFinite(value) ? colourState(rule, value, lamps) : null
    }
  },
  takes: (s) => [s.show],
  main: (s) => s.show,
  shaping: (s) => s.show,
  reworded: (s, change) => ({ ...s, show: change(s.show) }),
  words: (_, strip, state) => {
    const { lamps, blinkHz } = readColours(asMeant(String(state), strip?.order))
    const lit = lamps.filter((c) => c !== '#000000')
    if (lit.length === 0) return 'out'
    const blink = blinkHz > 0 ? ' blinking' : ''
    return lamps.length === 1 ? `${lit[0]}${blink}` : `${lit.length} of ${lamps.length} lit${blink}`
  },
}
