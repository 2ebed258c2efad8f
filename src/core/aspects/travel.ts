import { z } from 'zod'
import type { TravelAspect } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import { plainNumber, type ValueType } from '../signal/expression/value-type'
import { formatNumber } from '../signal/format'
import { unitNamed } from '../signal/unit'
import type { ControlKind, SlotKind } from './aspect-kind'
import { finite } from './binding-fields'
import { places as placeBytes } from './slot-bytes'

/** `smoothing` is a power of two: each sample counts 1 / 2^smoothing. */
export interface AnalogSlot {
  readonly kind: 'analog'
  readonly pin: Place
  readonly smoothing: number
}

export const analogSlot: SlotKind<AnalogSlot> = {
  kind: 'analog',
  code: 4,
  write: ({ pin, smoothing }) => ({ flags: 0, bytes: [...placeBytes([pin]), smoothing] }),
  read: (_, b) => ({ kind: 'analog', pin: b.number(), smoothing: b.next() }),
}

/** The largest level an analog pin reports. */
export const FULL_LEVEL = 1023

export const levelWords = (raw: number): string => `${raw} of ${FULL_LEVEL}`

const fraction = z.number().min(0).max(1)

/** A stretch of a lever's travel, 0 to 1, with its own output range. */
const band = z
  .strictObject({
    name: z.string().max(40).optional(),
    from: fraction,
    to: fraction,
    gives: z.tuple([finite, finite]),
  })
  .refine((b) => b.from < b.to, 'a band ends above where it begins')
export type Band = z.infer<typeof band>

const own = z.strictObject({
  kind: z.literal('travel'),
  invert: z.boolean().optional(),
  /** How strongly the board evens out noise: 0 not at all, 3 most. */
  smoothing: z.number().int().min(0).max(3).optional(),
  bands: z
    .array(band)
    .max(12)
    .refine(
      (bands) => bands.every((b, i) => i === 0 || b.from >= (bands[i - 1]?.to ?? 0)),
      'bands must follow each other without overlapping',
    )
    .optional(),
})

/** Smoothing of a lever whose part says nothing of it. */
const USUAL_SMOOTHING = 1

const ratio: ValueType = { is: 'number', unit: unitNamed('ratio') ?? null }

export const travel: ControlKind<TravelAspect, typeof own> = {
  kind: 'travel',
  word: 'travel',
  own,
  terminals: ({ wiper }) => [wiper],
  slot: (_, { places: [pin] }, settings): AnalogSlot => ({
    kind: 'analog',
    pin,
    smoothing: settings?.smoothing ?? USUAL_SMOOTHING,
  }),
  fresh: () => ({ when: 'move', value: 'input' }),
  does: (when) => when === 'move',
  isReadable: true,
  type: (_, settings) => ((settings?.bands ?? []).length === 0 ? ratio : plainNumber),
  value: (_, { output }) => output,
  words: (_, { output }) => (output === null ? 'not heard yet' : formatNumber(output)),
  pinWords: (_, raw) => levelWords(raw),
}
