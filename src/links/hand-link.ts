import { z } from 'zod'
import { LineReader } from './simulator-link'

/**
 * The bench's own channel to simulated boards: fingers that move contacts, and a meter on the pins. Real boards
 * have no such thing; what they do is told by the board link alone.
 */
const toStandins = z.object({
  say: z.literal('move'),
  identity: z.string(),
  contacts: z.array(z.object({ pin: z.number().int(), closed: z.boolean() })),
})

const fromStandins = z.object({
  say: z.literal('pins'),
  identity: z.string(),
  /** Pins whose contact to ground is closed. */
  closed: z.array(z.number().int()),
  /** Pairs of pin and level, for each pin the board drives. */
  levels: z.array(z.tuple([z.number().int(), z.number()])),
})

export type ToStandins = z.infer<typeof toStandins>
export type FromStandins = z.infer<typeof fromStandins>

export const readerOfHands = () => new LineReader<ToStandins>(toStandins)
export const readerOfPins = () => new LineReader<FromStandins>(fromStandins)
export const handLine = (message: ToStandins | FromStandins): string => `${JSON.stringify(message)}\n`
