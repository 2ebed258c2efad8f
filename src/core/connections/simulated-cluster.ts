import { z } from 'zod'
import { busSettings, outgoingToBus } from './bus-settings'
import { clusterDatabase } from './cluster-database'
import { prefixField } from './fields'
import type { ConnectionKind } from './kind'

const kind = 'simulated cluster'
const settings = z.strictObject({ kind: z.literal(kind), ...busSettings })

export const simulatedCluster: ConnectionKind<typeof settings> = {
  name: 'Simulated cluster',
  summary:
    'an instrument cluster on a vehicle bus that comes with Clavik; its needles take their time, as real ones do',
  carries: 'source',
  isSimulated: true,
  settings,
  fresh: { kind, busSpeed: 500_000, database: clusterDatabase, send: [], prefix: 'cluster.' },
  fields: [prefixField],
  address: () => 'comes with Clavik',
  outgoing: outgoingToBus,
}
