import type { ExpanderKind } from '../expander-kind'

/** Two BSS138 with their pull-ups: a two-wire bus of 3.3 V on one side, of 5 V on the other, both ways. */
export const bss138: ExpanderKind = {
  id: 'bss138',
  code: 10,
  name: 'BSS138 bus shifter',
  says: 'the two-wire bus of a 3.3 V board for what wants 5 V, both ways',
  channelsPerChip: 2,
  mostChips: 1,
  abilities: ['bus'],
  follows: true,
  lines: [
    { id: 'in-1', name: 'low side, data', role: 'two-wire-data', shares: 'two-wire data' },
    { id: 'in-2', name: 'low side, clock', role: 'two-wire-clock', shares: 'two-wire clock' },
    { id: 'low', name: 'low supply', role: 'plus' },
    { id: 'plus', name: 'high supply', role: 'plus' },
    { id: 'ground', name: 'ground', role: 'ground' },
  ],
  volts: { least: 3, most: 5.5 },
  // Two pull-ups of 10 kΩ a side.
  draws: { typicalMa: 0.5, mostMa: 2 },
  milliampsPerChannel: 3,
  milliampsPerChip: 6,
}
