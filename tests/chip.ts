import { readFileSync } from 'node:fs'
import {
  type ADCConfig,
  ADCMuxInputType,
  AVRADC,
  AVREEPROM,
  AVRIOPort,
  type AVRTimerConfig,
  AVRTWI,
  AVRUSART,
  adcConfig,
  CPU,
  EEPROMMemoryBackend,
  PinState,
  portAConfig,
  portBConfig,
  portCConfig,
  portDConfig,
  portEConfig,
  portFConfig,
  portGConfig,
  portHConfig,
  portJConfig,
  portKConfig,
  portLConfig,
  timer0Config,
  timer1Config,
  timer2Config,
  twiConfig,
  usart0Config,
} from 'avr8js'
import type { OpenWire } from '../src/check/wire'
import type { Soldered, TwoWireChip } from '../src/standins/boards/soldered/soldered'
import type { BoardUnderTest } from './board-under-test'
import { runTo } from './chip-instructions'
import { ChipTimer } from './chip-timer'
import { OwnClock } from './own-clock'

const HZ = 16_000_000
const UNTOUCHED = 0xa5
type USARTConfig = typeof usart0Config

/** What of a chip an emulator has to know: from its data sheet, and where its boards have its ports. */
interface ChipKind {
  readonly programBytes: number
  readonly sram: { readonly from: number; readonly bytes: number }
  readonly keptBytes: number
  /** Port and bit of each pin, by the board's number of it. */
  readonly pins: readonly string[]
  readonly firstAnalog: number
  readonly timers: readonly AVRTimerConfig[]
  readonly usart: USARTConfig
  readonly adc: ADCConfig
  readonly twi: typeof twiConfig
}

const ports = {
  ...{ A: portAConfig, B: portBConfig, C: portCConfig, D: portDConfig, E: portEConfig, F: portFConfig },
  ...{ G: portGConfig, H: portHConfig, J: portJConfig, K: portKConfig, L: portLConfig },
}
const bits = (port: string, ...list: readonly number[]): string[] => list.map((b) => `${port}${b}`)
const up = [0, 1, 2, 3, 4, 5, 6, 7]
const down = [...up].reverse()

const atmega328p: ChipKind = {
  programBytes: 32_768,
  sram: { from: 0x100, bytes: 2048 },
  keptBytes: 1024,
  pins: [...bits('D', ...up), ...bits('B', 0, 1, 2, 3, 4, 5), ...bits('C', 0, 1, 2, 3, 4, 5)],
  firstAnalog: 14,
  timers: [timer0Config, timer1Config, timer2Config],
  usart: usart0Config,
  adc: adcConfig,
  twi: twiConfig,
}

const single = (channel: number) => ({ type: ADCMuxInputType.SingleEnded, channel }) as const

/** One of the sixteen-bit timers that the larger chip has beyond the first: data sheet, 17.11, its vectors in 14.1. */
const wideTimer = (t: {
  readonly at: number
  readonly flags: number
  readonly mask: number
  readonly compA: number
  readonly port: number
  readonly pins: readonly [number, number, number]
}): AVRTimerConfig => ({
  ...timer1Config,
  ...{ TCCRA: t.at, TCCRB: t.at + 1, TCCRC: t.at + 2, TCNT: t.at + 4, ICR: t.at + 6 },
  ...{ OCRA: t.at + 8, OCRB: t.at + 10, OCRC: t.at + 12, TIFR: t.flags, TIMSK: t.mask },
  ...{ captureInterrupt: t.compA - 2, compAInterrupt: t.compA, compBInterrupt: t.compA + 2 },
  ...{ compCInterrupt: t.compA + 4, ovfInterrupt: t.compA + 6 },
  ...{ compPortA: t.port, compPinA: t.pins[0], compPortB: t.port, compPinB: t.pins[1] },
  ...{ compPortC: t.port, compPinC: t.pins[2] },
})

const atmega2560: ChipKind = {
  programBytes: 262_144,
  sram: { from: 0x200, bytes: 8192 },
  keptBytes: 4096,
  pins: [
    ...[
      'E0',
      'E1',
      'E4',
      'E5',
      'G5',
      'E3',
      'H3',
      'H4',
      'H5',
      'H6',
      'B4',
      'B5',
      'B6',
      'B7',
      'J1',
      'J0',
      'H1',
      'H0',
    ],
    ...bits('D', 3, 2, 1, 0),
    ...bits('A', ...up),
    ...bits('C', ...down),
    ...['D7', 'G2', 'G1', 'G0'],
    ...bits('L', ...down),
    ...bits('B', 3, 2, 1, 0),
    ...bits('F', ...up),
    ...bits('K', ...up),
  ],
  firstAnalog: 54,
  timers: [
    {
      ...timer0Config,
      ovfInterrupt: 0x2e,
      compPortA: portBConfig.PORT,
      compPinA: 7,
      compPortB: portGConfig.PORT,
      compPinB: 5,
    },
    { ...timer1Config, ovfInterrupt: 0x28, compPinA: 5, compPinB: 6 },
    {
      ...timer2Config,
      ovfInterrupt: 0x1e,
      compPortA: portBConfig.PORT,
      compPinA: 4,
      compPortB: portHConfig.PORT,
      compPinB: 6,
    },
    wideTimer({ at: 0x90, flags: 0x38, mask: 0x71, compA: 0x40, port: portEConfig.PORT, pins: [3, 4, 5] }),
    wideTimer({ at: 0xa0, flags: 0x39, mask: 0x72, compA: 0x54, port: portHConfig.PORT, pins: [3, 4, 5] }),
    wideTimer({ at: 0x120, flags: 0x3a, mask: 0x73, compA: 0x5e, port: portLConfig.PORT, pins: [3, 4, 5] }),
  ],
  usart: {
    ...usart0Config,
    rxCompleteInterrupt: 0x32,
    dataRegisterEmptyInterrupt: 0x34,
    txCompleteInterrupt: 0x36,
  },
  adc: {
    ...adcConfig,
    adcInterrupt: 0x3a,
    numChannels: 16,
    muxInputMask: 0x3f,
    muxChannels: Object.fromEntries(
      up.flatMap((c) => [
        [c, single(c)],
        [0x20 + c, single(8 + c)],
      ]),
    ),
  },
  twi: { ...twiConfig, twiInterrupt: 0x4e },
}

export const chipKinds = { atmega328p, atmega2560 }
export type ChipName = keyof typeof chipKinds

/** A byte that has come waits in a real chip while its sender is switched on or off; in the emulated one it would be lost. */
const keepWaiting = (cpu: CPU, { UCSRA, UCSRB, rxCompleteInterrupt }: USARTConfig): void => {
  const CAME = 0x80
  const hook = cpu.writeHooks[UCSRB]
  cpu.writeHooks[UCSRB] = (value, before, address, mask) => {
    const waits = (cpu.data[UCSRA] as number) & CAME
    const taken = hook?.(value, before, address, mask)
    if (waits !== 0)
      cpu.setInterruptFlag({
        address: rxCompleteInterrupt,
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
export const programOf = (hex: string, bytes: number): Uint8Array => {
  const program = new Uint8Array(bytes).fill(0xff)
  let beyond = 0
  for (const line of hex.split('\n')) {
    // Addresses beyond 64 KB: a line says their upper half, in sixteens.
    if (line.slice(7, 9) === '02') beyond = Number.parseInt(line.slice(9, 13), 16) * 16
    if (line[0] !== ':' || line.slice(7, 9) !== '00') continue
    const count = Number.parseInt(line.slice(1, 3), 16)
    const at = Number.parseInt(line.slice(3, 7), 16)
    for (let i = 0; i < count; i++)
      program[beyond + at + i] = Number.parseInt(line.slice(9 + 2 * i, 11 + 2 * i), 16)
  }
  return program
}

export const imageOf = (chip: ChipName): Uint8Array =>
  programOf(
    readFileSync(new URL(`../firmware/images/${chip}.hex`, import.meta.url), 'utf8'),
    chipKinds[chip].programBytes,
  )

/**
 * An emulated chip that runs an image unchanged, with its pins, its line and its memory in the hands of a test. Its
 * time is its own: it passes only while somebody lets it run.
 */
export class Chip implements BoardUnderTest {
  private readonly kept: EEPROMMemoryBackend
  private cpu: CPU
  private readonly kind: ChipKind
  private ports = new Map<string, AVRIOPort>()
  private usart!: AVRUSART
  private adc!: AVRADC
  private readonly coming: number[] = []
  private heard: (byte: number) => void = () => {}
  readonly clock = new OwnClock(
    () => this.now,
    (ms) => this.run(ms),
  )
  /** Contacts to ground that are closed, by the board's number of the pin. */
  private readonly closed = new Set<number>()
  private before = 0
  /** Whoever holds pins by what hangs on it, which may change at any time. */
  private readonly watching: (() => void)[] = []
  private readonly onBus: TwoWireChip[] = []
  /** Whoever is soldered on, for the next time that power comes on. */
  private readonly joined: (() => void)[] = []

  constructor(
    readonly name: ChipName,
    kept?: Uint8Array,
    private readonly program = imageOf(name),
  ) {
    this.kind = chipKinds[name]
    this.kept = new EEPROMMemoryBackend(this.kind.keptBytes)
    if (kept) this.kept.memory.set(kept)
    this.cpu = this.powerOn()
  }

  /** Power comes on: everything begins anew but what is kept. */
  private powerOn(): CPU {
    const { sram, pins, timers, usart, adc, twi } = this.kind
    // The emulator has room for registers up to 0x100 by itself.
    const cpu = new CPU(new Uint16Array(this.program.slice().buffer), sram.bytes + sram.from - 0x100)
    // As it woke up: what the program never writes stays like this, and tells how much it had to spare.
    cpu.data.fill(UNTOUCHED, sram.from)
    const letters = new Set(pins.map((p) => p[0] as keyof typeof ports))
    this.ports = new Map([...letters].map((l) => [l, new AVRIOPort(cpu, ports[l])]))
    for (const config of timers) new ChipTimer(cpu, config)
    new AVREEPROM(cpu, this.kept)
    this.adc = new AVRADC(cpu, adc)
    this.joinBus(new AVRTWI(cpu, twi, HZ))
    this.usart = new AVRUSART(cpu, usart, HZ)
    keepWaiting(cpu, usart)
    this.usart.onByteTransmit = (byte) => this.heard(byte)
    this.usart.onRxComplete = () => this.feed()
    this.cpu = cpu
    // A contact that is open leaves the pin to its own pull-up.
    for (const pin of pins.keys()) this.contact(pin, this.closed.has(pin))
    for (const join of this.joined) join()
    return cpu
  }

  private joinBus(bus: AVRTWI): void {
    let there: TwoWireChip | undefined
    let written: number[] = []
    const end = () => {
      if (written.length > 0) there?.write(written)
      written = []
    }
    bus.eventHandler = {
      start: () => {
        end()
        bus.completeStart()
      },
      stop: () => {
        end()
        bus.completeStop()
      },
      connectToSlave: (address) => {
        there = this.onBus.find((c) => c.address === address)
        bus.completeConnect(there !== undefined)
      },
      writeByte: (byte) => {
        written.push(byte)
        bus.completeWrite(true)
      },
      readByte: () => bus.completeRead(there?.read(1)[0] ?? 0xff),
    }
  }

  /**
   * Joins something to these pins: it hears what the program drives, and holds what the program reads. Pins that turn over
   * all the time are told once: what hangs on them hears that they run.
   */
  solder(pins: readonly number[], there: Soldered, running: readonly number[] = []): void {
    if (there.twoWire) this.onBus.push(there.twoWire)
    const known = new Map<number, boolean>()
    const heard = pins.filter((p) => !running.includes(p))
    const tell = () => {
      for (const pin of heard) {
        const high = this.isHigh(pin) || this.isPulledUp(pin)
        if (known.get(pin) === high) continue
        known.set(pin, high)
        there.driven?.(pin, high)
      }
    }
    const hold = () => {
      for (const pin of pins) {
        const held = there.holds?.(pin) ?? null
        const [port, bit] = this.at(pin)
        if (held !== null) port?.setPin(bit, held === 'high')
        const level = there.level?.(pin) ?? null
        if (level !== null && pin >= this.kind.firstAnalog) this.wiper(pin, level)
      }
    }
    const join = () => {
      known.clear()
      for (const port of new Set(pins.map((p) => this.at(p)[0]))) {
        const mine = heard.reduce((m, p) => m | (this.at(p)[0] === port ? 1 << this.at(p)[1] : 0), 0)
        port?.addListener((value, before) => {
          if (((value ^ before) & mine) === 0) return
          tell()
          if (there.holds) hold()
        })
      }
      tell()
      hold()
    }
    this.joined.push(join)
    this.watching.push(() => {
      for (const pin of running) if (this.isDriven(pin)) there.driven?.(pin, this.isHigh(pin))
      hold()
    })
    join()
  }

  /** Joins something that goes by the length of pulses: colours, servos, frequencies. */
  solderWave(pin: number, there: Soldered): void {
    const COLOUR_BIT = 10
    const us = HZ / 1_000_000
    let rose = 0
    let fell = 0
    let bits: number[] = []
    const end = () => {
      const bytes = Array.from({ length: bits.length >> 3 }, (_, i) =>
        bits.slice(8 * i, 8 * i + 8).reduce((byte, bit) => (byte << 1) | bit, 0),
      )
      if (bytes.length > 0) there.colours?.(bytes)
      bits = []
    }
    const join = () => {
      const [port, bit] = this.at(pin)
      port?.addListener((value, before) => {
        if (((value ^ before) & (1 << bit)) === 0) return
        const now = this.cycles
        if ((value & (1 << bit)) !== 0) {
          if (now - fell > 50 * us) end()
          if (rose > 0) there.turnsOver?.(HZ / (now - rose))
          rose = now
          return
        }
        const high = now - rose
        fell = now
        if (high < 2 * us) bits.push(high >= COLOUR_BIT ? 1 : 0)
        else if (high > 300 * us && high < 3000 * us) there.pulsed?.(high / us)
      })
    }
    this.joined.push(join)
    this.watching.push(() => {
      if (this.cycles - fell > 50 * us) end()
      if (this.cycles - rose > HZ) there.turnsOver?.(0)
    })
    join()
  }

  /** Power goes and comes back, at once. */
  cutPower(): void {
    this.before += this.cpu.cycles
    this.coming.length = 0
    this.powerOn()
  }

  get memory(): Uint8Array {
    return this.kept.memory
  }

  /** The emulated chip itself, for whoever holds it against another. */
  get core(): CPU {
    return this.cpu
  }

  get cycles(): number {
    return this.before + this.cpu.cycles
  }

  /** Milliseconds of its own time since the beginning. */
  get now(): number {
    return this.cycles / (HZ / 1000)
  }

  private at(pin: number): readonly [port: AVRIOPort | undefined, bit: number] {
    const place = this.kind.pins[pin] ?? ''
    return [this.ports.get(place[0] ?? ''), Number(place[1])]
  }

  /** Closes or opens a contact from a pin to ground. */
  contact(pin: number, closed: boolean): void {
    if (closed) this.closed.add(pin)
    else this.closed.delete(pin)
    const [port, bit] = this.at(pin)
    port?.setPin(bit, !closed)
  }

  /** Puts a wiper at a share of the supply. */
  wiper(pin: number, share: number): void {
    this.adc.channelValues[pin - this.kind.firstAnalog] = share * 5
  }

  isClosed(pin: number): boolean {
    return this.closed.has(pin)
  }

  /** The longest stretch of memory that was never written since power came on: what the stack had to spare. */
  get spare(): number {
    let longest = 0
    let run = 0
    const { from, bytes } = this.kind.sram
    for (let at = from; at < from + bytes; at++) {
      run = this.cpu.data[at] === UNTOUCHED ? run + 1 : 0
      longest = Math.max(longest, run)
    }
    return longest
  }

  /** Whether a pin drives high now. */
  isHigh(pin: number): boolean {
    const [port, bit] = this.at(pin)
    return port?.pinState(bit) === PinState.High
  }

  isPulledUp(pin: number): boolean {
    const [port, bit] = this.at(pin)
    return port?.pinState(bit) === PinState.InputPullUp
  }

  /** How a pin is, as its chip has it. */
  isDriven(pin: number): boolean {
    const [port, bit] = this.at(pin)
    const state = port?.pinState(bit)
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
    runTo(this.cpu, this.cpu.cycles + count)
  }

  /** Lets it run for so many milliseconds of its own time; whoever waits for it is called in time. */
  run(ms: number): void {
    for (const end = this.now + ms; this.now < end; ) {
      this.runCycles(HZ / 2000)
      for (const look of this.watching) look()
      if (this.coming.length > 0 && !this.usart.rxBusy) this.feed()
      this.clock.ring()
    }
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
