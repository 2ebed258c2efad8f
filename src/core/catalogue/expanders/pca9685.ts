import { type ExpanderKind, supplyLines, twoWireLines } from '../expander-kind'

/** PCA9685: sixteen timed outputs on the two-wire bus, for servos and for lamps with brightness. */
export const pca9685: ExpanderKind = {
  id: 'pca9685',
  code: 6,
  name: 'PCA9685 pulse driver',
  says: '16 servos or lamps with brightness on the two-wire bus',
  channelsPerChip: 16,
  mostChips: 1,
  worksBytes: 34,
  abilities: ['lamp', 'servo'],
  lines: [...twoWireLines, ...supplyLines],
  // 0x70 calls all of these chips at once when they are switched on (PCA9685 data sheet, 7.1.1), the last two are reserved.
  addresses: { first: 0x40, count: 62, never: [0x70 - 0x40] },
  volts: { least: 2.3, most: 5.5 },
  draws: { typicalMa: 6, mostMa: 10 },
  // PCA9685 data sheet, table 12: an output gives 10 mA.
  milliampsPerChannel: 10,
  milliampsPerChip: 160,
}
