import type { PartRow } from '../rig/rows'
import type { Watts } from '../units-of-measure'
import type { LampCircuit } from './lamp-circuit'

/** What a resistor stands where nothing is said: the usual size with wires. */
export const USUAL_WATTS: Watts = 0.25
/** Sizes in which resistors are sold. */
const SIZES: readonly Watts[] = [0.25, 0.5, 1, 2, 5]

const words: Readonly<Record<number, string>> = { 0.25: '¼ W', 0.5: '½ W' }
export const wattWords = (watts: Watts): string => words[watts] ?? `${watts} W`

/** What a lamp's series resistor turns into heat, I²R; null where it has none. */
export const resistorWatts = (part: PartRow, lamp: LampCircuit): Watts | null => {
  const ohms = part.settings.seriesOhms
  if (ohms === undefined || lamp.held || lamp.inductive) return null
  return (lamp.milliamps / 1000) ** 2 * ohms
}

/** The size that stands so much; null where none is sold. */
export const resistorSize = (watts: Watts): Watts | null => SIZES.find((s) => s >= watts) ?? null
