import { z } from 'zod'

const whole = z.number().int().min(0)
const counts = z.number().min(0).max(1023)
const micros = whole.max(10_000_000)

/** When a part was measured, and what it was then: its kind, and where it hung. */
const then = {
  at: z.iso.datetime(),
  kind: z.string().min(1).max(120),
  place: z.string().max(200),
}

/** How the contacts of a switch bounced: within how long nine of ten movements were over, and the longest. */
export const measuredContacts = z.strictObject({
  ...then,
  movements: whole.max(100_000),
  usualUs: micros,
  longestUs: micros,
})
export type MeasuredContacts = z.infer<typeof measuredContacts>

/** How a knob counted: its bounces, and changes that were lost or jumped over in so many. */
export const measuredKnob = z.strictObject({
  ...then,
  changes: whole.max(1_000_000),
  lost: whole.max(1_000_000),
  bounceUs: micros,
})
export type MeasuredKnob = z.infer<typeof measuredKnob>

/** How a lever trembled at rest, in counts of the converter, and the levels at its two ends. */
export const measuredTravel = z.strictObject({
  ...then,
  sigma: counts,
  peak: counts,
  low: counts,
  high: counts,
})
export type MeasuredTravel = z.infer<typeof measuredTravel>

/** That each position of a ladder of resistors was shown. */
export const measuredLadder = z.strictObject(then)

/** That the brightness of a light was looked at. */
export const measuredLight = z.strictObject(then)

/** That a needle was brought onto its marks. */
export const measuredNeedle = z.strictObject(then)
