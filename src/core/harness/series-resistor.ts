import type { Milliamps, Volts } from '../units-of-measure'

/** The twelve values of each decade, IEC 60063. */
const E12 = [10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82] as const

/** The next value of the E12 series that is no smaller, in ohms. */
export const nextE12 = (ohms: number): number => {
  if (!(ohms > 0)) return 10
  const decade = 10 ** Math.floor(Math.log10(ohms) - 1)
  for (const factor of [1, 10]) {
    for (const value of E12) {
      const candidate = Number((value * decade * factor).toPrecision(3))
      // What is given as 82 is 82, whatever is left over behind the point.
      if (candidate >= ohms * (1 - 1e-9)) return candidate
    }
  }
  return Number((100 * decade * 10).toPrecision(3))
}

/** What flows through a lamp behind a resistor; nothing where the supply does not reach its forward voltage. */
export const lampMilliamps = (volts: Volts, forwardVolts: Volts, ohms: number): Milliamps =>
  Math.max(0, ((volts - forwardVolts) / ohms) * 1000)

/** The resistor that lets a lamp have its current, as it can be bought; null where the supply is too low to light it. */
export const seriesOhms = (volts: Volts, forwardVolts: Volts, milliamps: Milliamps): number | null =>
  volts - forwardVolts < 0.2 ? null : nextE12((volts - forwardVolts) / (milliamps / 1000))
