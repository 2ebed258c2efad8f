import { type ExpanderKind, sharedLine, supplyLines } from '../expander-kind'

/** TLC5940: sixteen lamps a chip, each of its own brightness, at a current that one resistor sets for all. */
export const tlc5940: ExpanderKind = {
  id: 'tlc5940',
  code: 5,
  name: 'TLC5940 lamp driver',
  says: '16 lamps a chip with brightness and no series resistors, on five pins however long the chain',
  channelsPerChip: 16,
  mostChips: 6,
  abilities: ['lamp'],
  sinks: true,
  holdsCurrent: true,
  lines: [
    { id: 'data', name: 'data', role: 'drive' },
    sharedLine('tlc5940', 'clock', 'clock'),
    sharedLine('tlc5940', 'latch', 'latch'),
    sharedLine('tlc5940', 'blank', 'blank'),
    sharedLine('tlc5940', 'steps', 'brightness clock'),
    ...supplyLines,
  ],
  volts: { least: 3, most: 5.5 },
  draws: { typicalMa: 15, mostMa: 30 },
  milliampsPerChannel: 60,
  milliampsPerChip: 960,
}
