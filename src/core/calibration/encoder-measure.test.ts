import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { randomFrom } from '../../standins/craft/world'
import { type ChangesPerClick, clickRates, measureEncoder } from './encoder-measure'
import type { Note } from './note'
import { changesOf, knobBounceUs, turnsOf } from './quadrature'

const gray = [0, 1, 3, 2] as const

/** A knob as it turns: each change may bounce before the next comes. */
class Turned {
  readonly notes: Note[]
  private at = 0
  private place: number

  constructor(
    start: number,
    private readonly random: () => number,
    private readonly bounces: number,
  ) {
    this.place = start
    this.notes = [{ at: 0, value: gray[start & 3] as number }]
  }

  turn(changes: number): this {
    for (let i = 0; i < Math.abs(changes); i++) {
      this.at += 3000 + this.random() * 4000
      const before = gray[this.place & 3] as number
      this.place += Math.sign(changes)
      const after = gray[this.place & 3] as number
      this.notes.push({ at: this.at, value: after })
      for (let k = Math.floor(this.random() * (this.bounces + 1)); k > 0; k--) {
        this.at += 60 + this.random() * 200
        this.notes.push({ at: this.at, value: before })
        this.at += 60 + this.random() * 200
        this.notes.push({ at: this.at, value: after })
      }
    }
    return this
  }

  /** What was noted since it was last asked. */
  take(): Note[] {
    const last = this.notes.at(-1) as Note
    const taken = this.notes.splice(0, this.notes.length, last)
    this.at += 900_000
    return taken
  }
}

const kind = fc.constantFrom<ChangesPerClick>(1, 2, 4)

describe('an encoder of every kind', () => {
  it('is told from bouncing traces: changes a click, way and true count', () => {
    fc.assert(
      fc.property(
        kind,
        fc.boolean(),
        fc.nat(3),
        fc.nat(1e6),
        fc.integer({ min: 5, max: 20 }),
        (per, reverse, start, seed, clicks) => {
          const knob = new Turned(start, randomFrom(seed), 3)
          const way = reverse ? -1 : 1
          const there = changesOf(knob.turn(way * per * clicks).take())
          const back = changesOf(knob.turn(-way * per * clicks).take())
          expect(measureEncoder(there, back, clicks)).toMatchObject({
            ...{ changesPerClick: per, reverse, there: per * clicks, back: per * clicks, lost: 0, jumps: 0 },
          })
        },
      ),
    )
  })

  it('counts what it loses on the way back', () => {
    const knob = new Turned(0, randomFrom(1), 0)
    const there = changesOf(knob.turn(40).take())
    const back = changesOf(knob.turn(-37).take())
    expect(measureEncoder(there, back, 10)).toMatchObject({ changesPerClick: 4, lost: 3 })
  })

  it('says what it cannot be: not turned, one contact, the same way twice, no kind', () => {
    const turned = (n: number) => changesOf(new Turned(0, randomFrom(2), 1).turn(n).take())
    expect(measureEncoder(turned(2), [], 10)).toEqual({ problem: 'not turned' })
    expect(measureEncoder(turned(40), turned(40), 10)).toEqual({ problem: 'same way', there: 40, back: 40 })
    expect(measureEncoder(turned(29), turned(-29), 10)).toEqual({
      problem: 'no kind',
      changes: 29,
      clicks: 10,
    })
    const one = changesOf(Array.from({ length: 40 }, (_, i) => ({ at: i * 5000, value: i & 1 })))
    expect(measureEncoder(one, one, 10)).toEqual({ problem: 'one contact', which: 'B' })
  })

  it('shows jumps over a state for what they are', () => {
    const notes: Note[] = [0, 1, 2, 0, 3].map((value, i) => ({ at: i * 5000, value }))
    expect(changesOf(notes).map((c) => c.way)).toEqual([1, null, 1, null])
    expect(turnsOf(changesOf(notes), 1e9)).toEqual([{ from: 5000, to: 20_000, net: 2, jumps: 2, back: 0 }])
  })

  it('bounces for as long as its longest to and fro, and a hand that turns back is none', () => {
    const at = (...list: [number, number][]) => changesOf(list.map(([t, value]) => ({ at: t, value })))
    expect(knobBounceUs(at([0, 0], [5000, 1], [5300, 0], [5500, 1], [9000, 3]))).toBe(500)
    expect(knobBounceUs(at([0, 0], [5000, 1], [400_000, 0], [800_000, 1]))).toBe(0)
  })

  it('is turned at a rate, from click to click; a rest is no slow turn', () => {
    const notes: Note[] = []
    let at = 0
    for (let i = 0; i <= 12; i++) {
      notes.push({ at, value: gray[i & 3] as number })
      at += i === 8 ? 2_000_000 : 25_000
    }
    expect(clickRates(changesOf(notes), 4).map(Math.round)).toEqual([10])
    expect(clickRates(changesOf(notes), 2).map(Math.round)).toEqual([20, 20, 20, 20])
  })
})
