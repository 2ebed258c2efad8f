import { z } from 'zod'
import { trialFields } from '../aspects/trial'

/**
 * How indicators are driven by hand: a value as if it came from the simulator, all that one can light, its whole range up
 * and down, or one aspect tried by itself, past shaping and curves: a needle at an angle of its dial (degrees clockwise from
 * straight up), a light so strong, so many lamps of a strip in a colour.
 */
export const exerciseSchema = z.discriminatedUnion('as', [
  z.object({ as: z.literal('value'), value: z.union([z.number(), z.string().max(200)]) }),
  z.object({ as: z.literal('all') }),
  z.object({ as: z.literal('sweep') }),
  z.object({ as: z.literal('trial'), aspectId: z.string().max(80), ...trialFields }),
])
export type Exercise = Readonly<z.infer<typeof exerciseSchema>>
