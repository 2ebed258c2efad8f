import { describe, expect, it } from 'vitest'
import { encodeConfiguration, isDriven, ownPlace, type Slot } from '../../core/harness/slot'
import { type FromBoard, hostEnd, type ToBoard } from '../../links/board-link'
import { ReportReader } from '../../links/reports'
import { randomFrom } from '../craft/world'
import { Knob } from './knob'
import { SimulatedBoard } from './simulated-board'

const slots: Slot[] = [
  { kind: 'encoder', pins: [2, 3] },
  { kind: 'analog', pin: 54, smoothing: 1 },
  { kind: 'digits', pins: [22, 23, 24], driver: 'MAX7219', digits: 4, keep: false },
  { kind: 'text', pins: [20, 21], columns: 16, rows: 2, address: 39, keep: true },
  { kind: 'needle', pins: [30, 31, 32, 33], drive: 'four-wire', travelDeg: 300, degPerS: 100, rest: 0 },
]

/** A board with its own clock, its hands, and what it reports. */
const bench = (seed = 7) => {
  let now = 1_000_000
  const host = hostEnd()
  const heard: FromBoard[] = []
  const reader = new ReportReader()
  const memory = {
    configuration: [...encodeConfiguration({ chips: [], slots })],
    closed: [],
    wipers: [[54, 0.5]] as const,
    slots: slots.filter(isDriven),
  }
  const board = new SimulatedBoard(
    '00112233445566aa',
    'ATmega2560 board',
    memory,
    randomFrom(seed),
    (bytes) => {
      for (const { message } of host.decode(bytes)) {
        heard.push(message)
        if (message.say === 'all inputs') reader.takeAll(message.number, message.inputs)
        if (message.say === 'inputs') reader.take(message.number, message.inputs)
      }
    },
  )
  board.connect(now)
  const say = (...messages: ToBoard[]) => {
    for (const m of messages) board.receive(host.encode(m).bytes, now)
  }
  const run = (ms: number, alive = true) => {
    for (let i = 0; i < ms * 2; i++) {
      now += 500
      board.step(now)
      if (alive && i % 400 === 0) say({ say: 'heartbeat', next: reader.next ?? 0, digest: reader.digest })
    }
  }
  const values = (slot: number) =>
    heard
      .flatMap((m) => (m.say === 'inputs' || m.say === 'all inputs' ? m.inputs : []))
      .filter((i) => i.slot === slot)
      .map((i) => i.value)
  say({ say: 'start' })
  return { board, say, run, values }
}

describe('a knob on a board', () => {
  it('goes through its four states and back, bouncing, and is counted right', () => {
    for (let seed = 1; seed < 20; seed++) {
      const { board, run, values } = bench(seed)
      run(20)
      board.hands.turn(2, 3, 12)
      run(120)
      expect(values(0).at(-1)).toBe(12)
      board.hands.turn(2, 3, -20)
      run(200)
      expect(values(0).at(-1)).toBe(65536 - 8)
    }
  })
  it('turns no faster than a hand', () => {
    const knob = new Knob(randomFrom(1))
    knob.turn(100)
    let changes = 0
    let before = 0
    for (let us = 0; us < 100_000; us += 200) {
      knob.settle(us)
      const now = Number(knob.a.closed) + 2 * Number(knob.b.closed)
      // Bounces go back and forth; a knob at rest between two states has gone on by one.
      if (now !== before && !knob.a.moving && !knob.b.moving) changes++
      before = now
    }
    expect(changes).toBeGreaterThan(15)
    expect(changes).toBeLessThan(30)
  })
})

describe('a wiper on a board', () => {
  it('is told once where it stands, and not again for the noise of its converter', () => {
    const { run, values } = bench()
    run(3000)
    expect(values(1)).toHaveLength(1)
    expect(Math.abs((values(1)[0] ?? 0) - 512)).toBeLessThan(4)
  })
  it('is told as it moves, at most fifty times a second, up to its very end', () => {
    const { board, run, values } = bench()
    run(100)
    for (let i = 0; i <= 100; i++) {
      board.hands.slide(54, 0.5 + i / 200)
      run(5)
    }
    run(200)
    const told = values(1)
    expect(told.length).toBeLessThan(50)
    expect(told.at(-1)).toBe(1023)
  })
})

describe('what a board drives', () => {
  /** By the place that is theirs alone: the select pin, an address on the bus, a first coil. */
  const display = ownPlace(slots[3] as Slot)
  const looks = (board: SimulatedBoard) => Object.fromEntries(board.shows)
  it('shows what it was told: digits, and a text row by row', () => {
    const { board, say, run } = bench()
    say(
      { say: 'show', slot: 2, row: 0, text: 'f12.34' },
      { say: 'show', slot: 3, row: 1, text: 'SECOND LINE     ' },
      { say: 'show', slot: 3, row: 9, text: 'NO SUCH ROW     ' },
    )
    // The display is set up first, and takes its time for that.
    run(150)
    expect(looks(board)[24]).toBe('f12.34')
    expect(looks(board)[display]).toBe(`${' '.repeat(16)}\nSECOND LINE     `)
  })
  it('turns a needle at its own speed and no further than its travel', () => {
    const { board, say, run } = bench()
    // It looks for its stop first: as far back as it can turn.
    run(3500)
    say({ say: 'outputs', outputs: [{ slot: 4, state: 1000 }] })
    run(500)
    expect(looks(board)[30]).toBeGreaterThan(400)
    expect(looks(board)[30]).toBeLessThan(550)
    run(800)
    expect(looks(board)[30]).toBe(1000)
    say({ say: 'outputs', outputs: [{ slot: 4, state: 5000 }] })
    run(2500)
    expect(looks(board)[30]).toBe(3000)
  })
  it('goes to its rest when the board hears nothing, or stays where it is to stay', () => {
    const { board, say, run } = bench()
    say(
      { say: 'show', slot: 2, row: 0, text: 'f1234' },
      { say: 'show', slot: 3, row: 0, text: 'KEPT            ' },
      { say: 'outputs', outputs: [{ slot: 4, state: 500 }] },
    )
    run(4500)
    run(3000, false)
    expect(looks(board)[24]).toBe('0    ')
    expect(String(looks(board)[display]).startsWith('KEPT')).toBe(true)
    expect(looks(board)[30]).toBe(0)
  })
})
