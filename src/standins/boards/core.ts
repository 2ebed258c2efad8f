import { readFileSync } from 'node:fs'
import type { Micros } from '../../core/units-of-measure'
import { ofProject } from '../../process/of-project'

/** The boards' program, made once for all of them. `docs/firmware.md` */
let program: WebAssembly.Module | null = null
const compiled = (): WebAssembly.Module => {
  program ??= new WebAssembly.Module(readFileSync(ofProject('firmware/images/board.wasm')))
  return program
}

interface Taken {
  readonly memory: WebAssembly.Memory
  letters(): number
  mostLetters(): number
  kept(): number
  keptCount(): number
  incoming(): number
  incomingCount(): number
  begin(now: number): void
  receive(count: number, now: number): void
  step(now: number): void
}

/** The pins under the program: what it does to them, and what it reads there. */
export interface PinsUnder {
  drive(pin: number, high: boolean): void
  /** 0 to 255. */
  brightness(pin: number, level: number): void
  release(pin: number): void
  isLow(pin: number): boolean
  /** A share of the supply. */
  levelOf(pin: number): number
  /** Bytes as they travel to a strip. */
  colours(pin: number, bytes: readonly number[]): void
  servo(pin: number, us: number): void
  frequency(pin: number, hertz: number): void
  /** A transfer on the two-wire bus: what was read, or null where nobody answers. */
  transfer(address: number, out: readonly number[], count: number): readonly number[] | null
}

/** What a board is to itself. */
export interface CoreSettings {
  readonly identity: string
  readonly model: string
  /** What its memory keeps without power; a new one keeps nothing. */
  readonly kept: Uint8Array | null
  /** Between −1 and 1: noise of its converter, in counts and a half. */
  readonly noise: () => number
  /** It wrote a byte into that memory, and where. */
  readonly keeps: (at: number) => void
}

/** The converter's full scale, and its peak noise. */
const FULL = 1023
const NOISE = 1.6

/** The boards' own program, the very one that chips run, with the pins of a simulated board under it. */
export class Core {
  private taken: Taken
  private said: number[] = []

  constructor(
    private readonly pins: PinsUnder,
    private readonly settings: CoreSettings,
  ) {
    this.taken = this.load()
    const { kept } = settings
    if (kept)
      this.bytes(this.taken.kept(), this.taken.keptCount()).set(kept.subarray(0, this.taken.keptCount()))
    else this.bytes(this.taken.kept(), this.taken.keptCount()).fill(0xff)
  }

  private load(): Taken {
    const { pins } = this
    const on = (flag: number) => flag !== 0
    const board = {
      pullUp: (pin: number) => pins.release(pin),
      release: (pin: number) => pins.release(pin),
      isLow: (pin: number) => (pins.isLow(pin) ? 1 : 0),
      drive: (pin: number, high: number) => pins.drive(pin, on(high)),
      brightness: (pin: number, level: number) => pins.brightness(pin, level),
      analog: (pin: number) => {
        const level = pins.levelOf(pin) * FULL + this.settings.noise() * NOISE
        return Math.round(Math.min(FULL, Math.max(0, level)))
      },
      shiftOut: (data: number, clock: number, byte: number) => {
        for (let mask = 128; mask > 0; mask >>= 1) {
          pins.drive(data, (byte & mask) !== 0)
          pins.drive(clock, true)
          pins.drive(clock, false)
        }
      },
      shiftIn: (data: number, clock: number) => {
        let byte = 0
        for (let i = 0; i < 8; i++) {
          byte = (byte << 1) | (pins.isLow(data) ? 0 : 1)
          pins.drive(clock, true)
          pins.drive(clock, false)
        }
        return byte
      },
      strip: (pin: number, at: number, lamps: number) => {
        const rgb = at === 0 ? new Uint8Array(3 * lamps) : this.bytes(at, 3 * lamps)
        const sent: number[] = []
        // Green goes first.
        for (let i = 0; i < rgb.length; i += 3)
          sent.push(rgb[i + 1] as number, rgb[i] as number, rgb[i + 2] as number)
        pins.colours(pin, sent)
      },
      servo: (pin: number, us: number) => pins.servo(pin, us),
      frequency: (pin: number, hertz: number) => pins.frequency(pin, hertz),
      steps: (pin: number, blank: number) => {
        pins.drive(pin, true)
        pins.drive(blank, false)
      },
      transfer: (address: number, out: number, outCount: number, into: number, count: number) => {
        const read = pins.transfer(address, [...this.bytes(out, outCount)], count)
        if (read && count > 0) this.bytes(into, count).set(read)
        return read ? 1 : 0
      },
      send: (byte: number) => void this.said.push(byte),
      keeps: (at: number) => this.settings.keeps(at),
      newIdentity: (at: number) =>
        this.bytes(at, 8).set(Buffer.from(this.settings.identity, 'hex').subarray(0, 8)),
    }
    const instance = new WebAssembly.Instance(compiled(), { board })
    const taken = instance.exports as unknown as Taken
    const letters = Buffer.from(this.settings.model, 'utf8').subarray(0, taken.mostLetters())
    new Uint8Array(taken.memory.buffer, taken.letters(), letters.length).set(letters)
    return taken
  }

  private bytes(at: number, count: number): Uint8Array {
    return new Uint8Array(this.taken.memory.buffer, at, count)
  }

  /** What it keeps without power, as it is now. */
  get kept(): Uint8Array {
    return this.bytes(this.taken.kept(), this.taken.keptCount()).slice()
  }

  /** Power comes on: only what is kept stays. What it says is in what this gives back. */
  begin(now: Micros): Uint8Array {
    const { kept } = this
    this.taken = this.load()
    this.bytes(this.taken.kept(), this.taken.keptCount()).set(kept)
    this.taken.begin(now >>> 0)
    return this.spoken()
  }

  receive(bytes: Uint8Array, now: Micros): Uint8Array {
    const most = this.taken.incomingCount()
    for (let at = 0; at < bytes.length; at += most) {
      const piece = bytes.subarray(at, at + most)
      this.bytes(this.taken.incoming(), most).set(piece)
      this.taken.receive(piece.length, now >>> 0)
    }
    return this.spoken()
  }

  step(now: Micros): Uint8Array {
    this.taken.step(now >>> 0)
    return this.spoken()
  }

  private spoken(): Uint8Array {
    if (this.said.length === 0) return NOTHING
    const bytes = Uint8Array.from(this.said)
    this.said = []
    return bytes
  }
}

const NOTHING = new Uint8Array(0)
