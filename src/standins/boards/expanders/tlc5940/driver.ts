import type { DriverMaker } from '../chip-driver'

const BITS = 12

/** Shifts out twelve bits a channel, the last channel first and its highest bit first, whenever one changes. */
export const tlc5940Driver: DriverMaker = (
  { pins: [data = -1, clock = -1, latch = -1, blank = -1, steps = -1], chips },
  pins,
) => {
  const wanted: number[] = new Array(chips * 16).fill(0)
  let changed = true
  const shiftOut = (value: number) => {
    for (let bit = BITS - 1; bit >= 0; bit--) {
      pins.drive(data, ((value >> bit) & 1) === 1)
      pins.drive(clock, true)
      pins.drive(clock, false)
    }
  }
  return {
    light: (channel, level) => {
      // A twelve-bit value whose upper eight are the level.
      const value = (level << 4) | (level >> 4)
      if (wanted[channel] === value) return
      wanted[channel] = value
      changed = true
    },
    send: () => {
      // The brightness clock runs all the time; a chip that was just soldered on is told anew.
      pins.drive(steps, true)
      pins.drive(steps, false)
      if (!changed) return
      changed = false
      pins.drive(blank, true)
      for (let i = wanted.length - 1; i >= 0; i--) shiftOut(wanted[i] ?? 0)
      pins.drive(latch, true)
      pins.drive(latch, false)
      pins.drive(blank, false)
    },
  }
}
