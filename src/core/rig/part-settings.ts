import { z } from 'zod'
import { ownKind } from '../catalogue/own-kind'

const fraction = z.number().min(0).max(1)
const degrees = z.number().finite().min(-720).max(720)

const positions = z.strictObject({
  kind: z.literal('positions'),
  /** Positions that are only passed through: nothing happens there. */
  skips: z.array(z.string()).max(24).optional(),
  /** A position counts once the switch has rested in it for so long. */
  restMs: z.number().int().min(0).max(2000).optional(),
})

const encoder = z.strictObject({
  kind: z.literal('encoder'),
  /** Contact changes from one click to the next; makes differ. */
  changesPerClick: z.union([z.literal(1), z.literal(2), z.literal(4)]).optional(),
  reverse: z.boolean().optional(),
})

/** A stretch of a lever's travel, 0 to 1, with its own output range. */
const band = z
  .strictObject({
    name: z.string().max(40).optional(),
    from: fraction,
    to: fraction,
    gives: z.tuple([z.number().finite(), z.number().finite()]),
  })
  .refine((b) => b.from < b.to, 'a band ends above where it begins')

const travel = z.strictObject({
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

/** Where a needle stands for which value; `deg` is clockwise from straight up. */
const needle = z
  .strictObject({
    kind: z.literal('needle'),
    points: z
      .array(z.strictObject({ value: z.number().finite(), deg: degrees }))
      .min(2)
      .max(40)
      .refine(
        (p) => p.every((q, i) => i === 0 || q.value > (p[i - 1]?.value ?? 0)),
        'needle points must rise in value',
      ),
    /** Smooth between the points rather than straight. */
    smooth: z.boolean().optional(),
    /** The needle never goes beyond these. */
    leastDeg: degrees.optional(),
    mostDeg: degrees.optional(),
    degPerS: z.number().positive().max(2000).optional(),
    /** Where it rests without a value. */
    homeDeg: degrees.optional(),
    /** Where zero of the motor lies on the dial. */
    zeroDeg: degrees.optional(),
    /** How a four-wire motor's leads are soldered, where otherwise than its terminals say. */
    leads: z.enum(['crossed', 'turned', 'crossed and turned']).optional(),
  })
  .refine((n) => (n.leastDeg ?? -720) < (n.mostDeg ?? 720), 'the lower limit must lie below the upper one')

export const aspectSettings = z.discriminatedUnion('kind', [positions, encoder, travel, needle])

export const partSettings = z.strictObject({
  /** What each position is called on this part, by the position's id in the catalogue. */
  labels: z.record(z.string(), z.string()).optional(),
  /** Who leads when rig and simulator meet: the simulator (nothing is sent) or the part's own position. */
  atStart: z.enum(['panel', 'simulator']).optional(),
  /** Stays where it is on the panel until it is let loose. */
  locked: z.boolean().optional(),
  /** Things of one panel with the same group are chosen and moved as one. */
  group: z.string().min(1).max(80).optional(),
  /** Measures of its own, where it is not the catalogue's part itself. */
  own: ownKind.optional(),
  seriesOhms: z.number().positive().optional(),
  /** Which of its addresses on the two-wire bus its jumpers choose, from 0. */
  jumpers: z.number().int().min(0).max(63).optional(),
  /** Settings of single aspects, by their id in the catalogue. */
  aspects: z.record(z.string(), aspectSettings).optional(),
})

export type PartSettings = z.infer<typeof partSettings>
export type AspectSettings = z.infer<typeof aspectSettings>
export type Band = z.infer<typeof band>
export type NeedleSettings = z.infer<typeof needle>

/** The settings of one aspect when they are of the expected kind. */
export const settingsOf = <K extends AspectSettings['kind']>(
  settings: PartSettings,
  aspectId: string,
  kind: K,
): Extract<AspectSettings, { kind: K }> | undefined => {
  const found = settings.aspects?.[aspectId]
  return found?.kind === kind ? (found as Extract<AspectSettings, { kind: K }>) : undefined
}
