import { z } from 'zod'
import type { LampAspect } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import { LIT, lampWords, OUT, packLamp } from '../signal/lamp-state'
import type { IndicatorKind, SlotKind } from './aspect-kind'
import { expression, fromVariable } from './binding-fields'
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

/** From a variable to a lamp. */
const binding = z.strictObject({
  kind: z.literal('lamp'),
  ...fromVariable,
  /** Shaping of `input` into how the lamp shines. */
  show: expression,
  rest: z.enum(['out', 'lit', 'keep']),
})

export const lamp: IndicatorKind<LampAspect, typeof binding> = {
  kind: 'lamp',
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
  }),
  compile: (s, _, shaper) => {
    const show = shaper.expression(s.show, { as: 'lamp' })
    if (!show) return null
    return (input) => {
      const packed = show(input) as number
      return packed >= 0 ? packed : null
    }
  },
  takes: (s) => [s.show],
  main: (s) => s.show,
  shaping: (s) => s.show,
  reworded: (s, change) => ({ ...s, show: change(s.show) }),
  words: (_, __, state) => lampWords(Math.max(0, Number(state))),
}
