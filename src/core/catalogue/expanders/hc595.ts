import { type ExpanderKind, sharedLine, supplyLines } from '../expander-kind'

/** 74HC595: eight outputs a chip, shifted in and then shown all at once; on or off, no brightness. */
export const hc595: ExpanderKind = {
  id: '74hc595',
  code: 3,
  name: '74HC595 chain',
  says: '8 lamps a chip on three pins, on or off, however long the chain',
  channelsPerChip: 8,
  mostChips: 8,
  abilities: ['lamp'],
  lines: [
    { id: 'data', name: 'data', role: 'drive' },
    sharedLine('74hc595', 'clock', 'clock'),
    sharedLine('74hc595', 'latch', 'latch'),
    ...supplyLines,
  ],
  volts: { least: 2, most: 6 },
  draws: { typicalMa: 1, mostMa: 5 },
  // 74HC595 data sheet, "Absolute maximum ratings": 35 mA an output, 70 mA through VCC or ground; 20 used.
  milliampsPerChannel: 20,
  milliampsPerChip: 70,
}
