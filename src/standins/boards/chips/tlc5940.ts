import type { ChipMaker } from '../soldered-chip'

const BITS = 12

/** TLC5940: twelve bits of brightness a channel are shifted in and latched; its own clock counts through them. */
export const tlc5940: ChipMaker = ({ pins: [data, clock, latch, blank, steps], chips }) => {
  const count = chips * 16
  const register: boolean[] = new Array(count * BITS).fill(false)
  let shown: number[] = new Array(count).fill(0)
  let counts = false
  const high = new Map<number, boolean>()
  const brightness = (channel: number): number => {
    let value = 0
    for (let bit = BITS - 1; bit >= 0; bit--) value = value * 2 + Number(register[channel * BITS + bit])
    return value
  }
  return {
    driven: (pin, isHigh) => {
      const rises = isHigh && high.get(pin) !== true
      high.set(pin, isHigh)
      if (pin === steps) counts = true
      if (pin === clock && rises) {
        register.unshift(high.get(data ?? -1) === true)
        register.pop()
      }
      if (pin === latch && rises) shown = Array.from({ length: count }, (_, i) => brightness(i))
    },
    // Without its brightness clock, or while it is blanked, it lights nothing.
    lights: () => shown.map((value) => (counts && high.get(blank ?? -1) === false ? value >> 4 : 0)),
  }
}
