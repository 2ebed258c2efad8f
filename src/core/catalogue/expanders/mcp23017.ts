import { type ExpanderKind, supplyLines, twoWireLines } from '../expander-kind'

/** MCP23017: sixteen pins on the two-wire bus, each an input with its own pull-up or an output. */
export const mcp23017: ExpanderKind = {
  id: 'mcp23017',
  code: 4,
  name: 'MCP23017 port expander',
  says: '16 contacts or lamps on the two-wire bus, up to eight side by side',
  channelsPerChip: 16,
  mostChips: 1,
  worksBytes: 6,
  abilities: ['contact', 'lamp'],
  lines: [...twoWireLines, ...supplyLines],
  addresses: { first: 0x20, count: 8 },
  volts: { least: 1.8, most: 5.5 },
  draws: { typicalMa: 1, mostMa: 2 },
  // MCP23017 data sheet, 1.0: 25 mA an output, 125 mA into VDD.
  milliampsPerChannel: 25,
  milliampsPerChip: 125,
}
