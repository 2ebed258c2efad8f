import { bushed, round } from '../mount'
import type { PartKind, Position } from '../part-kind'

const sides = ['up', 'right', 'down', 'left'] as const

/** Clockwise from the top; between two sides both contacts are closed. */
const positions: readonly [Position, ...Position[]] = [
  { id: 'centre', closes: [] },
  { id: 'up', closes: ['up'] },
  { id: 'up right', closes: ['up', 'right'] },
  { id: 'right', closes: ['right'] },
  { id: 'down right', closes: ['down', 'right'] },
  { id: 'down', closes: ['down'] },
  { id: 'down left', closes: ['down', 'left'] },
  { id: 'left', closes: ['left'] },
  { id: 'up left', closes: ['up', 'left'] },
]

/** A cap under the thumb that leans to eight sides and springs back. */
export const thumbHat: PartKind = {
  id: 'thumb-hat',
  name: 'Hat switch, 8 ways',
  family: 'rotary',
  front: { look: 'hat', capMm: 13, bezelMm: 20 },
  frontMm: { width: 20, height: 20 },
  mount: bushed(round(16.2), [20, 20, 26], [24, 24]),
  terminals: [
    { id: 'common', name: 'common', hint: 'to ground', role: 'common' },
    ...sides.map((id) => ({ id, name: `${id} contact`, role: 'contact' as const })),
  ],
  aspects: [{ kind: 'positions', id: 'position', positions, momentary: true, debounceMs: 8 }],
}
