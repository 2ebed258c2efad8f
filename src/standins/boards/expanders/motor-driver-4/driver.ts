import type { Micros } from '../../../../core/units-of-measure'
import type { DriverMaker } from '../chip-driver'

/** Steps of the chip in a degree. */
export const STEPS_PER_DEGREE = 12

/** Steps each motor towards its goal, no faster than it may turn. */
export const motorDriver4Driver: DriverMaker = ({ pins: own }, pins) => {
  const goals = [0, 0, 0, 0]
  const speeds = [0, 0, 0, 0]
  const at = [0, 0, 0, 0]
  const owed = [0, 0, 0, 0]
  let last: Micros | null = null
  const step = (motor: number, forwards: boolean) => {
    pins.drive(own[2 * motor + 1] ?? -1, forwards)
    pins.drive(own[2 * motor] ?? -1, true)
    pins.drive(own[2 * motor] ?? -1, false)
    at[motor] = (at[motor] ?? 0) + (forwards ? 1 : -1)
  }
  return {
    turn: (motor, goalTenths, tenthsPerS) => {
      goals[motor] = Math.round((goalTenths / 10) * STEPS_PER_DEGREE)
      speeds[motor] = (tenthsPerS / 10) * STEPS_PER_DEGREE
    },
    send: (now) => {
      const seconds = last === null ? 0 : (now - last) / 1e6
      last = now
      pins.drive(own[8] ?? -1, true)
      for (let motor = 0; motor < 4; motor++) {
        const way = (goals[motor] ?? 0) - (at[motor] ?? 0)
        if (way === 0) {
          owed[motor] = 0
          continue
        }
        owed[motor] = (owed[motor] ?? 0) + (speeds[motor] ?? 0) * seconds
        for (let n = Math.min(Math.abs(way), Math.floor(owed[motor] ?? 0)); n > 0; n--) {
          step(motor, way > 0)
          owed[motor] = (owed[motor] ?? 0) - 1
        }
      }
    },
  }
}
