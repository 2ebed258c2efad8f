import { z } from 'zod'
import { noDatabase } from '../bus/database'
import { busSettings, busSpeedField, outgoingToBus } from './bus-settings'
import { host, hostAndPort, hostField, portField, portNumber, prefixField } from './fields'
import type { ConnectionKind } from './kind'

const kind = 'bus tcp'
const settings = z.strictObject({ kind: z.literal(kind), host, port: portNumber, ...busSettings })

export const busTcp: ConnectionKind<typeof settings> = {
  name: 'Vehicle bus over the network',
  summary: 'CAN over an adapter that is reached by TCP and speaks the ASCII line protocol (slcan)',
  carries: 'source',
  isSimulated: false,
  settings,
  fresh: {
    ...{ kind, host: '127.0.0.1', port: 47_850 },
    ...{ busSpeed: 500_000, database: noDatabase, send: [], prefix: 'bus.' },
  },
  fields: [hostField, portField, busSpeedField, prefixField],
  address: (s) => hostAndPort(s.host, s.port),
  outgoing: outgoingToBus,
}
