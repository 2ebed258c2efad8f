import { z } from 'zod'
import { noLayout } from '../datagrams/layout'
import { datagramSettings, outgoingOf } from './datagram-settings'
import { portField, portNumber, prefixField } from './fields'
import type { ConnectionKind } from './kind'

export const listens = ['this computer', 'the network'] as const

const kind = 'datagrams'
const settings = z.strictObject({
  kind: z.literal(kind),
  /** The port to which they come. */
  port: portNumber,
  /** From where they may come. */
  from: z.enum(listens).default('this computer'),
  ...datagramSettings,
})

export const datagrams: ConnectionKind<typeof settings> = {
  name: 'Datagrams',
  summary:
    'telemetry of a fixed layout that a program sends to a UDP port, and packets for a device of one’s own',
  carries: 'source',
  isSimulated: false,
  settings,
  fresh: { kind, port: 47_820, from: 'this computer', prefix: '', layout: noLayout },
  fields: [
    { ...portField, hint: 'to which the program sends, 1 to 65535' },
    {
      ...{ key: 'from', label: 'Taken from', as: 'choice', choices: listens },
      hint: 'programs on this computer only, or any in the network',
    },
    prefixField,
  ],
  address: (s) => `UDP port ${s.port}`,
  outgoing: outgoingOf,
}
