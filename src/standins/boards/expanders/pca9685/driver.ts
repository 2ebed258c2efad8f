import type { DriverMaker } from '../chip-driver'

const MODE = 0x00
const AWAKE = 0x20
const FIRST = 0x06
const PRESCALE = 0xfe
/** Fifty turns a second, as servos want them: 25 MHz / (4096 × 50) − 1. */
const SERVO_PRESCALE = 121
const COUNT_US = ((SERVO_PRESCALE + 1) * 1_000_000) / 25_000_000
const COUNTS = 4096

export const pca9685Driver: DriverMaker = ({ address }, pins) => {
  const wanted: number[] = new Array(16).fill(0)
  const set = (channel: number, counts: number) => {
    wanted[channel] = Math.min(COUNTS - 1, Math.max(0, Math.round(counts)))
  }
  return {
    light: (channel, level) => set(channel, (level / 255) * (COUNTS - 1)),
    pulse: (channel, us) => set(channel, us / COUNT_US),
    send: () => {
      const chip = pins.twoWire(address)
      if (!chip) return
      if (chip.read(PRESCALE, 1)[0] !== SERVO_PRESCALE) {
        chip.write(PRESCALE, [SERVO_PRESCALE])
        chip.write(MODE, [AWAKE])
      }
      for (const [channel, counts] of wanted.entries()) {
        const at = FIRST + 4 * channel
        const [low = 0, high = 0] = chip.read(at + 2, 2)
        if ((low | (high << 8)) !== counts) chip.write(at, [0, 0, counts & 255, counts >> 8])
      }
    },
  }
}
