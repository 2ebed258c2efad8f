import { z } from 'zod'
import { host, hostAndPort, hostField, portField, portNumber } from './fields'
import type { ConnectionKind } from './kind'

const kind = 'board tcp'
const settings = z.strictObject({ kind: z.literal(kind), host, port: portNumber })

export const boardTcp: ConnectionKind<typeof settings> = {
  name: 'Board over the network',
  summary: 'a board that speaks the board link over TCP, or a serial port that another computer passes on',
  carries: 'board',
  isSimulated: false,
  settings,
  fresh: { kind, host: '127.0.0.1', port: 47801 },
  fields: [hostField, portField],
  address: (s) => hostAndPort(s.host, s.port),
}
