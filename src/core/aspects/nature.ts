import { z } from 'zod'
import { colourOrders } from '../signal/colours'
import { motorLeads } from './needle'

const share = z.number().min(0).max(1)
const pulseUs = z.number().int().min(400).max(2600)
const micros = z.number().int().min(0).max(60_000)

/**
 * What a simulated part is really like, where it is otherwise than its catalogue says: worn, soldered wrongly, of an
 * unusual make. Only the stand-ins know it; to find out is what calibrating is for. Real parts have none.
 */
export const nature = z.discriminatedUnion('kind', [
  /** Contacts that bounce for up to so long. */
  z.strictObject({ kind: z.literal('positions'), bounceUs: micros }),
  z.strictObject({
    kind: z.literal('encoder'),
    changesPerClick: z.union([z.literal(1), z.literal(2), z.literal(4)]).optional(),
    /** Its A and B are exchanged. */
    reverse: z.boolean().optional(),
    bounceUs: micros.optional(),
    /** One click in so many, one of its contacts does not close. */
    missesOneIn: z.number().int().min(2).max(1000).optional(),
  }),
  z.strictObject({
    kind: z.literal('travel'),
    /** The shares of the supply between which its wiper goes. */
    low: share.optional(),
    high: share.optional(),
    /** Fine at its beginning and coarse at its end, up to 1; the other way round, down to −1. */
    bend: z.number().min(-1).max(1).optional(),
    /** Standard deviation of its noise, in counts of the converter. */
    noise: z.number().min(0).max(100).optional(),
    /** Its two ends are exchanged. */
    swapped: z.boolean().optional(),
    /** Between these places of its travel the track is worn through: the wiper stands at nothing. */
    broken: z.strictObject({ from: share, to: share }).optional(),
  }),
  z.strictObject({
    kind: z.literal('needle'),
    leads: motorLeads.optional(),
    /** The needle is pressed on askew: so much further than its motor stands. */
    offsetDeg: z.number().min(-90).max(90).optional(),
    /** So much its motor turns before the needle follows when the way changes. */
    playDeg: z.number().min(0).max(20).optional(),
    /** One step in so many, its motor does not follow. */
    losesOneIn: z.number().int().min(2).max(100_000).optional(),
    /** The sensor of its zero never sees it. */
    blind: z.literal(true).optional(),
    /** A servo that stands at its ends with these pulses. */
    leastUs: pulseUs.optional(),
    mostUs: pulseUs.optional(),
  }),
  z.strictObject({
    kind: z.literal('colour'),
    /** The order in which its lamps take their colours. */
    order: z.enum(colourOrders).optional(),
    /** It was cut from a longer strip than its kind, or a shorter one. */
    lamps: z.number().int().min(1).max(1000).optional(),
  }),
])
export type Nature = z.infer<typeof nature>
export type NatureOf<K extends Nature['kind']> = Extract<Nature, { kind: K }>
