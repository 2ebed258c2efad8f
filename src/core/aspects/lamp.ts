import { z } from 'zod'
import type { LampAspect } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import { LIT, lampWords, OUT, packLamp } from '../signal/lamp-state'
import type { IndicatorKind, SlotKind } from './aspect-kind'
import { expression, fromVariable } from './binding-fields'
import { isCurved, lightCurve, strengthOf } from './light'
import { FLAG, places, readRest, restBytes, restFlag, type SlotRest } from './slot-bytes'

export interface LampSlot {
  readonly kind: 'lamp'
  readonly pin: Place
  /** It takes current in: the lamp hangs between a supply and it. */
  readonly sinks: boolean
  readonly rest: SlotRest
}

const SINKS = 4 * FLAG

export const lampSlot: SlotKind<LampSlot> = {
  kind: 'lamp',
  code: 2,
  write: ({ pin, sinks, rest }) => ({
    flags: (sinks ? SINKS : 0) + restFlag(rest),
    bytes: [...places([pin]), ...restBytes(rest)],
  }),
  read: (flags, b) => ({
    kind: 'lamp',
    pin: b.number(),
    sinks: (flags & SINKS) !== 0,
    rest: readRest(flags, b),
  }),
}

/** How strongly a lamp shines for how bright it is to be. */
const own = z.strictObject({ kind: z.literal('lamp'), ...lightCurve })
type LampSettings = z.infer<typeof own>

/** From a variable to a lamp. */
const binding = z.strictObject({
  kind: z.literal('lamp'),
  ...fromVariable,
  /** Shaping of `input` into how the lamp shines. */
  show: expression,
  rest: z.enum(['out', 'lit', 'keep']),
})

export const lamp: IndicatorKind<LampAspect, typeof binding, LampSettings> & { own: typeof own } = {
  kind: 'lamp',
  own,
  word: 'lamp',
  binding,
  priority: 0,
  showsAbsent: false,
  wanted: { as: 'lamp' },
  packs: true,
  terminals: ({ terminal }) => [terminal],
  slot: (_, { places: [pin], sinks, rest }): LampSlot => ({
    kind: 'lamp',
    pin,
    sinks,
    rest: rest === 'keep' ? 'keep' : rest === 'lit' ? LIT : OUT,
  }),
  fresh: () => ({ show: 'input' }),
  presence: () => ({
    rest: (how) => (how === 'lit' ? LIT : OUT),
    all: LIT,
    bare: (value) => {
      const n = Number(value)
      return Number.isFinite(n) ? packLamp(n, 0) : null
    },
    sweep: (share) => packLamp(share, 0),
    trial: ({ strength }) => (strength === undefined ? null : packLamp(strength, 0)),
  }),
  compile: (s, _, shaper) => {
    const show = shaper.expression(s.show, { as: 'lamp' })
    if (!show) return null
    return (input) => {
      const packed = show(input) as number
      return packed >= 0 ? packed : null
    }
  },
  lit: (state, dimmed, curve) => {
    const packed = Number(state)
    const level = packed & 255
    if (packed < 0 || level === 0) return state
    const strength = strengthOf(curve, (level / 255) * dimmed)
    if (strength === 0) return OUT
    return packed - level + Math.max(1, Math.round(strength * 255))
  },
  isCurved,
  takes: (s) => [s.show],
  main: (s) => s.show,
  shaping: (s) => s.show,
  reworded: (s, change) => ({ ...s, show: change(s.show) }),
  words: (_, __, state) => lampWords(Math.max(0, Number(state))),
}
