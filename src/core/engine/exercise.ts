import { z } from 'zod'
import { MOST_DEG, PULSES_US } from '../aspects/needle'

/**
 * How indicators are driven by hand: a value as if it came from the simulator, all that one can light, its whole range up
 * and down, or one aspect tried by itself, past shaping and curves: a needle at an angle of its dial (degrees clockwise from
 * straight up), a light so strong, so many lamps of a strip in a colour.
 */
export const exerciseSchema = z.discriminatedUnion('as', [
  z.object({ as: z.literal('value'), value: z.union([z.number(), z.string().max(200)]) }),
  z.object({ as: z.literal('all') }),
  z.object({ as: z.literal('sweep') }),
  z.object({
    as: z.literal('trial'),
    aspectId: z.string().max(80),
    deg: z.number().min(-MOST_DEG).max(MOST_DEG).optional(),
    pulseUs: z.number().min(PULSES_US.least).max(PULSES_US.most).optional(),
    strength: z.number().min(0).max(1).optional(),
    lamps: z.number().int().min(0).max(1000).optional(),
    colour: z
      .string()
      .regex(/^#[0-9a-f]{6}$/)
      .optional(),
  }),
])
export type Exercise = Readonly<z.infer<typeof exerciseSchema>>
