import { describe, expect, it } from 'vitest'
import { smallRig } from '../../../tests/rigs'
import type { Nature } from '../../core/aspects/nature'
import { bouncesOf, measureBounces } from '../../core/calibration/bounce'
import { measureEncoder } from '../../core/calibration/encoder-measure'
import { noiseOf } from '../../core/calibration/noise'
import { changesOf } from '../../core/calibration/quadrature'
import { flawsOf } from '../../core/calibration/travel-measure'
import { encodeConfiguration, type Slot } from '../../core/harness/slot'
import { solderedOn } from '../../core/harness/soldered'
import type { PartRow } from '../../core/rig/rows'
import { readColours } from '../../core/signal/colours'
import { type FromBoard, hostEnd } from '../../links/board-link'
import { NoteReader, type SlotNoted } from '../../links/notes'
import { randomFrom } from '../craft/world'
import { SimulatedBoard } from './simulated-board'
import type { SolderedThing } from './soldered/soldered'
import { solderedThing } from './soldered/things'

const slots: Slot[] = [
  { kind: 'contacts', pins: [22], debounceMs: 10 },
  { kind: 'encoder', pins: [2, 3] },
  { kind: 'analog', pin: 54, smoothing: 0 },
]

/** A simulated board whose inputs are measured over its own link; its hands are a builder's. */
class Bench {
  private now = 1_000_000
  private readonly link = hostEnd()
  private readonly reader = new NoteReader()
  private notes: SlotNoted[] = []
  readonly board: SimulatedBoard

  constructor(places: readonly number[], nature: Nature) {
    const configuration = [...encodeConfiguration({ chips: [], slots })]
    this.board = new SimulatedBoard(
      ...(['00112233445566aa', 'ATmega2560 board'] as const),
      { configuration, closed: [] },
      randomFrom(2),
      (bytes) => {
        for (const { message } of this.link.decode(bytes)) this.take(message)
      },
    )
    this.board.beLike([{ places, nature }])
    this.board.isAttended = true
    this.board.connect(this.now)
    this.board.receive(this.link.encode({ say: 'start' }).bytes, this.now)
  }

  private take(m: FromBoard): void {
    if (m.say === 'probed') this.notes.push(...this.reader.take(m))
  }

  probe(slot: number): void {
    this.board.receive(this.link.encode({ say: 'probe', what: slot }).bytes, this.now)
    this.run(20)
  }

  glide(pin: number, level: number): void {
    this.board.hands.glide(pin, level, this.now)
  }

  run(ms: number): void {
    for (let i = 0; i < ms; i += 2) {
      this.now += 2000
      this.board.step(this.now)
      if (i % 200 === 0)
        this.board.receive(this.link.encode({ say: 'heartbeat', next: 0, digest: 0 }).bytes, this.now)
    }
  }

  /** What was noted since this was last asked. */
  noted(): SlotNoted[] {
    const last = this.notes.at(-1)
    const all = this.notes
    this.notes = last ? [last] : []
    return all
  }

  press(): void {
    for (const closed of [true, false]) {
      this.board.hands.moveContact(22, closed, this.now)
      this.run(120)
    }
  }
}

describe('what a simulated part is really like', () => {
  it('is a contact that bounces longer than it was made to', () => {
    const seen = [4750, 20_000].map((bounceUs) => {
      const bench = new Bench([22], { kind: 'positions', bounceUs })
      bench.probe(0)
      for (let i = 0; i < 20; i++) bench.press()
      return measureBounces(bouncesOf(bench.noted()))
    })
    expect(seen.map((m) => m?.movements)).toEqual([40, 40])
    expect(seen[0]?.longestUs).toBeLessThanOrEqual(4750)
    expect(seen[1]?.longestUs).toBeGreaterThan(8000)
    expect(seen[1]?.longestUs).toBeLessThanOrEqual(20_000)
  })

  const turned = (nature: Nature) => {
    const bench = new Bench([2, 3], nature)
    bench.probe(1)
    const parts = [20, -20].map((changes) => {
      bench.board.hands.turn(2, 3, changes)
      bench.run(400)
      return changesOf(bench.noted())
    })
    return measureEncoder(parts[0] ?? [], parts[1] ?? [], 5)
  }

  it('is a knob that counts as it turns, and one whose contact misses now and then', () => {
    expect(turned({ kind: 'encoder' })).toMatchObject({ changesPerClick: 4, lost: 0, there: 20 })
    // A whole turn through its states in which A stays open gives nothing: B closes and opens again.
    expect(turned({ kind: 'encoder', missesOneIn: 5 })).toMatchObject({ changesPerClick: 4, there: 16 })
  })

  it('is a pot with uneven ends, noise and a worn track', () => {
    const bench = new Bench([54], {
      ...{ kind: 'travel', low: 0.06, high: 0.9, noise: 4, swapped: true },
      broken: { from: 0.5, to: 0.52 },
    })
    bench.probe(2)
    bench.board.hands.slide(54, 0)
    bench.run(600)
    const rest = noiseOf(bench.noted().map((n) => n.value))
    expect(rest?.middle).toBeCloseTo(1023 * (1 - 0.06), -0.5)
    expect(rest?.sigma).toBeGreaterThan(3.4)
    expect(rest?.sigma).toBeLessThan(4.8)
    bench.noted()
    for (let i = 0; i <= 400; i++) {
      bench.board.hands.slide(54, i / 400)
      bench.run(4)
    }
    expect(flawsOf(bench.noted(), 12)).toMatchObject([{ kind: 'broken track' }])
  })

  it.each([
    ['thrown from end to end', [1], 100],
    ['pulled back half-way', [1, 0], 50],
    ['heard of in few great leaps', [0.3, 0.7, 1], 60],
  ])(
    'is a lever, %s, that a hand takes through all that is between: nothing of it looks dead',
    (_, goals, apart) => {
      const bench = new Bench([54], { kind: 'travel' })
      bench.board.hands.slide(54, 0)
      bench.run(20)
      bench.probe(2)
      bench.noted()
      for (const goal of goals) {
        bench.glide(54, goal)
        bench.run(apart)
      }
      bench.run(100)
      const noted = bench.noted().map((n) => n.value)
      expect(Math.abs((noted.at(-1) as number) - 1023 * (goals.at(-1) as number))).toBeLessThan(3)
      const leaps = noted.slice(1).map((v, i) => Math.abs(v - (noted[i] as number)))
      // Told a thousand times a second: a hundredth of its travel, or two where a sample is late.
      expect(Math.max(...leaps)).toBeLessThan(1023 / 40)
      expect(Math.max(...noted) / 1023).toBeCloseTo(goals.length === 2 ? 0.5 : 1, 1)
    },
  )
})

describe('a strip of another order', () => {
  it('shows what it takes for red, whatever was meant, and as many lamps as it has', () => {
    const strip: SolderedThing | null = solderedThing(
      { kind: 'colour', pin: 4, lamps: 2, keep: false },
      () => undefined,
    )
    const told = [0, 255, 0, 255, 0, 0]
    strip?.colours?.(told)
    expect(readColours(String(strip?.shows())).lamps).toEqual(['#ff0000', '#00ff00'])
    strip?.beLike?.({ kind: 'colour', order: 'RGB' })
    expect(readColours(String(strip?.shows())).lamps).toEqual(['#00ff00', '#ff0000'])
    strip?.beLike?.(undefined)
    expect(readColours(String(strip?.shows())).lamps).toEqual(['#ff0000', '#00ff00'])
  })

  it('is soldered as long as it really is, whatever its settings say', () => {
    const own = { kind: 'colour', lamps: 6 } as const
    const of = (settings: PartRow['settings']) =>
      solderedOn(smallRig({ strip: null }, { settings: { strip: settings } }), 'board').slots[0]
    expect(of({})).toMatchObject({ lamps: 8 })
    expect(of({ aspects: { colour: own } })).toMatchObject({ lamps: 8 })
    expect(
      of({ aspects: { colour: own }, simulated: { colour: { kind: 'colour', lamps: 5 } } }),
    ).toMatchObject({
      lamps: 5,
    })
  })
})
