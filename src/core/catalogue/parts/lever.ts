import { bushed, flatSided, type Mount, window } from '../mount'
import type { PartKind, Terminal } from '../part-kind'

const terminals: readonly Terminal[] = [
  { id: 'ground', name: 'one end', hint: 'to ground', role: 'ground' },
  { id: 'plus', name: 'other end', hint: 'to the board’s supply', role: 'plus' },
  { id: 'wiper', name: 'wiper', hint: 'to an analog pin', role: 'wiper' },
]

/** A slot for the stem, and two screws at its ends. */
const slotted = (slotMm: number, widthMm: number, bodyMm: number, depthMm: number): Mount => ({
  cutouts: [window(widthMm, slotMm + 6, widthMm / 2)],
  screws: [-1, 1].map((side) => ({ xMm: 0, yMm: (side * (slotMm + 18)) / 2, diameterMm: 3.2 })),
  body: { widthMm: bodyMm, heightMm: slotMm + 28, depthMm },
  standoffMm: 0,
  reach: { widthMm: 28, heightMm: slotMm + 20 },
})

/** A slide lever over a linear pot, for power and the like. */
export const slideLever: PartKind = {
  id: 'lever-slide-75',
  name: 'Lever, 75 mm travel',
  family: 'lever',
  front: { look: 'slide', slotMm: 75, capMm: 18 },
  frontMm: { width: 18, height: 95 },
  mount: slotted(75, 4, 16, 24),
  terminals,
  aspects: [{ kind: 'travel', id: 'travel', wiper: 'wiper' }],
}

const slidePot = (slotMm: number): PartKind => ({
  id: `slide-pot-${slotMm}`,
  name: `Slide pot, ${slotMm} mm travel`,
  family: 'lever',
  front: { look: 'slide', slotMm, capMm: 10 },
  frontMm: { width: 10, height: slotMm + 12 },
  mount: {
    ...slotted(slotMm, 2.2, 9, 12),
    screws: [-1, 1].map((side) => ({ xMm: 0, yMm: (side * (slotMm + 11)) / 2, diameterMm: 3.2 })),
    reach: { widthMm: 18, heightMm: slotMm + 16 },
  },
  terminals,
  aspects: [{ kind: 'travel', id: 'travel', wiper: 'wiper' }],
})

export const slidePots: PartKind[] = [30, 45, 60].map(slidePot)

export const pot: PartKind = {
  id: 'pot',
  name: 'Pot with knob',
  family: 'lever',
  front: { look: 'pot', knobMm: 16 },
  frontMm: { width: 16, height: 16 },
  mount: bushed(flatSided(7.2, 6.5), [17, 20, 16], [24, 24]),
  terminals,
  aspects: [{ kind: 'travel', id: 'travel', wiper: 'wiper' }],
}
