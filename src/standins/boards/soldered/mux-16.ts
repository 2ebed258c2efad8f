import type { ChipMaker } from './soldered'

/** 74HC4067: joins the channel that its four address pins say with its signal pin. */
export const mux16: ChipMaker = ({ pins: [signal, ...address] }, channels) => {
  let channel = 0
  return {
    driven: (pin, high) => {
      const bit = address.indexOf(pin)
      if (bit >= 0) channel = high ? channel | (1 << bit) : channel & ~(1 << bit)
    },
    holds: (pin) => (pin === signal ? (channels.isClosed(channel) ? 'low' : 'high') : null),
    level: (pin) => (pin === signal ? channels.level(channel) : null),
  }
}
