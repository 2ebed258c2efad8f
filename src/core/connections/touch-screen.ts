import { z } from 'zod'
import { identity } from './controller'
import type { ConnectionKind } from './kind'

const kind = 'touch screen'
const settings = z.strictObject({
  kind: z.literal(kind),
  identity,
  /** The screen of the rig on which it is touched. */
  screen: z.string().min(1).max(80),
})

/** Fingers on a screen of the rig: buttons, sliders and knobs that are drawn there, as a controller whose contacts are given. */
export const touchScreen: ConnectionKind<typeof settings> = {
  name: 'Touch screen',
  summary: 'buttons, sliders and knobs on a screen; it is added with the first of them, under Screens',
  carries: 'board',
  isSimulated: false,
  settings,
  fresh: { kind, identity: '0000000000000000', screen: 'none' },
  fields: [],
  address: () => 'fingers on a screen',
}
