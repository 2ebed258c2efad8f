import { z } from 'zod'
import { type FieldTypeName, fieldTypeNames } from '../datagrams/field-type'

const word = z
  .string()
  .trim()
  .min(1, 'a value needs a name')
  .max(32)
  .regex(
    /^[A-Za-z][A-Za-z0-9_]*$/,
    'a name here begins with a letter and has A to Z, digits and _ only: it goes into programs',
  )

/** Characters between and round values, as they are sent; no letters or digits, which values are made of. */
const mark = (most: number) =>
  z
    .string()
    .max(most)
    .regex(/^[^A-Za-z0-9.+\-\r\n]*$/, 'letters, digits, point and sign are what values are made of')

/** One value that goes out: what it is, and how it is written. */
const sent = z.strictObject({
  name: word,
  /** An expression of variables and controls. */
  value: z.string().max(2000),
  unit: z.string().trim().min(1).max(24).optional(),
  /** In a line: digits behind the point. */
  decimals: z.int().min(0).max(6).default(0),
  /** In a line: at least so many characters, filled with zeros in front. */
  width: z.int().min(1).max(20).optional(),
  /** In a packet: how it is kept; a text has room for `bytes`. */
  as: z.enum(['text', ...fieldTypeNames] as ['text', ...FieldTypeName[]]).default('f32'),
  bytes: z.int().min(1).max(64).optional(),
})

/** One value that comes back in a line. */
const heard = z.strictObject({
  name: word,
  as: z.enum(['number', 'text']).default('number'),
  unit: z.string().trim().min(1).max(24).optional(),
  description: z.string().max(200).optional(),
})

export const lineEnds = ['\n', '\r\n', '\r'] as const
export const checks = ['none', 'xor', 'sum', 'crc-16'] as const
export const forms = ['line', 'packet'] as const

/** What goes to a device of the builder’s own, in which order and how, and what comes back. */
export const deviceDescription = z.strictObject({
  form: z.enum(forms).default('line'),
  send: z.array(sent).max(200, 'a line has at most 200 values'),
  /** In front of the first value. */
  begins: mark(4).default('$'),
  separator: mark(4).min(1, 'values need something between them').default(','),
  ends: z.enum(lineEnds).default('\n'),
  /** Whether each value has its name in front. */
  named: z.boolean().default(false),
  check: z.enum(checks).default('xor'),
  /** Whether the fingerprint of this description goes along, so that both ends notice when they no longer fit. */
  marked: z.boolean().default(true),
  hz: z.number().min(0.1, 'at least once in ten seconds').max(100, 'at most 100 times a second').default(20),
  when: z.enum(['always', 'changed']).default('changed'),
  /** What comes back, in the order in which it stands in a line. */
  hear: z.array(heard).max(200).default([]),
})

export type DeviceDescription = z.infer<typeof deviceDescription>
export type SentValue = DeviceDescription['send'][number]
export type HeardValue = DeviceDescription['hear'][number]

export const noDescription: DeviceDescription = deviceDescription.parse({ send: [] })
