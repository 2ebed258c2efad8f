import { describe, expect, it } from 'vitest'
import { BLANK, encodeConfiguration, fingerprint, type Slot } from '../../core/harness/slot'
import { packLamp } from '../../core/signal/lamp-state'
import { type FromBoard, hostEnd, type ToBoard } from '../../links/board-link'
import { ReportReader } from '../../links/reports'
import { randomFrom } from '../craft/world'
import { Contact } from './contact'
import { type BoardMemory, SimulatedBoard } from './simulated-board'

const slots: Slot[] = [
  { kind: 'contacts', pins: [22, 24], debounceMs: 10 },
  { kind: 'lamp', pin: 26, sinks: false, rest: 0 },
  { kind: 'lamp', pin: 27, sinks: false, rest: 255 },
]

/** A board on a bench with its own clock, and what it says. */
class Bench {
  now = 1_000_000
  heard: FromBoard[] = []
  private host = hostEnd()
  private readonly reader = new ReportReader()
  readonly board: SimulatedBoard

  constructor(
    memory: BoardMemory | null = {
      configuration: [...encodeConfiguration({ chips: [], slots })],
      closed: [],
    },
    seed = 3,
  ) {
    this.board = new SimulatedBoard(
      '00112233445566aa',
      'ATmega2560 board',
      memory,
      randomFrom(seed),
      (bytes) => {
        for (const { message: m } of this.host.decode(bytes)) {
          this.heard.push(m)
          if (m.say === 'all inputs') this.reader.takeAll(m.number, m.inputs)
          if (m.say === 'inputs') this.reader.take(m.number, m.inputs)
        }
      },
    )
    this.board.connect(this.now)
  }

  hears(message: ToBoard): void {
    this.board.receive(this.host.encode(message).bytes, this.now)
  }

  say(...messages: ToBoard[]): this {
    for (const m of messages) {
      this.hears(m)
      // A piece is answered when it is written, in its next turn.
      this.board.step(this.now)
    }
    return this
  }

  beat(): this {
    return this.say({ say: 'heartbeat', next: this.reader.next ?? 0, digest: this.reader.digest })
  }

  run(ms: number): this {
    for (let i = 0; i < ms * 5; i++) {
      this.now += 200
      this.board.step(this.now)
    }
    return this
  }

  reports(): number[] {
    return this.heard.flatMap((m) =>
      m.say === 'inputs' || m.say === 'all inputs' ? m.inputs.map((x) => x.value) : [],
    )
  }

  level(pin: number): number | undefined {
    return this.board.pinLevels.get(pin)
  }
}

describe('a contact', () => {
  it('bounces and then stays', () => {
    const contact = new Contact(false, randomFrom(5))
    contact.move(true, 0)
    const seen: boolean[] = []
    for (let t = 0; t < 10_000; t += 10) {
      contact.settle(t)
      seen.push(contact.closed)
    }
    const edges = seen.filter((c, i) => i > 0 && c !== seen[i - 1]).length
    expect(edges).toBeGreaterThanOrEqual(2)
    expect(seen.at(-1)).toBe(true)
    expect(contact.moving).toBe(false)
  })
})

describe('a contact that is moved quicker than any finger', () => {
  it('owes no more than a moment, and ends where it was put last', () => {
    const contact = new Contact(false, randomFrom(7))
    for (let i = 0; i < 20_001; i++) contact.move(i % 2 === 0, 1000)
    contact.settle(5_000_000)
    expect(contact.moving).toBe(false)
    expect(contact.closed).toBe(true)
  })
})

describe('a simulated board', () => {
  it('tells who it is and what it holds', () => {
    const hello = new Bench().heard[0]
    expect(hello).toMatchObject({
      say: 'hello',
      identity: '00112233445566aa',
      fingerprint: fingerprint(encodeConfiguration({ chips: [], slots })),
    })
    expect(new Bench(null).heard[0]).toMatchObject({ fingerprint: BLANK, length: 0 })
  })

  it('reports every input on start, then each movement once, however it bounces', () => {
    for (let seed = 1; seed < 30; seed++) {
      const bench = new Bench(undefined, seed).say({ say: 'start' }).run(20)
      expect(bench.reports()).toEqual([0])
      bench.board.hands.moveContact(24, true, bench.now)
      bench.run(60)
      expect(bench.reports()).toEqual([0, 2])
      bench.board.hands.moveContact(24, false, bench.now)
      bench.run(60)
      expect(bench.reports()).toEqual([0, 2, 0])
    }
  })

  it('reports nothing before it is asked to start', () => {
    const bench = new Bench()
    bench.board.hands.moveContact(22, true, bench.now)
    expect(bench.run(100).reports()).toEqual([])
  })

  it('drives pins: steady, dimmed, blinking on its own clock', () => {
    const bench = new Bench().say({ say: 'start' })
    bench.say({ say: 'outputs', outputs: [{ slot: 1, state: packLamp(0.5, 0) }] }).run(2)
    expect(bench.level(26)).toBe(128)
    bench.say({ say: 'outputs', outputs: [{ slot: 1, state: packLamp(1, 2) }] })
    const levels: number[] = []
    for (let i = 0; i < 200; i++) levels.push(bench.run(5).beat().level(26) ?? -1)
    const edges = levels.filter((l, i) => i > 0 && l !== levels[i - 1]).length
    expect(edges).toBeGreaterThanOrEqual(3)
    expect(edges).toBeLessThanOrEqual(5)
  })

  it('looks other to a meter once its pins have followed, also when the meter looked a moment too early', () => {
    const bench = new Bench().say({ say: 'start' }).run(50)
    const lamp = (level: number) => bench.hears({ say: 'outputs', outputs: [{ slot: 1, state: level }] })
    while (bench.board.looksOther()) bench.run(1)
    for (const level of [255, 0, 90]) {
      lamp(level)
      bench.board.looksOther()
      bench.run(1)
      expect(bench.board.looksOther()).toBe(true)
      expect(bench.level(26)).toBe(level)
      bench.run(1)
      expect(bench.board.looksOther()).toBe(false)
    }
  })

  it('goes to its rest states when it hears nothing, and when it is cut off', () => {
    const bench = new Bench().say(
      { say: 'start' },
      {
        say: 'outputs',
        outputs: [
          { slot: 1, state: 255 },
          { slot: 2, state: 0 },
        ],
      },
    )
    bench.run(1000)
    expect([bench.level(26), bench.level(27)]).toEqual([255, 0])
    bench.run(700)
    expect([bench.level(26), bench.level(27)]).toEqual([0, 255])
  })

  it('does not go to rest because what it hears comes between its turns', () => {
    const bench = new Bench().say({ say: 'start' })
    for (let i = 0; i < 300; i++) {
      bench.run(10)
      bench.now += 7000
      bench.beat()
      bench.now -= 7000
    }
    const rests = bench.heard.flatMap((m) => (m.say === 'heartbeat' ? [m.rests] : []))
    expect(rests.length).toBeGreaterThan(8)
    expect(new Set(rests)).toEqual(new Set([0]))
  })

  it('rests once, however long nobody is heard', () => {
    const bench = new Bench().say({ say: 'start' })
    for (let i = 0; i < 4 * 3600; i++) {
      bench.now += 1_000_000
      bench.board.step(bench.now)
    }
    const rests = bench.heard.flatMap((m) => (m.say === 'heartbeat' ? [m.rests] : []))
    expect(rests.at(-1)).toBe(1)
    expect(bench.level(27)).toBe(255)
  })

  it('keeps its old configuration when a load is cut off, damaged or of another kind', () => {
    const bytes = encodeConfiguration({
      chips: [],
      slots: [{ kind: 'lamp', pin: 40, sinks: false, rest: 0 }],
    })
    const begin: ToBoard = { say: 'load begin', length: bytes.length, fingerprint: fingerprint(bytes) }
    const bench = new Bench()
    bench.say(begin, { say: 'load piece', offset: 0, bytes: bytes.subarray(0, 2) })
    bench.board.disconnect()
    bench.board.connect(bench.now)
    bench.say({ say: 'hello' })
    expect(bench.heard.at(-1)).toMatchObject({
      say: 'hello',
      fingerprint: fingerprint(encodeConfiguration({ chips: [], slots })),
    })
    bench.say(
      begin,
      { say: 'load piece', offset: 0, bytes: bytes.map((b) => b ^ 1) },
      { say: 'load commit', fingerprint: fingerprint(bytes) },
    )
    expect(bench.heard.at(-1)).toMatchObject({
      say: 'answer',
      problem: expect.stringContaining('the old configuration stays'),
    })
    bench.say(
      begin,
      { say: 'load piece', offset: 3, bytes },
      { say: 'load commit', fingerprint: fingerprint(bytes) },
    )
    bench.say({ say: 'hello' })
    expect(bench.heard.at(-1)).toMatchObject({
      fingerprint: fingerprint(encodeConfiguration({ chips: [], slots })),
    })
  })

  it('takes a whole new configuration at once and keeps it', () => {
    const bytes = encodeConfiguration({
      chips: [],
      slots: [{ kind: 'lamp', pin: 40, sinks: false, rest: 0 }],
    })
    const bench = new Bench()
    bench.say(
      { say: 'load begin', length: bytes.length, fingerprint: fingerprint(bytes) },
      { say: 'load piece', offset: 0, bytes },
      { say: 'load commit', fingerprint: fingerprint(bytes) },
      { say: 'hello' },
    )
    expect(bench.heard.at(-1)).toMatchObject({ fingerprint: fingerprint(bytes) })
    expect(new Bench(bench.board.memory).heard[0]).toMatchObject({ fingerprint: fingerprint(bytes) })
  })

  it('keeps the positions of its contacts through a power cut', () => {
    const bench = new Bench().say({ say: 'start' }).run(20)
    bench.board.hands.moveContact(22, true, bench.now)
    bench.run(50)
    const again = new Bench(bench.board.memory).say({ say: 'start' })
    expect(again.reports()).toEqual([1])
  })
})

describe('a press that is heard late', () => {
  it('is seen all the same, though its end comes with its beginning', () => {
    const contact = new Contact(false, randomFrom(9))
    contact.move(true, 1000)
    contact.move(false, 1000)
    let longest = 0
    let since = Number.NaN
    for (let now = 1000; now < 60_000; now += 200) {
      contact.settle(now)
      since = contact.closed ? (Number.isNaN(since) ? now : since) : Number.NaN
      if (contact.closed) longest = Math.max(longest, now - since)
    }
    expect(longest).toBeGreaterThan(8000)
    expect(contact.closed).toBe(false)
  })
})
