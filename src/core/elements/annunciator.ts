import { z } from 'zod'
import { colour, type ElementKind, heldSettings, lettering, live, nothingFollowed } from './element-kind'

const settings = z.strictObject({
  kind: z.literal('annunciator'),
  ...heldSettings,
  ...lettering,
  words: z.string().max(120),
  /** Words and ground while it is lit. */
  colour,
  ground: colour,
  /** How it looks while it is out: nothing to be seen, or its words just to be read. */
  out: z.enum(['dark', 'readable']),
})
export type AnnunciatorSettings = z.infer<typeof settings>

export const annunciator: ElementKind<typeof settings> = {
  kind: 'annunciator',
  word: 'Annunciator',
  says: 'words that light up',
  settings,
  live: () => [live('value', { as: 'condition' }), live('text')],
  fresh: () => ({
    width: 120,
    height: 34,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'annunciator', words: 'CAUTION', colour: '#1b1206', ground: '#f2a93b', out: 'readable' },
      ...{ sizePx: 17, align: 'middle', face: 'words', bold: true },
    },
  }),
  range: () => [0, 1],
}
