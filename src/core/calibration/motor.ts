import { GAINS_DEG_S2, type MotorLeads, type NeedleSettings } from '../aspects/needle'
import type { NeedlePoint } from '../signal/needle'
import { needleAngle } from '../signal/needle'
import type { Degrees, Millis } from '../units-of-measure'

/** What a builder can see a motor do that was told to turn forwards. */
export type SeenToDo = 'turned forwards' | 'turned backwards' | 'shivered'

/**
 * How the leads of a motor are to be taken next, by what it was seen to do: in one that turns backwards a coil is turned
 * round, in one that shivers the two coils are mixed. Null once it turns forwards.
 */
export const leadsFrom = (
  now: MotorLeads | null,
  seen: SeenToDo,
): { readonly leads: MotorLeads | null } | null =>
  seen === 'turned forwards' ? null : { leads: (seen === 'shivered' ? crossed : turned)[now ?? 'straight'] }

type Taken = Record<MotorLeads | 'straight', MotorLeads | null>
const turned: Taken = {
  straight: 'turned',
  turned: null,
  crossed: 'crossed and turned',
  'crossed and turned': 'crossed',
}
const crossed: Taken = {
  straight: 'crossed',
  crossed: null,
  turned: 'crossed and turned',
  'crossed and turned': 'turned',
}

/** Speed from which a motor may begin, and how much it may gain: `firmware/core/needle.hpp`, three steps a degree. */
const BEGINS_DEG_S = 100

/** How long a motor takes over an angle: it gains speed evenly, goes on at its greatest, and loses it as evenly. */
export const timeFor = (deg: Degrees, degPerS: number, gains = GAINS_DEG_S2): Millis => {
  const most = Math.max(degPerS, 1)
  const begins = Math.min(BEGINS_DEG_S, most)
  const gaining = (most * most - begins * begins) / (2 * gains)
  if (2 * gaining >= deg) {
    const top = Math.sqrt(begins * begins + gains * deg)
    return (2000 * (top - begins)) / gains
  }
  return (2000 * (most - begins)) / gains + (1000 * (deg - 2 * gaining)) / most
}

/** Where a needle's travel may begin so that the scale lies in its middle, and it never meets its stop. */
export const centredZero = (points: readonly NeedlePoint[], travelDeg: Degrees): Degrees => {
  const degs = points.map((p) => p.deg)
  return Number(((Math.min(...degs) + Math.max(...degs)) / 2 - travelDeg / 2).toFixed(1))
}

/** Points that the motor cannot reach, or that lie beyond the limits that are set: by their place in the list. */
export const outOfReach = (dial: NeedleSettings, travelDeg: Degrees): number[] => {
  const zero = dial.zeroDeg ?? -travelDeg / 2
  const least = Math.max(zero, dial.leastDeg ?? Number.NEGATIVE_INFINITY)
  const most = Math.min(zero + travelDeg, dial.mostDeg ?? Number.POSITIVE_INFINITY)
  return dial.points.flatMap((p, i) => (p.deg < least - 0.05 || p.deg > most + 0.05 ? [i] : []))
}

/** The list with a pair kept: in place of one of the same value, or where it belongs. */
export const keepPair = (points: readonly NeedlePoint[], pair: NeedlePoint): NeedlePoint[] =>
  [...points.filter((p) => p.value !== pair.value), pair].sort((a, b) => a.value - b.value)

/** A movement that a needle has to follow, and how it follows. */
export interface NeedleFollowed {
  /** From which value to which, within how long, and over what angle. */
  readonly from: number
  readonly to: number
  readonly ms: Millis
  readonly deg: Degrees
  /** How long the motor takes for it. */
  readonly takesMs: Millis
}

/** Stretches that the eye takes for one movement. */
const STRETCHES_MS: readonly Millis[] = [200, 400, 800, 1600, 3200]

/**
 * The movement in which a needle falls the furthest behind its variable, of a recording: over stretches of several lengths,
 * the one for whose angle the motor needs the longest beyond the time that there was. Null where nothing moved. Times rise,
 * in milliseconds; what jumps from one frame to the next had the whole stretch.
 */
export const furthestBehind = (
  times: ArrayLike<number>,
  values: ArrayLike<number>,
  dial: Pick<NeedleSettings, 'points' | 'smooth'>,
  degPerS: number,
  gains = GAINS_DEG_S2,
): NeedleFollowed | null => {
  const angle = needleAngle(dial.points, dial.smooth)
  const degs = Array.from(values, (v) => (Number.isFinite(v) ? angle(v) : Number.NaN))
  let worst: NeedleFollowed | null = null
  for (const stretch of STRETCHES_MS) {
    let first = 0
    for (let last = 1; last < degs.length; last++) {
      while ((times[last] as number) - (times[first] as number) > stretch) first++
      const deg = Math.abs((degs[last] as number) - (degs[first] as number))
      if (first === last || !(deg > 0)) continue
      const ms = Math.max((times[last] as number) - (times[first] as number), STRETCHES_MS[0] as number)
      const takesMs = timeFor(deg, degPerS, gains)
      if (worst && takesMs - ms <= worst.takesMs - worst.ms) continue
      worst = { from: values[first] as number, to: values[last] as number, ms, deg, takesMs }
    }
  }
  return worst
}
