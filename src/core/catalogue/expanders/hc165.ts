import { type ExpanderKind, sharedLine, supplyLines } from '../expander-kind'

/** 74HC165: eight inputs a chip, taken all at once and shifted to the board one after the other. */
export const hc165: ExpanderKind = {
  id: '74hc165',
  code: 2,
  name: '74HC165 chain',
  says: '8 contacts a chip on three pins, however long the chain',
  channelsPerChip: 8,
  mostChips: 8,
  abilities: ['contact'],
  pullUpKiloohms: 10,
  lines: [
    { id: 'data', name: 'data out', hint: 'to the board', role: 'signal' },
    sharedLine('74hc165', 'clock', 'clock'),
    sharedLine('74hc165', 'load', 'load'),
    ...supplyLines,
  ],
  volts: { least: 2, most: 6 },
  draws: { typicalMa: 1, mostMa: 5 },
  // 74HC165 data sheet, "Absolute maximum ratings".
  milliampsPerChannel: 20,
  milliampsPerChip: 50,
}
