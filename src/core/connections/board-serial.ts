import { z } from 'zod'
import type { ConnectionField, ConnectionKind } from './kind'

/** Speeds that boards and adapters know, in bits a second. */
export const serialSpeeds = [
  9600, 19_200, 38_400, 57_600, 115_200, 230_400, 250_000, 460_800, 500_000, 921_600, 1_000_000, 2_000_000,
] as const

/** What a board of ours speaks unless it is told otherwise. */
export const USUAL_SPEED = 115_200

const kind = 'board serial'
/** What is set on every serial port. */
export const serialPort = {
  /** Where the system keeps the port: a file, or a name such as COM4. */
  path: z
    .string()
    .trim()
    .min(1, 'a port is needed')
    .max(200)
    .regex(/^(\/[^\0]+|COM\d{1,3})$/, 'a port is a path such as /dev/ttyACM0, or a name such as COM4'),
  speed: z
    .int()
    .min(300, 'no port is slower than 300 bits a second')
    .max(4_000_000, 'no port is faster than 4,000,000 bits a second'),
  dataBits: z.literal([7, 8]).default(8),
}
const settings = z.strictObject({ kind: z.literal(kind), ...serialPort })

/** How a serial port is asked for. */
export const serialFields: readonly ConnectionField[] = [
  { key: 'path', label: 'Port', as: 'serial port', hint: 'as the system names it' },
  {
    key: 'speed',
    label: 'Speed',
    as: 'choice',
    hint: 'bits a second; it has to be that of the other end’s program',
    choices: serialSpeeds,
    unit: 'bit/s',
  },
  { key: 'dataBits', label: 'Data bits', as: 'choice', hint: '8, but for old lines', choices: [8, 7] },
]

export const boardSerial: ConnectionKind<typeof settings> = {
  name: 'Board on a serial port',
  summary: 'a board that is plugged in here',
  carries: 'board',
  isSimulated: false,
  settings,
  fresh: { kind, path: '/dev/ttyACM0', speed: USUAL_SPEED, dataBits: 8 },
  fields: serialFields,
  address: (s) => s.path,
}
