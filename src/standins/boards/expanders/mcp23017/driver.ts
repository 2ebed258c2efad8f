import type { DriverMaker } from '../chip-driver'

const DIRECTION = 0x00
const PULL_UPS = 0x0c
const PINS = 0x12
const LATCH = 0x14
const ON_FROM = 128

/** Makes an output of each channel that lights something and an input with pull-up of every other. */
export const mcp23017Driver: DriverMaker = ({ address }, pins, lamps) => {
  let bits = 0
  let outputs = 0
  let wanted = 0
  for (const channel of lamps) outputs |= 1 << channel
  const words = (value: number) => [value & 255, (value >> 8) & 255]
  return {
    scan: () => {
      const chip = pins.twoWire(address)
      const [low = 255, high = 255] = chip?.read(PINS, 2) ?? []
      bits = low | (high << 8)
    },
    isClosed: (channel) => !((bits >> channel) & 1),
    light: (channel, level) => {
      const bit = 1 << channel
      wanted = level >= ON_FROM ? wanted | bit : wanted & ~bit
    },
    send: () => {
      const inputs = ~outputs & 0xffff
      const chip = pins.twoWire(address)
      // What was just soldered on, or lost its current, is set up anew.
      const known = [DIRECTION, PULL_UPS].flatMap((register) => chip?.read(register, 2) ?? [])
      if (!chip) return
      if (`${known}` !== `${[...words(inputs), ...words(inputs)]}`) {
        chip.write(DIRECTION, words(inputs))
        chip.write(PULL_UPS, words(inputs))
      }
      const [shownLow = 0, shownHigh = 0] = chip.read(LATCH, 2)
      if ((shownLow | (shownHigh << 8)) !== wanted) chip.write(LATCH, words(wanted))
    },
  }
}
