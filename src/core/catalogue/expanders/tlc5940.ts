import { type ExpanderKind, sharedLine, supplyLines } from '../expander-kind'

/** TLC5940: sixteen lamps a chip, each of its own brightness, at a current that one resistor sets for all. */
export const tlc5940: ExpanderKind = {
  id: 'tlc5940',
  code: 5,
  name: 'TLC5940 lamp driver',
  says: '16 lamps a chip with brightness and no series resistors, on five pins however long the chain',
  channelsPerChip: 16,
  mostChips: 6,
  worksBytes: 16,
  abilities: ['lamp'],
  sinks: true,
  holdsCurrent: true,
  // I = 31.5 · V(IREF) / R(IREF), V(IREF) = 1.24 V: TLC5940 data sheet, "Setting maximum channel current".
  setBy: { volts: 1.24, times: 31.5 },
  lines: [
    { id: 'data', name: 'data', role: 'drive' },
    sharedLine('tlc5940', 'clock', 'clock'),
    sharedLine('tlc5940', 'latch', 'latch'),
    sharedLine('tlc5940', 'blank', 'blank'),
    // 4,096 edges a period that never stop: only a timer gives those (TLC5940 data sheet, "Grayscale PWM operation"), and not the
    // one that counts the board's own time.
    sharedLine('tlc5940', 'steps', 'brightness clock', { needs: 'steps' }),
    ...supplyLines,
  ],
  volts: { least: 3, most: 5.5 },
  draws: { typicalMa: 15, mostMa: 30 },
  // TLC5940 data sheet, "Recommended operating conditions": 60 mA a channel below 3.6 V.
  milliampsPerChannel: 60,
  milliampsPerChip: 960,
}
