import { z } from 'zod'
import { busSpeeds } from '../bus/adapter-line'
import { type BusDatabase, busDatabase, noDatabase } from '../bus/database'
import { messageChecks } from '../bus/message-check'
import { slowness } from '../bus/slow'
import { prefix } from './fields'
import type { ConnectionField, OutgoingValue } from './kind'

const name = z.string().min(1).max(128)

/** A message of the database that is sent again and again. */
const busSending = z.strictObject({
  message: name,
  everyMs: z.int().min(5, 'at most 200 times a second').max(60_000, 'at least once a minute'),
  on: z.boolean().default(true),
  /** What goes into its signals; a signal that is not named is 0. */
  values: z
    .array(z.strictObject({ signal: name, value: z.string().max(2000), slow: slowness.optional() }))
    .max(64),
  /** The signal that counts up with each. */
  counter: name.optional(),
  /** The signal that makes sure of the others, and how. */
  check: z.strictObject({ signal: name, how: z.enum(messageChecks) }).optional(),
})
export type BusSending = z.infer<typeof busSending>

const speeds = busSpeeds as unknown as [number, ...number[]]

/** What every connection to a vehicle bus has. */
export const busSettings = {
  /** Bits a second on the bus, which all that hangs on it have in common. */
  busSpeed: z
    .union(speeds.map((s) => z.literal(s)) as [z.ZodLiteral<number>, ...z.ZodLiteral<number>[]])
    .default(500_000),
  database: busDatabase.default(noDatabase),
  send: z.array(busSending).max(100).default([]),
  prefix,
}

export const busSpeedField: ConnectionField = {
  key: 'busSpeed',
  label: 'Bus speed',
  as: 'choice',
  hint: 'that of the vehicle: a wrong one disturbs everything on the bus',
  choices: [500_000, ...busSpeeds.filter((s) => s !== 500_000)],
  unit: 'bit/s',
}

interface Settings {
  readonly database: BusDatabase
  readonly send: readonly BusSending[]
}

/** Where a sent value belongs: by its message and its place in that. */
export const busKey = (sending: number, value: number): string => `${sending}.${value}`

/** The values of all messages that are sent. */
export const outgoingToBus = ({ database, send }: Settings): OutgoingValue[] =>
  send.flatMap(({ message, on, values }, i) => {
    const known = database.messages.find((m) => m.name === message)
    return on && known
      ? values.flatMap(({ signal, value }, k) => {
          const unit = known.signals.find((s) => s.name === signal)?.unit
          return value.trim() === ''
            ? []
            : [{ key: busKey(i, k), expression: value, ...(unit ? { unit } : {}) }]
        })
      : []
  })
