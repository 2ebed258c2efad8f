import type { DriverMaker } from '../chip-driver'

/** Goes through all sixteen channels, one address after the other, and keeps what it finds. */
export const mux16Driver: DriverMaker = ({ pins: [signal = -1, ...address] }, pins) => {
  const closed: boolean[] = new Array(16).fill(false)
  const levels: number[] = new Array(16).fill(0)
  return {
    scan: () => {
      for (let channel = 0; channel < 16; channel++) {
        for (const [bit, pin] of address.entries()) pins.drive(pin, ((channel >> bit) & 1) === 1)
        closed[channel] = pins.isLow(signal)
        levels[channel] = pins.levelOf(signal)
      }
    },
    isClosed: (channel) => closed[channel] ?? false,
    levelOf: (channel) => levels[channel] ?? 0,
  }
}
