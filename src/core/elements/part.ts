import { z } from 'zod'
import { indicatorKind } from '../aspects/aspects'
import { isIndicator, type PartKind } from '../catalogue/part-kind'
import { partKind, partKinds } from '../catalogue/parts'
import type { State } from '../signal/state'
import { type ElementKind, heldSettings, live, nothingFollowed } from './element-kind'

/** What of the catalogue can be drawn on a screen: what shows something by itself. Needles have an element of their own. */
const drawn = new Set(['lamp', 'legend-lamp', 'digits', 'text', 'colour-lamp', 'strip'])

export const partsToDraw = (): readonly PartKind[] => partKinds.filter((k) => drawn.has(k.front.look))

const settings = z.strictObject({
  kind: z.literal('part'),
  ...heldSettings,
  /** The part of the catalogue. */
  part: z
    .string()
    .max(120)
    .refine((id) => drawn.has(partKind(id)?.front.look ?? ''), 'this part cannot be drawn on a screen'),
})
export type PartElement = z.infer<typeof settings>

export const part: ElementKind<typeof settings> = {
  kind: 'part',
  word: 'Part',
  says: 'a lamp, digits or a display of the catalogue, as it looks',
  settings,
  live: () => [live('value', { as: 'any' })],
  fresh: () => ({
    width: 60,
    height: 60,
    settings: { ...nothingFollowed, kind: 'part', part: 'lamp-8-green' },
  }),
  range: () => [0, 1],
}

/** What a part shows for a value: what a bare one makes of it, or what it is out as. */
export const stateFor = (kind: PartKind, value: number | string | null): State => {
  const aspect = kind.aspects.find(isIndicator)
  if (!aspect) return 0
  const presence = indicatorKind(aspect.kind).presence(aspect, undefined)
  return (value === null ? null : presence.bare(value)) ?? presence.rest('out') ?? 0
}
