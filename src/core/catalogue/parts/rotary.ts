import type { Degrees } from '../../units-of-measure'
import { bushed, flatSided } from '../mount'
import type { PartKind, Position } from '../part-kind'

const ids = (count: number) => Array.from({ length: count }, (_, i) => `${i + 1}`)

const mount = bushed(flatSided(9.7, 8.9), [27, 27, 24], [28, 28])

/** A rotary switch with a contact of its own for each position; it breaks before it makes. */
const rotary = (count: number, stepDeg: Degrees = 30): PartKind => ({
  id: stepDeg === 30 ? `rotary-${count}` : `rotary-${count}-${stepDeg}deg`,
  name: `Rotary switch, ${count} positions of ${stepDeg}°`,
  family: 'rotary',
  front: { look: 'rotary', knobMm: 20, stepDeg },
  frontMm: { width: 20, height: 20 },
  mount,
  terminals: [
    { id: 'common', name: 'common', hint: 'to ground', role: 'common' },
    ...ids(count).map((id) => ({ id, name: `contact of position ${id}`, role: 'contact' as const })),
  ],
  aspects: [
    {
      kind: 'positions',
      id: 'position',
      positions: ids(count).map((id): Position => ({ id, closes: [id] })) as [Position, ...Position[]],
      momentary: false,
      debounceMs: 8,
      gap: true,
    },
  ],
})

/** The same switch with a chain of equal resistors from ground to the supply: one analog pin for all positions. */
const ladder = (count: number): PartKind => ({
  id: `rotary-${count}-ladder`,
  name: `Rotary switch, ${count} positions of 30°, resistor ladder`,
  family: 'rotary',
  front: { look: 'rotary', knobMm: 20, stepDeg: 30 },
  frontMm: { width: 20, height: 20 },
  mount,
  terminals: [
    { id: 'ground', name: 'lower end of the ladder', hint: 'to ground', role: 'ground' },
    { id: 'plus', name: 'upper end of the ladder', hint: 'to the board’s supply', role: 'plus' },
    { id: 'wiper', name: 'wiper', hint: 'to an analog pin', role: 'wiper' },
  ],
  aspects: [
    {
      kind: 'positions',
      id: 'position',
      positions: ids(count).map((id, i): Position => ({ id, closes: [], level: i / (count - 1) })) as [
        Position,
        ...Position[],
      ],
      momentary: false,
      debounceMs: 20,
      gap: true,
      wiper: 'wiper',
    },
  ],
})

/** Switches click at their own angle, whatever the dial they stand for does. */
export const rotaries: PartKind[] = [
  ...[4, 6, 7, 8, 9, 11, 12].map((count) => rotary(count)),
  ...[5, 10].map((count) => rotary(count, 36)),
  ...[3, 5, 8].map((count) => rotary(count, 45)),
]
export const ladders: PartKind[] = [4, 6, 8, 12].map(ladder)
