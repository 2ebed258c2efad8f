import { z } from 'zod'
import { prefix, prefixField } from './fields'
import type { ConnectionKind } from './kind'

const kind = 'simulated craft'
const settings = z.strictObject({
  kind: z.literal(kind),
  /** From what its weather and its noise are made: the same number, the same flight. */
  seed: z.int().min(0).max(1_000_000).default(12),
  prefix,
})

export const simulatedCraft: ConnectionKind<typeof settings> = {
  name: 'Simulated craft',
  summary: 'the Skerry 12 that comes with Clavik, for building without a simulator',
  carries: 'source',
  isSimulated: true,
  settings,
  fresh: { kind, seed: 12, prefix: '' },
  fields: [prefixField],
  address: () => 'comes with Clavik',
}
