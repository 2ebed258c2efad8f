import { z } from 'zod'
import { prefix, prefixField } from './fields'
import type { ConnectionKind } from './kind'

export const pressings = ['really', 'only shown'] as const

const kind = 'virtual keys'
const settings = z.strictObject({
  kind: z.literal(kind),
  /** Whether keys are really pressed, or only shown: while one builds, nobody wants letters in a window. */
  press: z.enum(pressings).default('really'),
  prefix,
})

export const virtualKeys: ConnectionKind<typeof settings> = {
  name: 'Keys and virtual controller',
  summary: 'presses keys of this computer, and moves a controller that is none, for programs without a link',
  carries: 'source',
  isSimulated: false,
  settings,
  fresh: { kind, press: 'only shown', prefix: '' },
  fields: [
    {
      ...{ key: 'press', label: 'Keys are', as: 'choice', choices: pressings },
      hint: 'pressed in whatever window is in front, or only shown here, to try it',
    },
    prefixField,
  ],
  address: () => 'this computer',
}
