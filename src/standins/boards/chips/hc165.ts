import type { ChipMaker } from '../soldered-chip'

/** 74HC165: while its load pin is low it takes its inputs in; each rise of the clock moves them on towards the board. */
export const hc165: ChipMaker = ({ pins: [data, clock, load], chips }, channels) => {
  const count = chips * 8
  let register: boolean[] = new Array(count).fill(true)
  let clockHigh = false
  return {
    driven: (pin, high) => {
      if (pin === load && !high)
        // The highest input of the chip nearest to the board comes out first.
        register = Array.from({ length: count }, (_, i) => !channels.isClosed((i & ~7) + 7 - (i & 7)))
      if (pin !== clock) return
      if (high && !clockHigh) register = [...register.slice(1), true]
      clockHigh = high
    },
    holds: (pin) => (pin === data ? (register[0] ? 'high' : 'low') : null),
  }
}
