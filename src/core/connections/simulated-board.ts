import { z } from 'zod'
import type { ConnectionKind } from './kind'

const kind = 'simulated board'
const pin = z.int().min(0).max(10_000)
const settings = z.strictObject({
  kind: z.literal(kind),
  /** The identity under which it answers. */
  identity: z.string().regex(/^[0-9a-f]{16}$/, 'an identity is 16 hexadecimal digits'),
  model: z.string().min(1).max(120),
  /** Contacts that are closed before anybody has touched the panel, and where wipers stand then, 0 to 1. */
  closed: z.array(pin).max(1000).default([]),
  wipers: z
    .array(z.tuple([pin, z.number().min(0).max(1)]))
    .max(1000)
    .default([]),
})

export const simulatedBoard: ConnectionKind<typeof settings> = {
  name: 'Simulated board',
  summary: 'stands for a board until a real one takes its place',
  carries: 'board',
  isSimulated: true,
  settings,
  fresh: { kind, identity: '0000000000000000', model: 'ATmega328P board', closed: [], wipers: [] },
  fields: [{ key: 'model', label: 'Board', as: 'board model', hint: 'what it is' }],
  address: () => 'comes with Clavik',
}
