import type { PartKind, Terminal } from '../part-kind'

const terminals: readonly Terminal[] = [
  { id: 'ground', name: 'one end to ground', role: 'ground' },
  { id: 'plus', name: 'other end to the board’s supply', role: 'plus' },
  { id: 'wiper', name: 'wiper to an analog pin', role: 'wiper' },
]

/** A slide lever over a linear pot, for power and the like. */
export const slideLever: PartKind = {
  id: 'lever-slide-75',
  name: 'Lever, 75 mm travel',
  front: { look: 'slide', slotMm: 75, capMm: 18 },
  frontMm: { width: 18, height: 95 },
  terminals,
  aspects: [{ kind: 'travel', id: 'travel', wiper: 'wiper' }],
}

export const pot: PartKind = {
  id: 'pot',
  name: 'Pot with knob',
  front: { look: 'pot', knobMm: 16 },
  frontMm: { width: 16, height: 16 },
  terminals,
  aspects: [{ kind: 'travel', id: 'travel', wiper: 'wiper' }],
}
