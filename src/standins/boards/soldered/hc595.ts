import type { ChipMaker } from './soldered'

/** 74HC595: each rise of the clock shifts a bit in; a rise of the latch shows all that are in. */
export const hc595: ChipMaker = ({ pins: [data, clock, latch], chips }) => {
  const register: boolean[] = new Array(chips * 8).fill(false)
  let shown = [...register]
  const high = new Map<number, boolean>()
  return {
    driven: (pin, isHigh) => {
      const rises = isHigh && high.get(pin) !== true
      high.set(pin, isHigh)
      if (pin === clock && rises) {
        register.unshift(high.get(data ?? -1) === true)
        register.pop()
      }
      if (pin === latch && rises) shown = [...register]
    },
    lights: () => shown.map((on) => (on ? 255 : 0)),
  }
}
