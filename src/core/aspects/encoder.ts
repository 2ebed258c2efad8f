import { z } from 'zod'
import type { EncoderAspect } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import { plainNumber } from '../signal/expression/value-type'
import type { ControlKind, SlotKind } from './aspect-kind'
import { measuredKnob } from './measured'
import { places as placeBytes } from './slot-bytes'

export interface EncoderSlot {
  readonly kind: 'encoder'
  readonly pins: readonly Place[]
}

export const encoderSlot: SlotKind<EncoderSlot> = {
  kind: 'encoder',
  code: 3,
  write: ({ pins }) => ({ flags: 0, bytes: placeBytes(pins) }),
  read: (_, b) => ({ kind: 'encoder', pins: b.numbers(2) }),
}

const own = z.strictObject({
  kind: z.literal('encoder'),
  /** Contact changes from one click to the next; makes differ. */
  changesPerClick: z.union([z.literal(1), z.literal(2), z.literal(4)]).optional(),
  reverse: z.boolean().optional(),
  measured: measuredKnob.optional(),
})

/** What a binding of a knob can wait for. */
export const turns = ['turn', 'clockwise', 'counter'] as const

export const encoder: ControlKind<EncoderAspect, typeof own> = {
  kind: 'encoder',
  word: 'encoder',
  own,
  terminals: ({ a, b }) => [a, b],
  slot: (_, { places }): EncoderSlot => ({ kind: 'encoder', pins: places }),
  fresh: () => ({ when: 'turn', value: null }),
  does: (when) => (turns as readonly string[]).includes(when),
  // It turns without end: what it stands at means nothing by itself.
  isReadable: false,
  type: () => plainNumber,
  value: (_, { clicks }) => clicks,
  words: (_, { raw, clicks }) => (raw === null ? 'not heard yet' : `${clicks} clicks`),
  pinWords: (_, raw) => `${raw} changes`,
  unrest: () => 0,
}
