import { z } from 'zod'
import { datagramSettings, outgoingOf } from './datagram-settings'
import { prefixField } from './fields'
import type { ConnectionKind } from './kind'
import { torskLayout } from './torsk-layout'

const kind = 'simulated truck'
const settings = z.strictObject({ kind: z.literal(kind), ...datagramSettings })

export const simulatedTruck: ConnectionKind<typeof settings> = {
  name: 'Simulated truck',
  summary: 'the Torsk R4 that comes with Clavik: a rally truck that tells what it does in datagrams',
  carries: 'source',
  isSimulated: true,
  settings,
  fresh: { kind, layout: torskLayout, prefix: 'truck.' },
  fields: [prefixField],
  address: () => 'comes with Clavik',
  outgoing: outgoingOf,
}
