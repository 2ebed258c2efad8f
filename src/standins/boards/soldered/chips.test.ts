import { describe, expect, it } from 'vitest'
import { expanderKind, expanderKinds } from '../../../core/catalogue/expanders'
import { channelPlace } from '../../../core/catalogue/place'
import { boardLines, type Chip } from '../../../core/harness/chip'
import { type Configuration, encodeConfiguration, isDriven, type Slot } from '../../../core/harness/slot'
import { type FromBoard, hostEnd, type ToBoard } from '../../../links/board-link'
import { ReportReader } from '../../../links/reports'
import { randomFrom } from '../../craft/world'
import { SimulatedBoard } from '../simulated-board'
import { chipMakers } from './chips'

/** A chip on the pins from 30 on. */
const chip = (kind: string, chips = 1): Chip => {
  const known = expanderKind(kind)
  if (!known) throw new Error(`no ${kind}`)
  const pins = boardLines(known).map((_, i) => 30 + i)
  return { kind, pins, chips, address: known.addresses?.first ?? 0 }
}

const contact = (place: number): Slot => ({ kind: 'contacts', pins: [place], debounceMs: 5 })
const lamp = (pin: number): Slot => ({ kind: 'lamp', pin, sinks: false, rest: 0 })
const gauge = (pins: number[], drive: 'four-wire' | 'servo'): Slot => ({
  ...{ kind: 'needle', pins, drive, travelDeg: drive === 'servo' ? 180 : 315, degPerS: 400, rest: 0 },
})

/** A board that holds this, with these chips soldered on. */
class Bench {
  now = 1_000_000
  readonly reports = new Map<number, number>()
  private readonly host = hostEnd()
  private readonly reader = new ReportReader()
  readonly board: SimulatedBoard

  constructor(holds: Configuration, soldered: readonly Chip[] = holds.chips) {
    const slots = holds.slots.filter(isDriven)
    const memory = { configuration: [...encodeConfiguration(holds)], closed: [], chips: soldered, slots }
    this.board = new SimulatedBoard('00112233445566aa', 'Test', memory, randomFrom(4), (bytes) => {
      for (const { message } of this.host.decode(bytes)) this.hear(message)
    })
    this.board.connect(this.now)
    this.say({ say: 'start' })
    this.run(40)
  }

  private hear(m: FromBoard): void {
    if (m.say === 'all inputs') this.reader.takeAll(m.number, m.inputs)
    if (m.say === 'inputs') this.reader.take(m.number, m.inputs)
    if (m.say === 'inputs' || m.say === 'all inputs')
      for (const { slot, value } of m.inputs) this.reports.set(slot, value)
  }

  say(message: ToBoard): this {
    this.board.receive(this.host.encode(message).bytes, this.now)
    return this
  }

  light(slot: number, level: number): this {
    return this.say({ say: 'outputs', outputs: [{ slot, state: level }] }).run(10)
  }

  run(ms: number): this {
    for (let i = 0; i < ms; i++) {
      this.now += 1000
      this.board.step(this.now)
      if (i % 300 === 0)
        this.say({ say: 'heartbeat', next: this.reader.next ?? 0, digest: this.reader.digest })
    }
    return this
  }

  close(place: number, closed = true): this {
    this.board.hands.moveContact(place, closed, this.now)
    return this.run(40)
  }
}

describe.each([
  ['mux-16', 1, 16],
  ['74hc165', 3, 24],
  ['mcp23017', 1, 16],
] as const)('contacts on a %s', (kind, chips, channels) => {
  it('are each read on their own, through the pins of the chip alone', () => {
    const slots = Array.from({ length: channels }, (_, c) => contact(channelPlace(0, c)))
    const bench = new Bench({ chips: [chip(kind, chips)], slots })
    for (let c = 0; c < channels; c++) {
      bench.close(channelPlace(0, c))
      expect([...bench.reports].filter(([, v]) => v === 1).map(([s]) => s)).toEqual([c])
      bench.close(channelPlace(0, c), false)
    }
  })

  it('are not seen by a board that holds the chip on other pins than it is soldered to', () => {
    const there = chip(kind, chips)
    const elsewhere = { ...there, pins: there.pins.map((p) => p + 20), address: there.address + 1 }
    const bench = new Bench({ chips: [elsewhere], slots: [contact(channelPlace(0, 2))] }, [there])
    bench.close(channelPlace(0, 2))
    expect(bench.reports.get(0)).toBe(0)
  })
})

it('reads a wiper through a multiplexer', () => {
  const bench = new Bench({
    chips: [chip('mux-16')],
    slots: [{ kind: 'analog', pin: channelPlace(0, 9), smoothing: 0 }],
  })
  bench.board.hands.slide(channelPlace(0, 9), 0.5)
  bench.run(60)
  expect(bench.reports.get(0)).toBeGreaterThan(500)
  expect(bench.reports.get(0)).toBeLessThan(524)
})

it('counts an encoder on a shift register', () => {
  const pins = [channelPlace(0, 5), channelPlace(0, 6)] as const
  const bench = new Bench({ chips: [chip('74hc165')], slots: [{ kind: 'encoder', pins }] })
  bench.board.hands.turn(...pins, 8)
  bench.run(120)
  expect(bench.reports.get(0)).toBe(8)
})

describe.each([
  ['74hc595', 2, 255],
  ['mcp23017', 1, 255],
  ['tlc5940', 2, 100],
  ['pca9685', 1, 100],
] as const)('lamps on a %s', (kind, chips, level) => {
  it('light one by one', () => {
    const count = (expanderKind(kind)?.channelsPerChip ?? 0) * chips
    const slots = Array.from({ length: count }, (_, c) => lamp(channelPlace(0, c)))
    const bench = new Bench({ chips: [chip(kind, chips)], slots })
    for (let c = 0; c < count; c++) {
      bench.light(c, level)
      const lit = [...bench.board.pinLevels].filter(([, l]) => l > 0)
      expect(lit.map(([place]) => place)).toEqual([channelPlace(0, c)])
      expect(Math.abs((lit[0]?.[1] ?? 0) - level)).toBeLessThanOrEqual(1)
      bench.light(c, 0)
    }
  })

  it('are told anew when the chip is soldered on later', () => {
    const holds = { chips: [chip(kind, chips)], slots: [lamp(channelPlace(0, 3))] }
    const bench = new Bench(holds, [])
    bench.light(0, level)
    expect([...bench.board.pinLevels]).toEqual([])
    bench.board.solder(holds.chips, [])
    // In its turn: each chip is told everything anew every so often.
    bench.run(300)
    expect(bench.board.pinLevels.get(channelPlace(0, 3))).toBeGreaterThan(0)
  })
})

it('turns a gauge motor through its driver chip, as fast as it may and no further', () => {
  const place = channelPlace(0, 4)
  const bench = new Bench({
    chips: [chip('motor-driver-4')],
    slots: [gauge([place, place + 1, place + 2, place + 3], 'four-wire')],
  })
  // It looks for its stop first.
  bench
    .run(1500)
    .say({ say: 'outputs', outputs: [{ slot: 0, state: 900 }] })
    .run(150)
  const half = Number(bench.board.shows.get(place))
  expect(half).toBeGreaterThan(200)
  expect(half).toBeLessThan(500)
  bench.run(400)
  expect(bench.board.shows.get(place)).toBe(900)
})

it('turns a servo by the length of its pulses', () => {
  const bench = new Bench({ chips: [chip('pca9685')], slots: [gauge([channelPlace(0, 15)], 'servo')] })
  bench.say({ say: 'outputs', outputs: [{ slot: 0, state: 450 }] }).run(600)
  // The chip's counts are 5 µs long, a quarter of a degree.
  expect(Math.abs(Number(bench.board.shows.get(channelPlace(0, 15))) - 450)).toBeLessThan(8)
})

it('keeps what hangs on a chip when another is soldered on before it', () => {
  const [first, second] = [chip('mcp23017'), { ...chip('mcp23017'), address: 0x25 }]
  const bench = new Bench({ chips: [first], slots: [contact(channelPlace(0, 7))] })
  bench.close(channelPlace(0, 7))
  bench.board.solder([second, first], [])
  bench.run(20)
  expect(bench.board.hands.closedPins()).toEqual([channelPlace(1, 7)])
  expect(bench.reports.get(0)).toBe(1)
})

describe('the catalogue and the stand-ins', () => {
  it('know the same expanders, each with a code of its own', () => {
    const worked = expanderKinds.filter((k) => k.follows !== true)
    expect(Object.keys(chipMakers).sort()).toEqual(worked.map((k) => k.id).sort())
    expect(new Set(expanderKinds.map((k) => k.code)).size).toBe(expanderKinds.length)
  })
})
