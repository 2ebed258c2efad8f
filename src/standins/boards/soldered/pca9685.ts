import { type ChipMaker, registersAt } from './soldered'

const MODE = 0x00
const SLEEPS = 0x10
const GOES_ON = 0x20
const FIRST = 0x06
const PRESCALE = 0xfe
/** Its own clock, and the counts of one turn. */
const CLOCK_HZ = 25_000_000
const COUNTS = 4096

/** PCA9685: each channel is on for a share of every turn of one counter. */
export const pca9685: ChipMaker = ({ address }) => {
  const registers = new Uint8Array(256)
  registers[MODE] = SLEEPS
  registers[PRESCALE] = 0x1e
  const off = (channel: number) => {
    const at = FIRST + 4 * channel + 2
    return (registers[at] as number) | (((registers[at + 1] as number) & 0x1f) << 8)
  }
  const share = (channel: number) => {
    if ((registers[MODE] as number) & SLEEPS) return 0
    const counts = off(channel)
    return counts >= COUNTS ? 0 : counts / COUNTS
  }
  return {
    twoWire: registersAt(
      address,
      (register, byte) => {
        // It takes another length of its turns only while it sleeps.
        if (register !== PRESCALE || ((registers[MODE] as number) & SLEEPS) !== 0) registers[register] = byte
      },
      (register) => registers[register] ?? 0,
      () => ((registers[MODE] as number) & GOES_ON) !== 0,
    ),
    lights: () => Array.from({ length: 16 }, (_, c) => Math.round(share(c) * 255)),
    pulseUs: (channel) =>
      (share(channel) * COUNTS * ((registers[PRESCALE] as number) + 1) * 1_000_000) / CLOCK_HZ,
  }
}
