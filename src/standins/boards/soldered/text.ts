import type { TextSlot } from '../../../core/aspects/text'
import type { SolderedThing } from './soldered'

/** Its own characters that are not those of ISO 8859-1: data sheet, table 4, ROM code A00. */
const glyphs: Readonly<Record<number, string>> = {
  ...{ 223: '°', 228: 'µ', 225: 'ä', 239: 'ö', 245: 'ü', 226: 'ß', 238: 'ñ', 253: '÷' },
}

/** An HD44780U: it takes halves of bytes, one at each fall of its enable line. Data sheet ADE-207-272, table 6. */
class Controller {
  private readonly memory = new Uint8Array(128).fill(32)
  private isWide = true
  private upper: number | null = null
  private at = 0
  private isOn = false

  half(bits: number, isData: boolean): void {
    // While it expects eight bits at once, its lower lines hang in the air, low.
    if (this.isWide) this.take(bits << 4, isData)
    else if (this.upper === null) this.upper = bits
    else {
      const byte = (this.upper << 4) | bits
      this.upper = null
      this.take(byte, isData)
    }
  }

  private take(byte: number, isData: boolean): void {
    if (isData) {
      this.memory[this.at] = byte
      this.at = (this.at + 1) & 127
    } else if (byte & 0x80) this.at = byte & 127
    else if (byte & 0x40) return
    else if (byte & 0x20) {
      this.isWide = (byte & 0x10) !== 0
      this.upper = null
    } else if (byte & 0x10) return
    else if (byte & 8) this.isOn = (byte & 4) !== 0
    else if (byte === 1) {
      this.memory.fill(32)
      this.at = 0
    }
  }

  shows(columns: number, rows: number): string {
    return Array.from({ length: rows }, (_, row) => {
      const from = (row & 1) * 0x40 + (row >> 1) * columns
      const bytes = this.isOn ? [...this.memory.slice(from, from + columns)] : new Array(columns).fill(32)
      return bytes.map((b: number) => glyphs[b] ?? String.fromCharCode(b)).join('')
    }).join('\n')
  }
}

/** On six lines of its own. */
const parallel = ({ pins: [register, enable, ...data], columns, rows }: TextSlot): SolderedThing => {
  const controller = new Controller()
  const high = new Map<number, boolean>()
  return {
    driven: (pin, isHigh) => {
      const falls = !isHigh && high.get(pin) === true
      high.set(pin, isHigh)
      if (!falls || pin !== enable) return
      const bits = data.reduce((b, p, k) => b | (high.get(p) ? 1 << k : 0), 0)
      controller.half(bits, high.get(register as number) === true)
    },
    shows: () => controller.shows(columns, rows),
  }
}

/** Behind a PCF8574, whose bits are register select, read/write, enable, the light, and data 4 to 7. */
const behindExpander = ({ address, columns, rows }: TextSlot): SolderedThing => {
  const controller = new Controller()
  let lines = 0
  return {
    twoWire: {
      address,
      write: (bytes) => {
        for (const byte of bytes) {
          if ((lines & 4) !== 0 && (byte & 4) === 0) controller.half(byte >> 4, (byte & 1) !== 0)
          lines = byte
        }
      },
      read: (count) => new Array(count).fill(lines),
    },
    shows: () => controller.shows(columns, rows),
  }
}

export const textThing = (slot: TextSlot): SolderedThing =>
  slot.address > 0 ? behindExpander(slot) : parallel(slot)
