import type { ChipMaker } from './soldered'

const BITS = 12

/** TLC5940: twelve bits of brightness a channel are shifted in and latched; its own clock counts through them. */
export const tlc5940: ChipMaker = ({ pins: [data, clock, latch, blank, steps], chips }) => {
  const count = chips * 16
  const length = count * BITS
  const register: boolean[] = new Array(length).fill(false)
  /** Where the bit shifted in last stands; those before it lie behind, round the end. */
  let head = 0
  let shown: number[] = new Array(count).fill(0)
  let counts = false
  const high = new Map<number, boolean>()
  const brightness = (channel: number): number => {
    let value = 0
    for (let bit = BITS - 1; bit >= 0; bit--)
      value = value * 2 + Number(register[(head + channel * BITS + bit) % length])
    return value
  }
  return {
    driven: (pin, isHigh) => {
      const rises = isHigh && high.get(pin) !== true
      high.set(pin, isHigh)
      if (pin === steps) counts = true
      if (pin === clock && rises) {
        head = (head + length - 1) % length
        register[head] = high.get(data ?? -1) === true
      }
      if (pin === latch && rises) shown = Array.from({ length: count }, (_, i) => brightness(i))
    },
    // Without its brightness clock, or while it is blanked, it lights nothing.
    lights: () => shown.map((value) => (counts && high.get(blank ?? -1) === false ? value >> 4 : 0)),
  }
}
