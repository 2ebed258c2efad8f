import { z } from 'zod'
import type { Degrees } from '../units-of-measure'

/** The furthest that a needle of several turns goes, one way or the other. */
export const MOST_DEG: Degrees = 5400

/** The pulses that boards give a servo at the ends of its travel, in microseconds. */
export const PULSES_US = { least: 500, most: 2500 } as const

/** How something that is shown is tried by itself, past shaping and curves: each kind takes what it knows of. */
export const trialFields = {
  /** Of a needle: degrees on its dial. */
  deg: z.number().min(-MOST_DEG).max(MOST_DEG).optional(),
  /** Of a servo: how long its pulse is, in microseconds. */
  pulseUs: z.number().min(PULSES_US.least).max(PULSES_US.most).optional(),
  /** Of a light: how strongly it shines, 0 to 1. */
  strength: z.number().min(0).max(1).optional(),
  /** Of a strip: how many of its lamps, and in which colour. */
  lamps: z.number().int().min(0).max(1000).optional(),
  colour: z
    .string()
    .regex(/^#[0-9a-f]{6}$/)
    .optional(),
}
const trial = z.object(trialFields)
export type Trial = Readonly<z.infer<typeof trial>>
