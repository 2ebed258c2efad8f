import type { ChipMaker } from './soldered'

/** X12.017: every rise on a step pin moves its motor by a twelfth of a degree, the way its direction pin says. */
export const motorDriver4: ChipMaker = ({ pins }) => {
  const reset = pins[8]
  const high = new Map<number, boolean>()
  const steps = [0, 0, 0, 0]
  return {
    driven: (pin, isHigh) => {
      const rises = isHigh && high.get(pin) !== true
      high.set(pin, isHigh)
      const motor = pins.indexOf(pin)
      const awake = high.get(reset ?? -1) === true
      if (!rises || !awake || motor < 0 || motor >= 8 || motor % 2 !== 0) return
      const forwards = high.get(pins[motor + 1] ?? -1) === true
      // The needle's stop: it turns no further back than that.
      steps[motor / 2] = Math.max(0, (steps[motor / 2] ?? 0) + (forwards ? 1 : -1))
    },
    stepped: () => steps,
  }
}
