import { z } from 'zod'
import { simulatedModelNames } from '../controllers/simulated-models'
import { identity } from './controller'
import type { ConnectionKind } from './kind'

const kind = 'simulated controller'
const settings = z.strictObject({
  kind: z.literal(kind),
  identity,
  model: z.enum(simulatedModelNames),
})

/** A controller that is none, with the same bytes. */
export const simulatedController: ConnectionKind<typeof settings> = {
  name: 'Simulated controller',
  summary: 'a yoke, a throttle quadrant or a switch box, to be worked on screen',
  carries: 'board',
  isSimulated: true,
  settings,
  fresh: { kind, identity: '0000000000000000', model: 'switch box' },
  fields: [],
  address: () => 'comes with Clavik',
}
