import { z } from 'zod'
import { prefix, prefixField } from './fields'
import type { ConnectionKind } from './kind'

const kind = 'this computer'
const settings = z.strictObject({ kind: z.literal(kind), prefix })

export const thisComputer: ConnectionKind<typeof settings> = {
  name: 'This computer',
  summary: 'its clock and date, how busy it is, how warm',
  carries: 'source',
  isSimulated: false,
  settings,
  fresh: { kind, prefix: 'computer.' },
  fields: [prefixField],
  address: () => 'the computer that Clavik runs on',
}
