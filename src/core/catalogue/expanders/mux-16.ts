import { type ExpanderKind, sharedLine, supplyLines } from '../expander-kind'

/** 74HC4067: one of sixteen channels at a time is joined with the signal line. */
export const mux16: ExpanderKind = {
  id: 'mux-16',
  code: 1,
  name: '74HC4067 multiplexer',
  says: '16 contacts or wipers on one analog pin and four address pins',
  channelsPerChip: 16,
  mostChips: 1,
  worksBytes: 2,
  abilities: ['contact', 'wiper'],
  lines: [
    { id: 'signal', name: 'signal', role: 'signal' },
    ...[0, 1, 2, 3].map((n) => sharedLine('mux-16', `s${n}`, `address ${n}`)),
    { id: 'enable', name: 'enable', hint: 'to ground', role: 'ground' },
    ...supplyLines,
  ],
  volts: { least: 2, most: 6 },
  draws: { typicalMa: 0.1, mostMa: 1 },
  // 74HC4067 data sheet, "Limiting values": 25 mA through a switch.
  milliampsPerChannel: 20,
  milliampsPerChip: 25,
}
