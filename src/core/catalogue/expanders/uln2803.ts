import type { ExpanderKind } from '../expander-kind'

/** ULN2803: eight switches to ground, each following a pin of the board; diodes take what a coil gives back. */
export const uln2803: ExpanderKind = {
  id: 'uln2803',
  code: 8,
  name: 'ULN2803 switch array',
  says: '8 coils or strong lamps, each following a pin of its own',
  channelsPerChip: 8,
  mostChips: 1,
  abilities: ['lamp'],
  sinks: true,
  follows: true,
  inductive: true,
  // Collector to emitter at 100 mA: ULN2803A data sheet, 6.5, V_CE(sat).
  dropVolts: 0.9,
  lines: [
    ...[1, 2, 3, 4, 5, 6, 7, 8].map((n) => ({ id: `in-${n}`, name: `input ${n}`, role: 'drive' as const })),
    { id: 'plus', name: 'supply of the coils', role: 'plus' },
    { id: 'ground', name: 'ground', role: 'ground' },
  ],
  volts: { least: 3, most: 50 },
  draws: { typicalMa: 0, mostMa: 0 },
  // ULN2803A data sheet, 6.3 and figure 5: 500 mA a channel absolute, less with all of them on.
  milliampsPerChannel: 350,
  milliampsPerChip: 1000,
}
