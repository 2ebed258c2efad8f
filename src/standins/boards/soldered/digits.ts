import type { DigitsSlot } from '../../../core/aspects/digits'
import { blankDigits } from '../../../core/signal/digits'
import { glyphOfSegments } from '../../../core/signal/segments'
import type { SolderedThing } from './soldered'

const POINT = 128

/** What one reads on digits, from the left, that are lit in these segments, a lowest. */
const read = (brightness: number, segments: readonly number[]): string =>
  brightness.toString(16) +
  segments.map((s) => glyphOfSegments(s & 127) + ((s & POINT) !== 0 ? '.' : '')).join('')

/** MAX7219: sixteen bits are shifted in, and a rise of its select line takes them. Data sheet 19-4452, tables 2 to 10. */
const max7219 = ({ pins: [data, clock, select], digits }: DigitsSlot): SolderedThing => {
  const registers = new Uint8Array(16)
  let word = 0
  const high = new Map<number, boolean>()
  /** Its segments are the other way round, a highest. */
  const turned = (bits: number) =>
    [0, 1, 2, 3, 4, 5, 6].reduce((out, k) => out | ((bits >> k) & 1 ? 64 >> k : 0), bits & POINT)
  return {
    driven: (pin, isHigh) => {
      const rises = isHigh && high.get(pin) !== true
      high.set(pin, isHigh)
      if (rises && pin === clock) word = ((word << 1) | (high.get(data as number) ? 1 : 0)) & 0xffff
      if (rises && pin === select) registers[(word >> 8) & 15] = word & 255
    },
    shows: () => {
      const isOn = (registers[12] as number) & 1
      // It scans fewer digits than there are until it is told.
      if (!isOn || (registers[11] as number) + 1 < digits) return blankDigits(digits)
      const lit = Array.from({ length: digits }, (_, i) => turned(registers[digits - i] as number))
      return read((registers[10] as number) & 15, lit)
    },
  }
}

/** TM1637: two lines, bytes lowest bit first between a beginning and an end, a ninth clock after each. Titan Micro, V2.4. */
const tm1637 = ({ pins: [clock, data], digits }: DigitsSlot): SolderedThing => {
  const memory = new Uint8Array(6)
  let control = 0
  let clockHigh = false
  let dataHigh = false
  let bits: number[] | null = null
  let bytes: number[] = []
  let stays = false
  const take = (list: readonly number[]) => {
    const [first = 0, ...rest] = list
    if ((first & 0xc0) === 0x40) stays = (first & 4) !== 0
    if ((first & 0xc0) === 0x80) control = first
    if ((first & 0xc0) !== 0xc0) return
    for (const [i, byte] of rest.entries()) memory[(first & 7) + (stays ? 0 : i)] = byte
  }
  return {
    driven: (pin, isHigh) => {
      if (pin === data && isHigh !== dataHigh) {
        if (clockHigh && !isHigh) {
          bits = []
          bytes = []
        } else if (clockHigh && isHigh && bits) {
          take(bytes)
          bits = null
        }
        dataHigh = isHigh
      }
      if (pin !== clock || isHigh === clockHigh) return
      clockHigh = isHigh
      if (!isHigh || !bits) return
      if (bits.length < 8) bits.push(dataHigh ? 1 : 0)
      else {
        bytes.push(bits.reduce((byte, bit, k) => byte | (bit << k), 0))
        bits = []
      }
    },
    shows: () => {
      if ((control & 8) === 0) return blankDigits(digits)
      // Modules of six have their glasses of three the other way round.
      const order = digits === 6 ? [2, 1, 0, 5, 4, 3] : [...memory.keys()].slice(0, digits)
      return read(
        2 * (control & 7) + 1,
        order.map((i) => memory[i] as number),
      )
    },
  }
}

export const digitsThing = (slot: DigitsSlot): SolderedThing =>
  slot.driver === 'TM1637' ? tm1637(slot) : max7219(slot)
