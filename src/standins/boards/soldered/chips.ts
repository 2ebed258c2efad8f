import type { Chip } from '../../../core/harness/chip'
import { hc165 } from './hc165'
import { hc595 } from './hc595'
import { mcp23017 } from './mcp23017'
import { motorDriver4 } from './motor-driver-4'
import { mux16 } from './mux-16'
import { pca9685 } from './pca9685'
import type { Channels, ChipMaker, SolderedChip } from './soldered'
import { tlc5940 } from './tlc5940'

/** By kind in the catalogue. What only follows a pin needs nothing here. */
export const chipMakers: Readonly<Record<string, ChipMaker>> = {
  'mux-16': mux16,
  '74hc165': hc165,
  '74hc595': hc595,
  mcp23017,
  tlc5940,
  pca9685,
  'motor-driver-4': motorDriver4,
}

export const solderedChip = (chip: Chip, channels: Channels): SolderedChip =>
  chipMakers[chip.kind]?.(chip, channels) ?? {}
