import type { AspectSettings } from '../aspects/aspects'
import { FULL_LEVEL } from '../aspects/travel'
import { alongBands } from '../signal/bands'
import { alongCurve } from '../signal/curve'

/** Where a lever stands between its ends at a reported level (0 to 1023): 0 to 1, turned round and matched as its part says. */
export const travelPlace = (settings: AspectSettings | undefined, level: number): number => {
  const travel = settings?.kind === 'travel' ? settings : undefined
  const share = level / FULL_LEVEL
  const { low, high } = travel?.ends ?? { low: 0, high: 1 }
  const between = Math.min(1, Math.max(0, (share - low) / (high - low)))
  const place = travel?.invert ? 1 - between : between
  return travel?.match ? alongCurve(travel.match, place) : place
}

/** What a lever gives at a reported level (0 to 1023): its place along the travel, through its bands. */
export const travelOutput = (settings: AspectSettings | undefined, level: number): number => {
  const bands = settings?.kind === 'travel' ? (settings.bands ?? []) : []
  return Number(alongBands(bands, travelPlace(settings, level)).toFixed(6))
}
