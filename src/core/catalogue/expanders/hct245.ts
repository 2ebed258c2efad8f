import { type ExpanderKind, supplyLines } from '../expander-kind'

/** 74HCT245: eight lines of a 3.3 V board as lines of 5 V. It takes 2 V for high, and goes one way only. */
export const hct245: ExpanderKind = {
  id: '74hct245',
  code: 9,
  name: '74HCT245 level shifter',
  says: '8 lines of a 3.3 V board for what wants 5 V, each following a pin of its own',
  channelsPerChip: 8,
  mostChips: 1,
  abilities: ['line'],
  follows: true,
  lines: [
    ...[1, 2, 3, 4, 5, 6, 7, 8].map((n) => ({ id: `in-${n}`, name: `input ${n}`, role: 'drive' as const })),
    ...supplyLines,
  ],
  volts: { least: 4.5, most: 5.5 },
  draws: { typicalMa: 1, mostMa: 8 },
  // 74HCT245 data sheet, "Static characteristics": 6 mA at full levels, 50 mA through VCC or ground.
  milliampsPerChannel: 6,
  milliampsPerChip: 50,
}
