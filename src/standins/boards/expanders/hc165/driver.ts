import type { DriverMaker } from '../chip-driver'

/** Has all inputs taken in at once, then clocks them out of the chain. */
export const hc165Driver: DriverMaker = ({ pins: [data = -1, clock = -1, load = -1], chips }, pins) => {
  const closed: boolean[] = new Array(chips * 8).fill(false)
  return {
    scan: () => {
      pins.drive(load, false)
      pins.drive(load, true)
      for (let i = 0; i < chips * 8; i++) {
        closed[(i & ~7) + 7 - (i & 7)] = pins.isLow(data)
        pins.drive(clock, true)
        pins.drive(clock, false)
      }
    },
    isClosed: (channel) => closed[channel] ?? false,
  }
}
