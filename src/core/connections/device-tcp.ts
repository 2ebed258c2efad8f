import { z } from 'zod'
import { noDescription } from '../device-line/description'
import { deviceSettings, outgoingToDevice } from './device-settings'
import { host, hostAndPort, hostField, portField, portNumber, prefixField } from './fields'
import type { ConnectionKind } from './kind'

const kind = 'device tcp'
const settings = z.strictObject({ kind: z.literal(kind), host, port: portNumber, ...deviceSettings })

export const deviceTcp: ConnectionKind<typeof settings> = {
  name: 'Own device over the network',
  summary:
    'a program or a device of one’s own over TCP: chosen values as lines or packets, and what it says back',
  carries: 'source',
  isSimulated: false,
  settings,
  fresh: { kind, host: '127.0.0.1', port: 47_840, prefix: '', description: noDescription },
  fields: [hostField, portField, prefixField],
  address: (s) => hostAndPort(s.host, s.port),
  outgoing: outgoingToDevice,
}
