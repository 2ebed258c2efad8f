import type { ChipMaker, HungWay } from './soldered'

/** X12.017: every rise on a step pin moves its motor by a twelfth of a degree, the way its direction pin says. */
export const motorDriver4: ChipMaker = ({ pins }) => {
  const reset = pins[8]
  const high = new Map<number, boolean>()
  const steps = [0, 0, 0, 0]
  /** How the coils of each motor hang on the driver, and how far it can turn. */
  const hung = steps.map(() => ({ way: 1 as HungWay, most: Number.POSITIVE_INFINITY }))
  return {
    driven: (pin, isHigh) => {
      const rises = isHigh && high.get(pin) !== true
      high.set(pin, isHigh)
      const motor = pins.indexOf(pin)
      const awake = high.get(reset ?? -1) === true
      if (!rises || !awake || motor < 0 || motor >= 8 || motor % 2 !== 0) return
      const forwards = high.get(pins[motor + 1] ?? -1) === true
      const { way, most } = hung[motor / 2] ?? { way: 1, most: 0 }
      // The needle's stops: it turns no further than those.
      steps[motor / 2] = Math.min(most, Math.max(0, (steps[motor / 2] ?? 0) + (forwards ? way : -way)))
    },
    stepped: () => steps,
    hang: (motor, way, most) => {
      hung[motor] = { way, most }
    },
  }
}
