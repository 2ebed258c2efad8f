import { z } from 'zod'
import { prefix, prefixField } from './fields'
import type { ConnectionKind } from './kind'

const kind = 'simulated craft'
const settings = z.strictObject({
  kind: z.literal(kind),
  /** From what its weather and its noise are made: the same number, the same flight. */
  seed: z.int().min(0).max(1_000_000).default(12),
  /** Names beyond its own, a third of which always move: to try the size of large simulators. */
  further: z.int().min(0).max(20_000).optional(),
  prefix,
})

export const simulatedCraft: ConnectionKind<typeof settings> = {
  name: 'Simulated craft',
  summary: 'the Skerry 12 that comes with Clavik, for building without a simulator',
  carries: 'source',
  isSimulated: true,
  settings,
  fresh: { kind, seed: 12, prefix: '' },
  fields: [
    prefixField,
    {
      ...{ key: 'further', label: 'Further variables', as: 'choice', choices: [0, 2000, 20_000] },
      hint: 'names without meaning beyond its own, a third of which always move: to try the size of large simulators',
    },
  ],
  address: () => 'comes with Clavik',
}
