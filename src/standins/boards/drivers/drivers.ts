import type { Chip } from '../../../core/harness/chip'
import { channelOf } from '../../../core/harness/chip'
import { type Configuration, pinsOf } from '../../../core/harness/slot'
import type { Pins } from '../pins'
import type { ChipDriver } from './chip-driver'
import { hc165Driver } from './hc165'
import { hc595Driver } from './hc595'
import { mcp23017Driver } from './mcp23017'
import { motorDriver4Driver } from './motor-driver-4'
import { mux16Driver } from './mux-16'
import { pca9685Driver } from './pca9685'
import { tlc5940Driver } from './tlc5940'

const driverFor = (chip: Chip, lamps: ReadonlySet<number>, pins: Pins): ChipDriver => {
  switch (chip.kind) {
    case 'mux-16':
      return mux16Driver(chip, pins)
    case '74hc165':
      return hc165Driver(chip, pins)
    case '74hc595':
      return hc595Driver(chip, pins)
    case 'mcp23017':
      return mcp23017Driver(chip, lamps, pins)
    case 'tlc5940':
      return tlc5940Driver(chip, pins)
    case 'pca9685':
      return pca9685Driver(chip, pins)
    case 'motor-driver-4':
      return motorDriver4Driver(chip, pins)
    default:
      return {}
  }
}

/** The drivers of all chips in a configuration, in its order. */
export const driversFor = ({ chips, slots }: Configuration, pins: Pins): ChipDriver[] =>
  chips.map((chip, index) => {
    const lamps = new Set(
      slots
        .filter((s) => s.kind === 'lamp')
        .flatMap((s) => pinsOf(s))
        .flatMap((place) => {
          const at = channelOf(place)
          return at?.chip === index ? [at.channel] : []
        }),
    )
    return driverFor(chip, lamps, pins)
  })
