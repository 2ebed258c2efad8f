import { z } from 'zod'
import { MOST_DEG } from '../aspects/needle'

/**
 * How indicators are driven by hand: a value as if it came from the simulator, all that one can light, its whole range up
 * and down, or one needle to an angle of its dial, degrees clockwise from straight up.
 */
export const exerciseSchema = z.discriminatedUnion('as', [
  z.object({ as: z.literal('value'), value: z.union([z.number(), z.string().max(200)]) }),
  z.object({ as: z.literal('all') }),
  z.object({ as: z.literal('sweep') }),
  z.object({
    as: z.literal('angle'),
    aspectId: z.string().max(80),
    deg: z.number().min(-MOST_DEG).max(MOST_DEG),
  }),
])
export type Exercise = Readonly<z.infer<typeof exerciseSchema>>
