/**
 * What a board's chip has before any program: it takes one over its serial line, page by page, and starts it. Two ways are
 * about, told apart by their chips: single commands that end with a space (application note AVR061), and messages with a
 * head and a checksum (AVR068).
 */
export interface Bootloader {
  /** Takes what came over the line; what it answers. */
  take(bytes: Uint8Array): number[]
  /** Whether somebody has begun to talk to it. */
  readonly isAsked: boolean
  /** What has been written so far, by address. */
  readonly program: Uint8Array
}

interface Settings {
  readonly signature: readonly [number, number, number]
  readonly program: Uint8Array
  /** Somebody is done with it: the program starts. */
  readonly leaves: () => void
  /** Bytes of each page that are written wrongly, or nothing. */
  readonly spoils?: (address: number) => boolean
}

const OK = 0x10
const IN_SYNC = 0x14
const END = 0x20

/** AVR061: how many bytes follow each command, the space at its end among them. */
const lengths: Readonly<Record<number, number>> = {
  ...{ 48: 1, 65: 2, 66: 21, 69: 6, 80: 1, 81: 1, 85: 3, 86: 5, 116: 4, 117: 1 },
}

export class ShortCommands implements Bootloader {
  isAsked = false
  readonly program: Uint8Array
  private came: number[] = []
  private at = 0

  constructor(private readonly settings: Settings) {
    this.program = settings.program
  }

  take(bytes: Uint8Array): number[] {
    this.came.push(...bytes)
    const out: number[] = []
    for (;;) {
      const [command = 0] = this.came
      const rest = command === 0x64 ? ((this.came[1] ?? 0) << 8) + (this.came[2] ?? 0) + 4 : lengths[command]
      if (this.came.length === 0) return out
      // What is no command is dropped.
      if (rest === undefined) this.came.shift()
      else if (this.came.length < 1 + rest) return out
      else out.push(...this.obey(this.came.splice(0, 1 + rest)))
    }
  }

  private obey([command, ...more]: readonly number[]): number[] {
    if (more.at(-1) !== END) return []
    this.isAsked = true
    const answer = (...bytes: number[]) => [IN_SYNC, ...bytes, OK]
    switch (command) {
      case 0x41:
        return answer(more[0] === 0x81 ? 4 : more[0] === 0x82 ? 4 : 3)
      case 0x51:
        this.settings.leaves()
        return answer()
      case 0x55:
        // Words, lowest byte first.
        this.at = 2 * ((more[0] as number) + 256 * (more[1] as number))
        return answer()
      case 0x56:
        return answer(0)
      case 0x64: {
        const data = more.slice(3, -1)
        for (const [i, byte] of data.entries())
          this.program[this.at + i] = this.settings.spoils?.(this.at + i) ? byte ^ 1 : byte
        return answer()
      }
      case 0x74: {
        const count = ((more[0] as number) << 8) + (more[1] as number)
        return answer(...this.program.slice(this.at, this.at + count))
      }
      case 0x75:
        return answer(...this.settings.signature)
      default:
        return answer()
    }
  }
}

const START = 0x1b
const TOKEN = 0x0e

export class Messages implements Bootloader {
  isAsked = false
  readonly program: Uint8Array
  private came: number[] = []
  private at = 0

  constructor(private readonly settings: Settings) {
    this.program = settings.program
  }

  take(bytes: Uint8Array): number[] {
    this.came.push(...bytes)
    const out: number[] = []
    for (;;) {
      while (this.came.length > 0 && this.came[0] !== START) this.came.shift()
      const size = ((this.came[2] ?? 0) << 8) + (this.came[3] ?? 0)
      if (this.came.length < 5 || this.came.length < size + 6) return out
      const message = this.came.splice(0, size + 6)
      if (message.reduce((sum, b) => sum ^ b, 0) !== 0 || message[4] !== TOKEN) continue
      this.isAsked = true
      const body = this.obey(message.slice(5, -1))
      const head = [START, message[1] as number, body.length >> 8, body.length & 255, TOKEN, ...body]
      out.push(
        ...head,
        head.reduce((sum, b) => sum ^ b, 0),
      )
    }
  }

  private obey(body: readonly number[]): number[] {
    const [command = 0, ...more] = body
    const well = (...bytes: number[]) => [command, 0, ...bytes]
    switch (command) {
      case 0x01:
        return well(8, ...Buffer.from('AVRISP_2'))
      case 0x03:
        return well(0)
      case 0x06:
        this.at = 2 * Number(Buffer.from(more).readUInt32BE(0) & 0x7fffffff)
        return well()
      case 0x11:
        this.settings.leaves()
        return well()
      case 0x13: {
        const count = ((more[0] as number) << 8) + (more[1] as number)
        for (const [i, byte] of more.slice(9, 9 + count).entries())
          this.program[this.at + i] = this.settings.spoils?.(this.at + i) ? byte ^ 1 : byte
        this.at += count
        return well()
      }
      case 0x14: {
        const count = ((more[0] as number) << 8) + (more[1] as number)
        const bytes = this.program.slice(this.at, this.at + count)
        this.at += count
        return well(...bytes, 0)
      }
      case 0x1b:
        return well(this.settings.signature[(more[3] ?? 0) & 3] ?? 0, 0)
      case 0x1d: {
        // One that passes four bytes through: it asks for the signature this way.
        const byte = more[3] === 0x30 ? (this.settings.signature[(more[5] ?? 0) & 3] ?? 0) : 0
        return well(0, 0, 0, byte, 0)
      }
      default:
        return well()
    }
  }
}
