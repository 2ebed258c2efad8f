import { z } from 'zod'
import { LineReader } from './line-reader'

export const SIMULATOR_LINK_VERSION = 1

const value = z.union([z.number(), z.string(), z.boolean(), z.null()])
const index = z.number().int().nonnegative()
const id = z.number().int()

const fromSimulator = z.discriminatedUnion('say', [
  z.object({
    say: z.literal('hello'),
    link: z.literal('clavik simulator'),
    version: z.number().int(),
    craft: z.string(),
    rateHz: z.number().positive().optional(),
  }),
  /** What of it can be taken is for `readCatalogue` to say. */
  z.object({
    say: z.literal('catalogue'),
    variables: z.array(z.unknown()),
    events: z.array(z.unknown()).default([]),
  }),
  z
    .object({ say: z.literal('frame'), t: z.number(), i: z.array(index), v: z.array(value) })
    .refine((f) => f.i.length === f.v.length, 'as many values as indexes'),
  z.object({ say: z.literal('done'), id }),
  z.object({ say: z.literal('error'), id: id.nullable(), message: z.string() }),
])

const toSimulator = z.discriminatedUnion('say', [
  z.object({ say: z.literal('hello'), version: z.number().int() }),
  /** Tell these from now on, all their present values first. Replaces what was asked before. */
  z.object({ say: z.literal('subscribe'), i: z.union([z.literal('all'), z.array(index)]) }),
  z.object({ say: z.literal('set'), id, i: index, v: z.union([z.number(), z.string()]) }),
  z.object({ say: z.literal('event'), id, e: index, v: z.union([z.number(), z.string()]).nullable() }),
])

export type FromSimulator = z.infer<typeof fromSimulator>
export type ToSimulator = z.infer<typeof toSimulator>

const isIndex = (x: unknown): boolean => typeof x === 'number' && x >= 0 && Number.isInteger(x)
const isValue = (x: unknown): boolean =>
  x === null || typeof x === 'number' || typeof x === 'string' || typeof x === 'boolean'

/** A number too large for any number (1e999) is none: such a value is absent. */
const onlyNumbers = (values: unknown[]): void => {
  for (let i = 0; i < values.length; i++) {
    const v = values[i]
    if (typeof v === 'number' && !Number.isFinite(v)) values[i] = null
  }
}

/**
 * The two commonest messages by hand: thirty times a second with thousands of values, and after every action, the
 * schema would be most of the work.
 */
const quickMessage = (json: unknown): FromSimulator | null => {
  const m = json as { say?: unknown; id?: unknown; t?: unknown; i?: unknown; v?: unknown } | null
  if (m?.say === 'done' && Number.isInteger(m.id)) return m as FromSimulator
  if (m?.say !== 'frame' || typeof m.t !== 'number' || !Array.isArray(m.i) || !Array.isArray(m.v)) return null
  if (m.i.length !== m.v.length || !m.i.every(isIndex) || !m.v.every(isValue)) return null
  onlyNumbers(m.v)
  return m as FromSimulator
}

export const readerOfSimulator = () => new LineReader<FromSimulator>(fromSimulator, quickMessage)
export const readerOfClavik = () => new LineReader<ToSimulator>(toSimulator)

/** A message as the line that travels. */
export const line = (message: FromSimulator | ToSimulator): string => `${JSON.stringify(message)}\n`
