import type { PartKind, Position } from '../part-kind'

const ids = (count: number) => Array.from({ length: count }, (_, i) => `${i + 1}`)

/** A rotary switch with a contact of its own for each position; it breaks before it makes. */
const rotary = (count: number): PartKind => ({
  id: `rotary-${count}`,
  name: `Rotary switch, ${count} positions`,
  front: { look: 'rotary', knobMm: 20, stepDeg: 30 },
  frontMm: { width: 20, height: 20 },
  terminals: [
    { id: 'common', name: 'common to ground', role: 'common' },
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
  name: `Rotary switch, ${count} positions, resistor ladder`,
  front: { look: 'rotary', knobMm: 20, stepDeg: 30 },
  frontMm: { width: 20, height: 20 },
  terminals: [
    { id: 'ground', name: 'lower end of the ladder to ground', role: 'ground' },
    { id: 'plus', name: 'upper end of the ladder to the supply', role: 'plus' },
    { id: 'wiper', name: 'wiper to an analog pin', role: 'wiper' },
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

export const rotaries: PartKind[] = [4, 6, 8, 12].map(rotary)
export const ladders: PartKind[] = [4, 6, 8, 12].map(ladder)
