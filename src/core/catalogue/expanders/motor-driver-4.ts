import { type ExpanderKind, supplyLines } from '../expander-kind'
import type { Terminal } from '../part-kind'

const lines = (n: number): Terminal[] => [
  { id: `step-${n}`, name: `step of motor ${n}`, role: 'drive' },
  { id: `way-${n}`, name: `direction of motor ${n}`, role: 'drive' },
]

/** X12.017 and its like: four gauge motors, each on a step and a direction line instead of four pins. */
export const motorDriver4: ExpanderKind = {
  id: 'motor-driver-4',
  code: 7,
  name: 'X12.017 gauge motor driver',
  says: '4 four-wire gauge motors on nine pins instead of sixteen, and smoother',
  channelsPerChip: 16,
  mostChips: 1,
  worksBytes: 0,
  abilities: ['coil'],
  lines: [
    ...[1, 2, 3, 4].flatMap(lines),
    { id: 'reset', name: 'reset', role: 'drive', shares: 'motor-driver-4 reset' },
    ...supplyLines,
  ],
  volts: { least: 4.5, most: 5.5 },
  draws: { typicalMa: 2, mostMa: 5 },
  // X12.017 data sheet, "Electrical characteristics": 30 mA a coil end.
  milliampsPerChannel: 30,
  milliampsPerChip: 200,
}
