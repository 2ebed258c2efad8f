import type { ChipMaker } from './soldered'

/** 74HC165: while its load pin is low it takes its inputs in; each rise of the clock moves them on towards the board. */
export const hc165: ChipMaker = ({ pins: [data, clock, load], chips }, channels) => {
  const count = chips * 8
  const register: boolean[] = new Array(count).fill(true)
  /** How far it has been shifted since it took its inputs in. */
  let shifted = count
  let clockHigh = false
  return {
    driven: (pin, high) => {
      if (pin === load && !high) {
        // The highest input of the chip nearest to the board comes out first.
        for (let i = 0; i < count; i++) register[i] = !channels.isClosed((i & ~7) + 7 - (i & 7))
        shifted = 0
      }
      if (pin !== clock) return
      if (high && !clockHigh) shifted++
      clockHigh = high
    },
    // Behind the last chip of a chain there is nothing but ones.
    holds: (pin) => (pin === data ? ((register[shifted] ?? true) ? 'high' : 'low') : null),
  }
}
