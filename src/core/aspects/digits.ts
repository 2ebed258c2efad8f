import { z } from 'zod'
import type { DigitDriver, DigitsAspect } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import { allSegments, blankDigits, digitsState, digitsText, overflows } from '../signal/digits'
import type { IndicatorKind, SlotKind } from './aspect-kind'
import { expression, fromVariable } from './binding-fields'
import { isCurved, lightCurve, strengthOf } from './light'
import { powered } from './powered'
import { countedPlaces, FLAG, KEEPS } from './slot-bytes'

export interface DigitsSlot {
  readonly kind: 'digits'
  readonly pins: readonly Place[]
  readonly driver: DigitDriver
  readonly digits: number
  readonly keep: boolean
}

const TM1637 = 2 * FLAG

export const digitsSlot: SlotKind<DigitsSlot> = {
  kind: 'digits',
  code: 5,
  write: ({ pins, driver, digits: width, keep }) => ({
    flags: (driver === 'TM1637' ? TM1637 : 0) + (keep ? KEEPS : 0),
    bytes: [...countedPlaces(pins), width],
  }),
  read: (flags, b) => ({
    kind: 'digits',
    pins: b.numbers(b.number()),
    driver: (flags & TM1637) !== 0 ? 'TM1637' : 'MAX7219',
    digits: b.next(),
    keep: (flags & KEEPS) !== 0,
  }),
  ownPlace: ({ pins }) => pins.at(-1) ?? -1,
  // A point goes with the digit before it; the first character is the brightness.
  longestState: ({ digits: width }) => 1 + 2 * width,
  worksBytes: ({ digits: width }) => 15 + 2 * width,
}

/** How strongly digits shine for how bright they are to be. */
const own = z.strictObject({ kind: z.literal('digits'), ...lightCurve })
type DigitsSettings = z.infer<typeof own>

/** From a variable to a digit window. */
const binding = z.strictObject({
  kind: z.literal('digits'),
  ...fromVariable,
  show: expression,
  decimals: z.number().int().min(0).max(7),
  leading: z.enum(['blanks', 'zeros']),
  sign: z.enum(['minus', 'never']),
  /** 0 to 1; full where it is left out. */
  brightness: expression.optional(),
  /** Blank unless this holds: the bus that feeds it. */
  powered: expression.optional(),
  rest: z.enum(['out', 'dashes', 'keep']),
})

const plain = { decimals: 0, leading: 'blanks', sign: 'minus' } as const

export const digits: IndicatorKind<DigitsAspect, typeof binding, DigitsSettings> & { own: typeof own } = {
  kind: 'digits',
  own,
  word: 'digits',
  binding,
  priority: 2,
  showsAbsent: true,
  wanted: { as: 'digits' },
  terminals: ({ terminals }) => terminals,
  slot: ({ driver, digits: width }, { places, rest }): DigitsSlot => ({
    kind: 'digits',
    pins: places,
    driver,
    digits: width,
    keep: rest === 'keep',
  }),
  fresh: () => ({ show: 'input', ...plain }),
  presence: ({ digits: width }) => ({
    rest: (how) => (how === 'dashes' ? digitsState('-'.repeat(width), 1) : blankDigits(width)),
    all: allSegments(width),
    bare: (value) => {
      const n = Number(value)
      if (!Number.isFinite(n)) return digitsState(digitsText(String(value), plain, width), 1)
      const decimals = Math.min(7, String(value).split('.')[1]?.length ?? 0)
      return digitsState(digitsText(n, { ...plain, decimals }, width), 1)
    },
    sweep: (share) => digitsState(String(Math.min(9, Math.floor(share * 10))).repeat(width), 1),
    trial: ({ strength }) => (strength === undefined ? null : digitsState('8'.repeat(width), strength)),
  }),
  compile: (s, { digits: width }, shaper) => {
    const show = shaper.expression(s.show, { as: 'digits' })
    const light = shaper.aside(s.brightness, { as: 'number' })
    const isPowered = powered(s.powered, shaper)
    if (s.decimals >= width) shaper.say('shaping', `${s.decimals} decimals leave no room in ${width} digits.`)
    if (!show) return null
    return (input) => {
      if (!isPowered()) return blankDigits(width)
      const bright = light ? (light(null) as number) : 1
      return digitsState(digitsText(show(input), s, width), Number.isFinite(bright) ? bright : 1)
    }
  },
  lit: (state, dimmed, curve) => {
    const bright = Number.parseInt(String(state)[0] ?? '0', 16) / 15
    const strength = strengthOf(curve, bright * dimmed)
    // What is seen at all stays seen, on the least of its steps.
    return digitsState(String(state).slice(1), strength > 0 ? Math.max(1 / 15, strength) : 0)
  },
  isCurved,
  takes: (s) => [s.show],
  main: (s) => s.show,
  shaping: (s) => s.show,
  reworded: (s, change) => ({
    ...s,
    show: change(s.show),
    ...(s.brightness === undefined ? {} : { brightness: change(s.brightness) }),
    ...(s.powered === undefined ? {} : { powered: change(s.powered) }),
  }),
  words: (_, __, state) => {
    const shown = String(state).slice(1).trim()
    return shown === '' ? 'blank' : shown
  },
  hides: ({ digits: width }, _, state) =>
    typeof state === 'string' && overflows(state) ? `the value does not fit ${width} digits` : null,
}
