import { channelOf } from '../../../core/catalogue/place'
import type { Chip } from '../../../core/harness/chip'
import { type Configuration, pinsOf } from '../../../core/harness/slot'
import type { BoardPins, ChipDriver, DriverMaker } from './chip-driver'
import { hc165 } from './hc165/chip'
import { hc165Driver } from './hc165/driver'
import { hc595 } from './hc595/chip'
import { hc595Driver } from './hc595/driver'
import { mcp23017 } from './mcp23017/chip'
import { mcp23017Driver } from './mcp23017/driver'
import { motorDriver4 } from './motor-driver-4/chip'
import { motorDriver4Driver } from './motor-driver-4/driver'
import { mux16 } from './mux-16/chip'
import { mux16Driver } from './mux-16/driver'
import { pca9685 } from './pca9685/chip'
import { pca9685Driver } from './pca9685/driver'
import type { Channels, ChipMaker, SolderedChip } from './soldered-chip'
import { tlc5940 } from './tlc5940/chip'
import { tlc5940Driver } from './tlc5940/driver'

/** An expander as it stands in: the chip itself, and the board's program that works it. */
interface Expander {
  readonly chip: ChipMaker
  readonly driver: DriverMaker
}

/** By kind in the catalogue, whose record has the code on the wire. What only follows a pin needs nothing here. */
export const expanders: Readonly<Record<string, Expander>> = {
  'mux-16': { chip: mux16, driver: mux16Driver },
  '74hc165': { chip: hc165, driver: hc165Driver },
  '74hc595': { chip: hc595, driver: hc595Driver },
  mcp23017: { chip: mcp23017, driver: mcp23017Driver },
  tlc5940: { chip: tlc5940, driver: tlc5940Driver },
  pca9685: { chip: pca9685, driver: pca9685Driver },
  'motor-driver-4': { chip: motorDriver4, driver: motorDriver4Driver },
}

export const solderedChip = (chip: Chip, channels: Channels): SolderedChip =>
  expanders[chip.kind]?.chip(chip, channels) ?? {}

/** The programs for all chips in a configuration, in its order. */
export const driversFor = ({ chips, slots }: Configuration, pins: BoardPins): ChipDriver[] =>
  chips.map((chip, index) => {
    const lamps = slots
      .filter((s) => s.kind === 'lamp')
      .flatMap((s) => pinsOf(s))
      .flatMap((place) => {
        const at = channelOf(place)
        return at?.chip === index ? [at.channel] : []
      })
    return expanders[chip.kind]?.driver(chip, pins, new Set(lamps)) ?? {}
  })
