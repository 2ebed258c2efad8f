import { describe, expect, it } from 'vitest'
import { randomFrom } from '../../standins/craft/world'
import type { Band } from '../aspects/travel'
import { type PositionsAspect, positionAtLevel } from '../catalogue/part-kind'
import { withEdges } from './calibrated'
import { ContactsGuide } from './contacts-guide'
import { EncoderGuide } from './encoder-guide'
import type { Guide } from './guide'
import { LadderGuide } from './ladder-guide'
import type { Note } from './note'
import { TravelGuide } from './travel-guide'

const says = (guide: Guide) => guide.asking.says

/** A builder with a lever in the hand: what its board notes while it is moved and let rest. */
class Lever {
  private ms = 0
  private at = 0.5
  private readonly random = randomFrom(3)

  constructor(
    private readonly guide: TravelGuide,
    private readonly level: (place: number) => number,
    private readonly noise = 3,
  ) {}

  private run(ms: number, place: (t: number) => number): this {
    for (let i = 0; i < ms; i += 20) {
      const notes: Note[] = []
      for (let k = 0; k < 20; k++) {
        this.ms++
        this.at = place((i + k) / ms)
        const trembling = (this.random() - 0.5) * 2 * this.noise
        notes.push({ at: this.ms * 1000, value: Math.round(this.level(this.at) + trembling) })
      }
      this.guide.take(notes)
      this.guide.pass(this.ms)
    }
    return this
  }

  moveTo(place: number, ms = 400): this {
    const from = this.at
    return this.run(ms, (t) => from + t * (place - from))
  }

  rest(ms = 1400): this {
    const { at } = this
    return this.run(ms, () => at)
  }
}

const bands: Band[] = [
  { name: 'reverse', from: 0, to: 0.2, gives: [-0.3, 0] },
  { name: 'idle', from: 0.2, to: 0.3, gives: [0, 0] },
  { name: 'forward', from: 0.3, to: 1, gives: [0, 1] },
]
/** From −30 % to 100 % with an idle gate; its wiper goes the other way round, and not to its ends. */
const swapped = (place: number) => 980 - 940 * place

describe('a lever is led through', () => {
  it('ends, noise, the edges of its bands and its whole way, each taken by itself', () => {
    const guide = new TravelGuide(bands)
    const hand = new Lever(guide, swapped)
    expect(says(guide)).toBe('Push it all the way forward.')
    hand.moveTo(1).rest()
    expect(says(guide)).toBe('Pull it all the way back.')
    hand.moveTo(0).rest().moveTo(0.5).rest()
    expect(says(guide)).toBe('Rest it where reverse ends and idle begins.')
    // Standing on where it was taken is not resting somewhere else.
    hand.rest(3000)
    expect(says(guide)).toBe('Rest it where reverse ends and idle begins.')
    hand.moveTo(0.15).rest().moveTo(0.22).rest()
    expect(says(guide)).toBe('Slowly from end to end, and back.')
    expect(guide.taken).toBe(5)
    hand.moveTo(0, 1500).moveTo(1, 3000).moveTo(0, 3000)
    expect(guide.isDone).toBe(true)
    const found = guide.result
    expect(found).toMatchObject({ invert: true, flaws: [] })
    expect(found?.ends.low).toBeCloseTo(43 / 1023, 2)
    expect(found?.ends.high).toBeCloseTo(977 / 1023, 2)
    const shown = withEdges(bands, found?.edges ?? [])
    expect(shown.map((b) => b.name)).toEqual(['reverse', 'idle', 'forward'])
    expect(shown[0]?.to).toBeCloseTo(0.15, 1.7)
    expect(shown[1]).toMatchObject({ from: shown[0]?.to, gives: [0, 0] })
    expect(shown[2]?.from).toBeCloseTo(0.22, 1.7)
    expect(shown[2]?.to).toBe(1)
    // Who has changed the bands meanwhile keeps what was made of them.
    expect(withEdges(bands.slice(0, 1), found?.edges ?? [])).toEqual(bands.slice(0, 1))
  })

  it('says what cannot be meant, and goes on once it is mended', () => {
    const guide = new TravelGuide(bands)
    const hand = new Lever(guide, swapped)
    hand.moveTo(1).rest().moveTo(0.96).rest()
    expect(guide.objection).toContain('hardly anywhere else than forward')
    hand.moveTo(0).rest().moveTo(0.6).rest().moveTo(0.4).rest().moveTo(0.2).rest()
    expect(guide.objection).toContain('below the edge before it')
    expect(guide.result).toBeNull()
    hand.moveTo(0.45).rest()
    expect(guide.objection).toBeNull()
    expect(guide.result?.edges[1]?.at).toBeCloseTo(0.45, 2)
  })

  it('keeps a gate between two bands, with both its edges', () => {
    const gate: Band[] = [
      { name: 'low', from: 0, to: 0.4, gives: [0, 1] },
      { name: 'high', from: 0.6, to: 1, gives: [1, 2] },
    ]
    const guide = new TravelGuide(gate)
    const hand = new Lever(guide, (p) => 1023 * p)
    hand.moveTo(1).rest().moveTo(0).rest().moveTo(0.5).rest()
    expect(says(guide)).toBe('Rest it where low ends.')
    hand.moveTo(0.42).rest()
    expect(says(guide)).toBe('Rest it where high begins.')
    hand.moveTo(0.55).rest()
    expect(guide.result?.edges[0]).toMatchObject({ ends: 0, begins: null })
    expect(guide.result?.edges[0]?.at).toBeCloseTo(0.42, 2)
    expect(guide.result?.edges[1]?.at).toBeCloseTo(0.55, 2)
  })

  it('may be left alone for an evening in the middle of its way: what was wrong is kept, and not all that was seen', () => {
    const guide = new TravelGuide([])
    const broken = (p: number) => (p > 0.4 && p < 0.42 ? 0 : 20 + 980 * p)
    const hand = new Lever(guide, broken, 1)
    hand.moveTo(1).rest().moveTo(0).rest().moveTo(0.6).rest().moveTo(1, 2500)
    hand.moveTo(0.3, 2500).rest(60_000)
    expect(guide.isDone).toBe(false)
    hand.moveTo(0, 1500).moveTo(1, 2500).moveTo(0, 2500)
    expect(guide.isDone).toBe(true)
    expect(guide.result?.flaws).toMatchObject([{ kind: 'broken track' }])
    expect(guide.seen.length).toBeLessThanOrEqual(10_000)
  })

  it.each([0, 3, 20, 60])(
    'and one that nobody has touched answers nothing, however it trembles: ±%s',
    (noise) => {
      const guide = new TravelGuide(bands)
      const hand = new Lever(guide, swapped, noise).rest(60_000)
      expect(guide.taken).toBe(0)
      expect(says(guide)).toBe('Push it all the way forward.')
      hand.moveTo(1).rest()
      expect(guide.taken).toBe(1)
      hand.rest(60_000)
      expect(guide.taken).toBe(1)
      expect(guide.objection).toBeNull()
      // Crept away from, it is left all the same.
      hand.moveTo(0.9, 5000).moveTo(0, 3000).rest().moveTo(0.5).rest()
      expect(guide.taken).toBe(3)
      // Nor is what was crept to slowly, from near by.
      hand.moveTo(0.15).rest().moveTo(0.25, 6000).rest()
      expect(guide.taken).toBe(5)
    },
  )

  it('is not taken while the hand goes on', () => {
    const guide = new TravelGuide([])
    new Lever(guide, (p) => 1023 * p).moveTo(1, 6000)
    expect(guide.taken).toBe(0)
  })
})

const gray = [0, 1, 3, 2]

/** A knob in the hand. */
class Knob {
  private ms = 0
  private state = 0

  constructor(private readonly guide: EncoderGuide) {
    guide.take([{ at: 0, value: 0 }])
  }

  turn(changes: number): this {
    for (let i = 0; i < Math.abs(changes); i++) {
      this.ms += 30
      this.state += Math.sign(changes)
      this.guide.take([{ at: this.ms * 1000, value: gray[this.state & 3] as number }])
      this.guide.pass(this.ms)
    }
    return this
  }

  leave(ms = 2500): this {
    for (let i = 0; i < ms; i += 50) {
      this.ms += 50
      this.guide.pass(this.ms)
    }
    return this
  }
}

describe('a knob is led through', () => {
  it('ten clicks there, ten back, and a counter that reads zero', () => {
    const guide = new EncoderGuide()
    const hand = new Knob(guide)
    hand.leave(5000)
    expect(guide.taken).toBe(0)
    hand.turn(-20).leave()
    expect(says(guide)).toBe('Now ten clicks back.')
    hand.turn(20).leave()
    expect(guide.result).toMatchObject({ changesPerClick: 2, reverse: true })
    hand.turn(-10).leave()
    expect(guide.counter).toBe(5)
    expect(guide.isDone).toBe(false)
    hand.turn(9).leave()
    expect(guide.objection).toContain('reads 0.5 where it should read 0')
    hand.turn(1).leave()
    expect(guide).toMatchObject({ counter: 0, isDone: true, taken: 3, objection: null })
    expect(guide.rates.length).toBeGreaterThan(20)
  })

  it('by a slow hand, that rests between its clicks, and after it was turned a little to be felt', () => {
    const guide = new EncoderGuide()
    const hand = new Knob(guide)
    hand.turn(3).leave(9000)
    for (const way of [1, -1]) {
      for (let i = 0; i < 10; i++) hand.turn(way).leave(1700)
      hand.leave()
    }
    expect(guide.result).toMatchObject({ changesPerClick: 1, reverse: false, lost: 0 })
  })

  it('says what was wrong, and begins with the ten clicks again', () => {
    const guide = new EncoderGuide()
    const hand = new Knob(guide)
    hand.turn(20).leave().turn(20).leave()
    expect(guide.objection).toContain('the same way twice')
    expect(says(guide)).toBe('Turn it ten clicks clockwise.')
    hand.turn(28).leave().turn(-28).leave()
    expect(guide.objection).toContain('28 changes in 10 clicks fit no kind')
  })
})

describe('a switch is led through', () => {
  const play = (guide: ContactsGuide, values: readonly [ms: number, value: number][]) => {
    for (const [ms, value] of values) {
      guide.take([{ at: ms * 1000, value }])
      guide.pass(ms)
    }
    guide.pass((values.at(-1)?.[0] ?? 0) + 100)
  }

  it('ten presses, then short and long ones: what it bounces, how long to wait, what is long', () => {
    const guide = new ContactsGuide({ contacts: ['contact'], momentary: true, long: true })
    const presses: [number, number][] = [[0, 0]]
    let ms = 0
    const press = (length: number, bounce: number) => {
      ms += 300
      presses.push([ms, 1], [ms + bounce / 2, 0], [ms + bounce, 1])
      ms += length
      presses.push([ms, 0])
    }
    for (let i = 0; i < 10; i++) press(150, 2 + (i % 3))
    play(guide, presses)
    expect(says(guide)).toContain('short four times')
    expect(guide.result).toMatchObject({ debounceMs: 7, longMs: null })
    presses.length = 0
    for (const length of [120, 140, 130, 125, 900, 1000, 1100, 950]) press(length, 1)
    play(guide, presses)
    expect(guide.isDone).toBe(true)
    expect(guide.result?.longMs).toBeGreaterThan(140)
    expect(guide.result?.longMs).toBeLessThan(900)
  })

  it('asks for each contact of a group, and says which are still to move', () => {
    const guide = new ContactsGuide({ contacts: ['up', 'down'], momentary: false, long: false })
    play(
      guide,
      Array.from({ length: 31 }, (_, i) => [i * 100, i & 1]),
    )
    expect(guide.isDone).toBe(false)
    expect(guide.asking.hint).toContain('Still to move: down')
    play(
      guide,
      Array.from({ length: 31 }, (_, i) => [4000 + i * 100, (i & 1) * 2]),
    )
    expect(guide.isDone).toBe(true)
    expect(guide.result?.debounceMs).toBe(2)
  })
})

describe('a ladder of resistors is led through', () => {
  const positions = ['1', '2', '3'].map((id) => ({ id, label: `step ${id}` }))

  it('position by position, each where it really stands; one that cannot be told apart is said', () => {
    const guide = new LadderGuide(positions)
    const random = randomFrom(6)
    let ms = 0
    const rest = (share: number, long = 1200) => {
      for (let i = 0; i < long; i += 20) {
        const notes: Note[] = Array.from({ length: 20 }, () => {
          ms++
          return { at: ms * 1000, value: Math.round(1023 * share + (random() - 0.5) * 4) }
        })
        guide.take(notes)
        guide.pass(ms)
      }
    }
    expect(says(guide)).toBe('Turn it to step 1.')
    // Where it stands when it is first looked at is none of them yet.
    rest(0.93, 20_000)
    expect(says(guide)).toBe('Turn it to step 1.')
    expect(guide.asking.hint).toContain('turn it away and back')
    rest(0.02)
    // It stands there still.
    rest(0.02, 3000)
    expect(says(guide)).toBe('Turn it to step 2.')
    rest(0.44)
    rest(0.031)
    expect(guide.objection).toContain('where step 1 is')
    rest(0.93)
    const levels = guide.result ?? {}
    expect(levels['1']).toBeCloseTo(0.02, 2)
    expect(levels['2']).toBeCloseTo(0.44, 2)
    expect(levels['3']).toBeCloseTo(0.93, 2)
    const aspect: PositionsAspect = {
      ...{ kind: 'positions', id: 'a', momentary: false, debounceMs: 5, wiper: 'w' },
      positions: [
        { id: '1', closes: [], level: 0 },
        { id: '2', closes: [], level: 0.5 },
        { id: '3', closes: [], level: 1 },
      ],
    }
    // Between its neighbours by its catalogue, and where it stands by what was measured.
    expect(positionAtLevel(aspect, 0.27)).toBeUndefined()
    expect(positionAtLevel(aspect, 0.3, levels)).toBe('2')
  })
})
