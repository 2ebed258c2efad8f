import type { OpenWire } from '../src/check/wire'
import { Core, type PinsUnder } from '../src/standins/boards/core'
import type { Soldered } from '../src/standins/boards/soldered/soldered'
import { randomFrom } from '../src/standins/craft/world'
import type { BoardUnderTest } from './board-under-test'
import { OwnClock } from './own-clock'

/** Milliseconds between two turns of its program. */
const TURN_MS = 0.1

/** Pins of their own, with nothing of the simulated boards in between: what is soldered on hears what the program does. */
class PlainPins implements PinsUnder {
  readonly closed = new Set<number>()
  readonly wipers = new Map<number, number>()
  readonly levels = new Map<number, number>()
  readonly there: { readonly pins: readonly number[]; readonly thing: Soldered }[] = []

  private on(pin: number): Soldered[] {
    return this.there.filter((t) => t.pins.includes(pin)).map((t) => t.thing)
  }

  drive(pin: number, high: boolean): void {
    this.levels.set(pin, high ? 255 : 0)
    for (const thing of this.on(pin)) thing.driven?.(pin, high)
  }

  brightness(pin: number, level: number): void {
    this.drive(pin, level >= 128)
    this.levels.set(pin, level)
  }

  release(pin: number): void {
    this.levels.delete(pin)
  }

  isLow(pin: number): boolean {
    for (const thing of this.on(pin)) {
      const held = thing.holds?.(pin) ?? null
      if (held !== null) return held === 'low'
    }
    return this.closed.has(pin)
  }

  levelOf(pin: number): number {
    for (const thing of this.on(pin)) {
      const level = thing.level?.(pin) ?? null
      if (level !== null) return level
    }
    return this.wipers.get(pin) ?? 0
  }

  colours(pin: number, bytes: readonly number[]): void {
    for (const thing of this.on(pin)) thing.colours?.(bytes)
  }

  servo(pin: number, us: number): void {
    for (const thing of this.on(pin)) thing.pulsed?.(us)
  }

  frequency(pin: number, hertz: number): void {
    for (const thing of this.on(pin)) thing.turnsOver?.(hertz)
  }

  transfer(address: number, out: readonly number[], count: number): readonly number[] | null {
    const answers = this.there.find((t) => t.thing.twoWire?.address === address)?.thing.twoWire
    if (!answers) return null
    if (out.length > 0) answers.write(out)
    return count > 0 ? answers.read(count) : []
  }
}

/** The program as simulated boards run it, alone, on a time of its own. */
export class WebAssemblyBoard implements BoardUnderTest {
  private readonly pins = new PlainPins()
  private readonly core: Core
  private heard: (bytes: Uint8Array) => void = () => {}
  readonly clock = new OwnClock(
    () => this.now,
    (ms) => this.run(ms),
  )
  private turns = 0

  constructor(kept?: Uint8Array) {
    const random = randomFrom(17)
    const byte = () =>
      Math.floor(Math.random() * 256)
        .toString(16)
        .padStart(2, '0')
    this.core = new Core(this.pins, {
      identity: Array.from({ length: 8 }, byte).join(''),
      ...{ model: 'ATmega2560 board', kept: kept ?? null, keeps: () => {} },
      noise: () => 2 * random() - 1,
    })
    this.tell(this.core.begin(0))
  }

  private tell(bytes: Uint8Array): void {
    if (bytes.length > 0) this.heard(bytes)
  }

  private get micros(): number {
    return Math.round(this.now * 1000)
  }

  get now(): number {
    return this.turns * TURN_MS
  }

  get memory(): Uint8Array {
    return this.core.kept
  }

  run(ms: number): void {
    for (const end = this.now + ms; this.now < end; ) {
      this.turns++
      this.tell(this.core.step(this.micros))
      this.clock.ring()
    }
  }

  receive(bytes: ArrayLike<number>): void {
    this.tell(this.core.receive(Uint8Array.from(bytes), this.micros))
  }

  contact(pin: number, closed: boolean): void {
    if (closed) this.pins.closed.add(pin)
    else this.pins.closed.delete(pin)
  }

  isClosed(pin: number): boolean {
    return this.pins.closed.has(pin)
  }

  wiper(pin: number, share: number): void {
    this.pins.wipers.set(pin, share)
  }

  isHigh(pin: number): boolean {
    return this.brightness(pin) >= 0.5
  }

  brightness(pin: number): number {
    return (this.pins.levels.get(pin) ?? 0) / 255
  }

  solder(pins: readonly number[], thing: Soldered): void {
    this.pins.there.push({ pins, thing })
  }

  solderWave(pin: number, thing: Soldered): void {
    this.solder([pin], thing)
  }

  cutPower(): void {
    this.tell(this.core.begin(this.micros))
  }

  readonly open: OpenWire = async ({ received }) => {
    this.heard = received
    return {
      send: (data) => this.receive(typeof data === 'string' ? new TextEncoder().encode(data) : data),
      close: () => {
        this.heard = () => {}
      },
    }
  }
}
