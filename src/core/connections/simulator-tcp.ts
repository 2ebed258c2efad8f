import { z } from 'zod'
import { host, hostAndPort, hostField, portField, portNumber, prefix, prefixField } from './fields'
import type { ConnectionKind } from './kind'

const kind = 'simulator tcp'
const settings = z.strictObject({ kind: z.literal(kind), host, port: portNumber, prefix })

export const simulatorTcp: ConnectionKind<typeof settings> = {
  name: 'Simulator over the network',
  summary: 'a simulator or telemetry that speaks the simulator link',
  carries: 'source',
  isSimulated: false,
  settings,
  fresh: { kind, host: '127.0.0.1', port: 47800, prefix: '' },
  fields: [hostField, portField, prefixField],
  address: (s) => hostAndPort(s.host, s.port),
}
