import type { AspectSettings } from '../aspects/aspects'
import { FULL_LEVEL } from '../aspects/travel'
import { alongBands } from '../signal/bands'

/** What a lever gives at a reported level (0 to 1023): its place along the travel, through its bands. */
export const travelOutput = (settings: AspectSettings | undefined, level: number): number => {
  const travel = settings?.kind === 'travel' ? settings : undefined
  const place = travel?.invert ? 1 - level / FULL_LEVEL : level / FULL_LEVEL
  return Number(alongBands(travel?.bands ?? [], place).toFixed(6))
}
