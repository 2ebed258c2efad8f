import type { DriverMaker } from '../chip-driver'

/** On from half brightness; the chip knows no more than on and off. */
const ON_FROM = 128

/** Shifts out the whole chain, the far end first, whenever something in it changes. */
export const hc595Driver: DriverMaker = ({ pins: [data = -1, clock = -1, latch = -1], chips }, pins) => {
  const wanted: boolean[] = new Array(chips * 8).fill(false)
  let changed = true
  return {
    light: (channel, level) => {
      const on = level >= ON_FROM
      if (wanted[channel] === on) return
      wanted[channel] = on
      changed = true
    },
    send: () => {
      if (!changed) return
      changed = false
      for (let i = wanted.length - 1; i >= 0; i--) {
        pins.drive(data, wanted[i] === true)
        pins.drive(clock, true)
        pins.drive(clock, false)
      }
      pins.drive(latch, true)
      pins.drive(latch, false)
    },
  }
}
