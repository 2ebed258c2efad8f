import { z } from 'zod'

const number = z.number().finite()

/** One value in a message: which bits, and what they mean. */
const signal = z.strictObject({
  name: z.string().min(1).max(128),
  /** With the low byte first the place of its lowest bit, with the high byte first that of its highest; bit 0 is the lowest of byte 0. */
  start: z.int().min(0).max(63),
  length: z.int().min(1).max(64),
  order: z.enum(['little', 'big']),
  as: z.enum(['unsigned', 'signed', 'float', 'double']),
  scale: number,
  add: number,
  range: z.tuple([number, number]).nullable(),
  unit: z.string().max(40),
  choices: z
    .array(z.tuple([number, z.string().max(120)]))
    .max(512)
    .optional(),
  /** It says which of the others are there; or it is there only when that one says so. */
  multiplex: z.union([z.literal('chooses'), z.int().min(0)]).optional(),
  description: z.string().max(500).optional(),
})

const message = z.strictObject({
  name: z.string().min(1).max(128),
  id: z
    .int()
    .min(0)
    .max(2 ** 29 - 1),
  extended: z.boolean(),
  bytes: z.int().min(0).max(8),
  /** How often it is sent, where the database says so. */
  everyMs: z.int().min(1).max(65_535).optional(),
  sender: z.string().max(128).optional(),
  description: z.string().max(500).optional(),
  signals: z.array(signal).max(64),
})

/** So many messages, and so many signals in all of them, are taken. */
export const MOST_MESSAGES = 500
export const MOST_SIGNALS = 5000

/** The messages that a bus carries, as an open database file says them. */
export const busDatabase = z.strictObject({
  /** The file that it is from, for people. */
  name: z.string().max(200),
  messages: z
    .array(message)
    .max(MOST_MESSAGES, `at most ${MOST_MESSAGES} messages are taken`)
    .refine(
      (m) => m.reduce((n, x) => n + x.signals.length, 0) <= MOST_SIGNALS,
      `at most ${MOST_SIGNALS} signals are taken`,
    ),
})

export type BusSignal = z.infer<typeof signal>
export type BusMessage = z.infer<typeof message>
export type BusDatabase = z.infer<typeof busDatabase>

export const noDatabase: BusDatabase = { name: '', messages: [] }

/** The name of a signal's variable. */
export const variableOf = (m: BusMessage, s: BusSignal): string => `${m.name}.${s.name}`
