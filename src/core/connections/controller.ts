import { z } from 'zod'
import type { ConnectionKind } from './kind'

export const identity = z.string().regex(/^[0-9a-f]{16}$/, 'an identity is 16 hexadecimal digits')
const kind = 'controller'
const word = z.int().min(0).max(0xffff)
const settings = z.strictObject({
  kind: z.literal(kind),
  /** Under which the rig knows it, on whichever port it is. */
  identity,
  vendor: word,
  product: word,
  serial: z.string().max(200),
  port: z.string().max(200),
  reads: z.enum(['Clavik and others', 'Clavik alone']).default('Clavik and others'),
})

/** A bought game controller, read through the system's own event devices. */
export const controller: ConnectionKind<typeof settings> = {
  name: 'Game controller',
  summary: 'a yoke, a quadrant, a switch box with USB; it is added where it is plugged in',
  carries: 'board',
  isSimulated: false,
  settings,
  fresh: {
    kind,
    ...{ identity: '0000000000000000', vendor: 0, product: 0, serial: '', port: '' },
    reads: 'Clavik and others',
  },
  fields: [
    {
      key: 'reads',
      label: 'Read by',
      as: 'choice',
      hint: 'alone: the simulator does nothing with it by itself',
      choices: ['Clavik and others', 'Clavik alone'],
    },
  ],
  address: (s) => (s.port === '' ? 'where it is plugged in' : s.port),
}
