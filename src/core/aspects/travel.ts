import { z } from 'zod'
import type { TravelAspect } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import { plainNumber, type ValueType } from '../signal/expression/value-type'
import { formatNumber } from '../signal/format'
import { unitNamed } from '../signal/unit'
import type { ControlKind, SlotKind } from './aspect-kind'
import { finite } from './binding-fields'
import { measuredTravel } from './measured'
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

/** The strongest smoothing that a board does: each sample counts 1 / 2^5. */
export const MOST_SMOOTHING = 5

/** A level in words; one that is finer than the scale with as much of it as can be read. */
export const levelWords = (raw: number): string =>
  `${formatNumber(Math.round(raw * 100) / 100)} of ${FULL_LEVEL}`

const fraction = z.number().min(0).max(1)

/** A stretch of a lever's travel, 0 to 1, with its own output range. */
const band = z
  .strictObject({
    name: z.string().max(40).optional(),
    from: fraction,
    to: fraction,
    gives: z.tuple([finite, finite]),
    /** Fine at its beginning and coarse at its end, up to 1; the other way round, down to −1. */
    bend: z.number().min(-1).max(1).optional(),
    /** What it gives is in, by its name. */
    unit: z.string().min(1).max(40).optional(),
  })
  .refine((b) => b.from < b.to, 'a band ends above where it begins')
export type Band = z.infer<typeof band>

const own = z.strictObject({
  kind: z.literal('travel'),
  invert: z.boolean().optional(),
  /** How strongly the board evens out noise: each sample counts 1 / 2^n. */
  smoothing: z.number().int().min(0).max(MOST_SMOOTHING).optional(),
  /** The levels at which its travel ends, as shares of the converter's range. */
  ends: z
    .strictObject({ low: fraction, high: fraction })
    .refine((e) => e.high - e.low >= 0.01, 'the upper end lies above the lower one')
    .optional(),
  /** From its place between its ends to that of its twin, so that equal places of the hand give equal values. */
  match: z
    .array(z.strictObject({ from: fraction, to: fraction }))
    .min(2)
    .max(40)
    .refine(
      (m) => m.every((p, i) => i === 0 || (p.from > (m[i - 1]?.from ?? 0) && p.to >= (m[i - 1]?.to ?? 0))),
      'places of a twin must rise',
    )
    .optional(),
  bands: z
    .array(band)
    .max(12)
    .refine(
      (bands) => bands.every((b, i) => i === 0 || b.from >= (bands[i - 1]?.to ?? 0)),
      'bands must follow each other without overlapping',
    )
    .optional(),
  measured: measuredTravel.optional(),
})
export type TravelSettings = z.infer<typeof own>

/** Smoothing of a lever whose part says nothing of it. */
export const USUAL_SMOOTHING = 1

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
  type: (_, settings) => {
    const bands = settings?.bands ?? []
    const [first] = bands
    if (!first) return ratio
    // Of bands in several units nobody can say in which it is.
    const unit = bands.every((b) => b.unit === first.unit) ? unitNamed(first.unit ?? '') : null
    return unit ? { is: 'number', unit } : plainNumber
  },
  value: (_, { output }) => output,
  words: (_, { output }) => (output === null ? 'not heard yet' : formatNumber(output)),
  pinWords: (_, raw) => levelWords(raw),
  // A track that is worn or not measured yet trembles by some hundredths of its travel.
  unrest: () => FULL_LEVEL / 20,
}
