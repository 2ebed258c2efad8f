import { readFileSync } from 'node:fs'
import {
  AVRADC,
  AVREEPROM,
  AVRIOPort,
  AVRTimer,
  AVRUSART,
  adcConfig,
  avrInstruction,
  CPU,
  EEPROMMemoryBackend,
  PinState,
  portBConfig,
  portCConfig,
  portDConfig,
  timer0Config,
  timer1Config,
  timer2Config,
  usart0Config,
} from 'avr8js'
import type { Clock, OpenWire } from '../src/check/wire'
import type { SolderedChip } from '../src/standins/boards/expanders/soldered-chip'

const HZ = 16_000_000
const PROGRAM_BYTES = 32_768
const KEPT_BYTES = 1024
const SRAM_BYTES = 2048
const SRAM_FROM = 0x100
const UNTOUCHED = 0xa5

/** A byte that has come waits in a real chip while its sender is switched on or off; in the emulated one it would be lost. */
const keepWaiting = (cpu: CPU): void => {
  const { UCSRA, UCSRB } = usart0Config
  const CAME = 0x80
  const hook = cpu.writeHooks[UCSRB]
  cpu.writeHooks[UCSRB] = (value, before, address, mask) => {
    const waits = (cpu.data[UCSRA] as number) & CAME
    const taken = hook?.(value, before, address, mask)
    if (waits !== 0)
      cpu.setInterruptFlag({
        address: usart0Config.rxCompleteInterrupt,
        flagRegister: UCSRA,
        flagMask: CAME,
        enableRegister: UCSRB,
        enableMask: CAME,
        constant: true,
      })
    return taken ?? false
  }
}

/** The program in a file of Intel's hexadecimal format. */
export const programOf = (hex: string): Uint8Array => {
  const program = new Uint8Array(PROGRAM_BYTES).fill(0xff)
  for (const line of hex.split('\n')) {
    if (line[0] !== ':' || line.slice(7, 9) !== '00') continue
    const count = Number.parseInt(line.slice(1, 3), 16)
    const at = Number.parseInt(line.slice(3, 7), 16)
    for (let i = 0; i < count; i++) program[at + i] = Number.parseInt(line.slice(9 + 2 * i, 11 + 2 * i), 16)
  }
  return program
}

export const imageOf = (chip: string): Uint8Array =>
  programOf(readFileSync(new URL(`../firmware/images/${chip}.hex`, import.meta.url), 'utf8'))

/**
 * An emulated ATmega328P that runs an image unchanged, with its pins, its line and its memory in the hands of a test. Its
 * time is its own: it passes only while somebody lets it run.
 */
export class Chip {
  readonly kept: EEPROMMemoryBackend
  private cpu: CPU
  private ports: AVRIOPort[] = []
  private usart!: AVRUSART
  private adc!: AVRADC
  private readonly coming: number[] = []
  private heard: (byte: number) => void = () => {}
  private readonly timers = new Set<{ every: number; at: number; work: () => void }>()
  /** Contacts to ground that are closed, by the board's number of the pin. */
  private readonly closed = new Set<number>()
  private before = 0
  /** Whoever holds pins by what hangs on it, which may change at any time. */
  private readonly watching: (() => void)[] = []

  constructor(
    private readonly program: Uint8Array,
    kept?: Uint8Array,
  ) {
    this.kept = new EEPROMMemoryBackend(KEPT_BYTES)
    if (kept) this.kept.memory.set(kept)
    this.cpu = this.powerOn()
  }

  /** Power comes on: everything begins anew but what is kept. */
  private powerOn(): CPU {
    const cpu = new CPU(new Uint16Array(this.program.slice().buffer), SRAM_BYTES)
    // As it woke up: what the program never writes stays like this, and tells how much it had to spare.
    cpu.data.fill(UNTOUCHED, SRAM_FROM)
    this.ports = [portBConfig, portCConfig, portDConfig].map((config) => new AVRIOPort(cpu, config))
    for (const config of [timer0Config, timer1Config, timer2Config]) new AVRTimer(cpu, config)
    new AVREEPROM(cpu, this.kept)
    this.adc = new AVRADC(cpu, adcConfig)
    this.usart = new AVRUSART(cpu, usart0Config, HZ)
    keepWaiting(cpu)
    this.usart.onByteTransmit = (byte) => this.heard(byte)
    this.usart.onRxComplete = () => this.feed()
    this.cpu = cpu
    // A contact that is open leaves the pin to its own pull-up.
    for (let pin = 0; pin < 20; pin++) this.contact(pin, this.closed.has(pin))
    return cpu
  }

  /** Joins a chip to these pins: it hears what the program drives, and holds what the program reads. */
  solder(pins: readonly number[], chip: SolderedChip): void {
    const known = new Map<number, boolean>()
    const look = () => {
      for (const pin of pins) {
        const high = this.isHigh(pin)
        if (!this.isDriven(pin) || known.get(pin) === high) continue
        known.set(pin, high)
        chip.driven?.(pin, high)
      }
      for (const pin of pins) {
        const held = chip.holds?.(pin) ?? null
        const [port, bit] = Chip.at(pin)
        if (held !== null) this.ports[port]?.setPin(bit, held === 'high')
        const level = chip.level?.(pin) ?? null
        if (level !== null && pin >= 14) this.wiper(pin, level)
      }
    }
    for (const port of this.ports) port.addListener(look)
    this.watching.push(look)
    look()
  }

  /** Power goes and comes back, at once. */
  cutPower(): void {
    this.before += this.cpu.cycles
    this.coming.length = 0
    this.powerOn()
  }

  get cycles(): number {
    return this.before + this.cpu.cycles
  }

  /** Milliseconds of its own time since the beginning. */
  get now(): number {
    return this.cycles / (HZ / 1000)
  }

  private static at(pin: number): readonly [port: number, bit: number] {
    return pin < 8 ? [2, pin] : pin < 14 ? [0, pin - 8] : [1, pin - 14]
  }

  /** Closes or opens a contact from a pin to ground. */
  contact(pin: number, closed: boolean): void {
    if (closed) this.closed.add(pin)
    else this.closed.delete(pin)
    const [port, bit] = Chip.at(pin)
    this.ports[port]?.setPin(bit, !closed)
  }

  /** Puts a wiper at a share of the supply. */
  wiper(pin: number, share: number): void {
    this.adc.channelValues[pin - 14] = share * 5
  }

  isClosed(pin: number): boolean {
    return this.closed.has(pin)
  }

  /** The longest stretch of memory that was never written since power came on: what the stack had to spare. */
  get spare(): number {
    let longest = 0
    let run = 0
    for (let at = SRAM_FROM; at < SRAM_FROM + SRAM_BYTES; at++) {
      run = this.cpu.data[at] === UNTOUCHED ? run + 1 : 0
      longest = Math.max(longest, run)
    }
    return longest
  }

  /** Whether a pin drives high now. */
  isHigh(pin: number): boolean {
    const [port, bit] = Chip.at(pin)
    return this.ports[port]?.pinState(bit) === PinState.High
  }

  /** How a pin is, as its chip has it. */
  isDriven(pin: number): boolean {
    const [port, bit] = Chip.at(pin)
    const state = this.ports[port]?.pinState(bit)
    return state === PinState.High || state === PinState.Low
  }

  /** The share of the time that a pin is high, over some milliseconds. */
  brightness(pin: number, ms = 20): number {
    let high = 0
    const samples = ms * 200
    for (let i = 0; i < samples; i++) {
      this.runCycles(HZ / 200_000)
      if (this.isHigh(pin)) high++
    }
    return high / samples
  }

  private feed(): void {
    const byte = this.coming[0]
    if (byte !== undefined && this.usart.writeByte(byte)) this.coming.shift()
  }

  /** Lets bytes come over its line, as quickly as the line has them. */
  receive(bytes: ArrayLike<number>): void {
    for (let i = 0; i < bytes.length; i++) this.coming.push(bytes[i] as number)
    this.feed()
  }

  runCycles(count: number): void {
    const { cpu } = this
    for (const end = cpu.cycles + count; cpu.cycles < end; ) {
      avrInstruction(cpu)
      cpu.tick()
    }
  }

  /** Lets it run for so many milliseconds of its own time; whoever waits for it is called in time. */
  run(ms: number): void {
    for (const end = this.now + ms; this.now < end; ) {
      this.runCycles(HZ / 2000)
      for (const look of this.watching) look()
      if (this.coming.length > 0 && !this.usart.rxBusy) this.feed()
      for (const t of this.timers) {
        if (this.now < t.at) continue
        t.at = this.now + t.every
        t.work()
      }
    }
  }

  /** Its own time, for whoever waits: waiting is what lets it pass. */
  readonly clock: Clock = {
    now: () => this.now,
    sleep: async (ms) => {
      this.run(ms)
      // Everybody else has a turn, too.
      await new Promise((resolve) => setImmediate(resolve))
    },
    every: (ms, work) => {
      const timer = { every: ms, at: this.now + ms, work }
      this.timers.add(timer)
      return () => this.timers.delete(timer)
    },
  }

  /** The other end of its line. */
  readonly open: OpenWire = async ({ received }) => {
    this.heard = (byte) => received(Uint8Array.of(byte))
    return {
      send: (data) => this.receive(typeof data === 'string' ? new TextEncoder().encode(data) : data),
      close: () => {
        this.heard = () => {}
      },
    }
  }
}
