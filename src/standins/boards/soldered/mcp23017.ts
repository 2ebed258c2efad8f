import { type ChipMaker, registersAt } from './soldered'

const DIRECTION = 0x00
const PULL_UPS = 0x0c
const PINS = 0x12
const LATCH = 0x14

/** MCP23017 with its two banks of registers side by side, as after power-up. */
export const mcp23017: ChipMaker = ({ address }, channels) => {
  const registers = new Uint8Array(0x16)
  registers.fill(0xff, DIRECTION, DIRECTION + 2)
  const isInput = (channel: number) =>
    ((registers[DIRECTION + (channel >> 3)] as number) >> (channel & 7)) & 1
  const pulledUp = (channel: number) =>
    ((registers[PULL_UPS + (channel >> 3)] as number) >> (channel & 7)) & 1
  const latched = (channel: number) => ((registers[LATCH + (channel >> 3)] as number) >> (channel & 7)) & 1
  const isHigh = (channel: number) => {
    if (!isInput(channel)) return latched(channel) === 1
    return pulledUp(channel) === 1 && !channels.isClosed(channel)
  }
  const bank = (n: number) =>
    [0, 1, 2, 3, 4, 5, 6, 7].reduce((bits, k) => bits | (isHigh(n * 8 + k) ? 1 << k : 0), 0)
  return {
    twoWire: registersAt(
      address,
      (register, byte) => {
        // Writing to the pins writes to the latch behind them.
        registers[register === PINS || register === PINS + 1 ? register + 2 : register] = byte
      },
      (register) =>
        register === PINS || register === PINS + 1 ? bank(register - PINS) : (registers[register] ?? 0),
    ),
    lights: () => Array.from({ length: 16 }, (_, c) => (!isInput(c) && latched(c) ? 255 : 0)),
  }
}
