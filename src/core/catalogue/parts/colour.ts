import { bushed, carried, round, window } from '../mount'
import type { PartKind, Terminal } from '../part-kind'

const wires: readonly Terminal[] = [
  { id: 'ground', name: 'ground', role: 'ground' },
  { id: 'plus', name: 'supply', role: 'plus' },
  { id: 'data', name: 'data', role: 'drive' },
]

/** WS2812B data sheet, "Absolute maximum ratings" and "Electrical characteristics". */
const works = { least: 3.5, most: 5.3 }

/** One WS2812 lamp behind a lens. */
export const colourLamp: PartKind = {
  id: 'colour-lamp-8',
  name: 'RGB lamp, 8 mm',
  family: 'colour',
  draws: { typicalMa: 15, mostMa: 60 },
  volts: works,
  mount: bushed(round(8.2), [11, 11, 12], [9.2, 9.2]),
  front: { look: 'colour-lamp', lensMm: 8 },
  frontMm: { width: 9.2, height: 9.2 },
  terminals: wires,
  aspects: [{ kind: 'colour', id: 'colour', lamps: 1, terminals: ['data'] }],
}

const pitchMm = 6.9

const strip = (lamps: number): PartKind => ({
  id: `strip-${lamps}`,
  name: `RGB strip, ${lamps} lamps`,
  family: 'colour',
  draws: { typicalMa: 15 * lamps, mostMa: 60 * lamps },
  volts: works,
  mount: carried(window(lamps * pitchMm, 5, 1), [lamps * pitchMm + 4, 10, 6], [], 0),
  front: { look: 'strip', lamps, pitchMm },
  frontMm: { width: lamps * pitchMm, height: 7 },
  terminals: wires,
  aspects: [{ kind: 'colour', id: 'colour', lamps, terminals: ['data'] }],
})

export const strips: PartKind[] = [8, 16, 24].map(strip)
