import { z } from 'zod'
import { type FieldTypeName, fieldTypeNames, fieldTypes } from './field-type'

/** What one datagram can carry over IPv4 (RFC 768: 65,535 less the headers). */
export const MOST_BYTES = 65_507
export const MOST_FIELDS = 2000
export const MOST_PACKETS = 32
/** A text is no longer than a display would ever show. */
const MOST_TEXT = 512

const offset = z
  .int()
  .min(0, 'the first byte is number 0')
  .max(MOST_BYTES - 1)
const order = z.enum(['little', 'big'])
const number = z.number().finite()
const wholeTypes = fieldTypeNames.filter((t) => fieldTypes[t].isWhole) as [FieldTypeName, ...FieldTypeName[]]

/** One value in a datagram: where it lies, how it is kept, and what it means. */
const field = z.strictObject({
  /** The name of its variable; of several in a row the first is `name.1`. */
  name: z
    .string()
    .trim()
    .min(1, 'a field needs a name')
    .max(120)
    .regex(/^[\p{L}_][\p{L}\p{N}_.]*$/u, 'a name begins with a letter and has letters, digits, _ and . only'),
  /** The offset of its first byte. */
  at: offset,
  as: z.enum(['text', ...fieldTypeNames]),
  /** Where it differs from the layout's. */
  order: order.optional(),
  /** Values in a row, or bytes of a text. */
  count: z.int().min(1).max(MOST_TEXT).optional(),
  /** Of a whole number only these bits, the lowest being 0. */
  bits: z.strictObject({ from: z.int().min(0).max(52), width: z.int().min(1).max(52) }).optional(),
  /** What is shown is what lies there, times this, plus that. */
  scale: number.refine((s) => s !== 0, 'a scale of 0 leaves nothing').optional(),
  add: number.optional(),
  unit: z.string().trim().min(1).max(24).optional(),
  range: z
    .tuple([number, number])
    .refine(([a, b]) => a < b, 'a range goes from less to more')
    .optional(),
  /** Words for 0, 1, 2 …. */
  choices: z.array(z.string().max(80)).min(1).max(200).optional(),
  description: z.string().max(300).optional(),
  /** Of what is sent: the value that goes there, as an expression. */
  value: z.string().max(2000).optional(),
})

/** One kind of datagram. */
const packet = z.strictObject({
  name: z.string().trim().min(1, 'a packet needs a name').max(80),
  bytes: z
    .int()
    .min(1, 'it has at least one byte')
    .max(MOST_BYTES, 'no datagram is longer than 65,507 bytes'),
  /** Whether longer ones are taken as well, for programs that add fields at the end. */
  longer: z.boolean().optional(),
  /** The number by which it is told from others: where it lies and which it is. */
  tell: z
    .strictObject({ at: offset, as: z.enum(wholeTypes), order: order.optional(), is: z.int() })
    .optional(),
  /** The field that only ever grows, a time or a count: what comes late or twice is known by it. */
  grows: z.string().max(120).optional(),
  fields: z.array(field).max(MOST_FIELDS, 'a packet has at most 2,000 fields'),
  /** Where it goes, if it is one that Clavik sends. */
  send: z
    .strictObject({
      host: z
        .string()
        .trim()
        .min(1, 'a computer is needed: its name or its address')
        .max(253)
        .regex(/^[\p{L}\p{N}._:%-]+$/u, 'that is no name or address of a computer'),
      port: z.int().min(1, 'ports are 1 to 65535').max(65_535, 'ports are 1 to 65535'),
      hz: z.number().min(0.1, 'at least once in ten seconds').max(200, 'at most 200 times a second'),
      when: z.enum(['always', 'changed']),
    })
    .optional(),
})

/** What the datagrams on a port are made of. */
export const datagramLayout = z.strictObject({
  /** What is flown or driven, as people say it. */
  craft: z.string().trim().max(120),
  order,
  packets: z.array(packet).max(MOST_PACKETS, 'a layout has at most 32 packets'),
})

export type ByteOrder = z.infer<typeof order>
export type DatagramField = z.infer<typeof field>
export type DatagramPacket = z.infer<typeof packet>
export type DatagramLayout = z.infer<typeof datagramLayout>

export const noLayout: DatagramLayout = { craft: '', order: 'little', packets: [] }

/** How many bytes one of its values takes. */
export const bytesOfOne = (f: Pick<DatagramField, 'as'>): number =>
  f.as === 'text' ? 1 : fieldTypes[f.as].bytes

/** The first byte behind a field. */
export const endOf = (f: Pick<DatagramField, 'as' | 'at' | 'count'>): number =>
  f.at + bytesOfOne(f) * (f.count ?? 1)

/** How many variables a field is. */
export const valuesOf = (f: Pick<DatagramField, 'as' | 'count'>): number =>
  f.as === 'text' ? 1 : (f.count ?? 1)

/** The names of a field's variables. */
export const namesOf = (f: DatagramField): string[] =>
  f.as === 'text' || f.count === undefined
    ? [f.name]
    : Array.from({ length: f.count }, (_, i) => `${f.name}.${i + 1}`)
