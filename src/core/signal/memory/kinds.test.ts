import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Given, type MemoryName, memoryKind } from './kinds'

/** One memory on a clock of its own: told when something changes, and whenever it asked to be. */
const begin = (name: MemoryName) => {
  const kind = memoryKind(name)
  const state = kind.begin()
  let given: Given[] = []
  let now = 0
  let next: number | null = null
  let value: Given = null
  const look = () => {
    ;({ value, next } = kind.step(state, given, now))
    return value
  }
  return {
    /** Other arguments at a time, in seconds. */
    at: (seconds: number, ...others: Given[]): Given => {
      const until = seconds * 1000
      for (let turns = 0; next !== null && next < until && turns < 100_000; turns++) {
        now = Math.max(now, next)
        look()
      }
      now = until
      if (others.length > 0) given = others
      return look()
    },
    get next() {
      return next
    },
  }
}

describe('functions with a memory', () => {
  it('recent: yes for so long after a change, and not for what was there first', () => {
    const m = begin('recent')
    expect(m.at(0, 5, 3)).toBe(0)
    expect(m.at(10)).toBe(0)
    expect(m.at(11, 6, 3)).toBe(1)
    expect(m.at(13.9)).toBe(1)
    expect(m.at(14)).toBe(0)
    expect(m.at(15, 7, 3)).toBe(1)
    expect(m.at(17, 8, 3)).toBe(1)
    expect(m.at(19.5)).toBe(1)
    expect(m.at(20)).toBe(0)
    // Gone is no change, and coming back as it was is none either.
    expect(m.at(21, null, 3)).toBeNull()
    expect(m.at(22, 8, 3)).toBe(0)
    expect(m.at(23, 'x', 3)).toBe(1)
  })

  it('since: how long ago, in whole steps', () => {
    const m = begin('since')
    expect(m.at(0, 1)).toBe(0)
    expect(m.at(2.5)).toBe(2)
    expect(m.at(3, 2)).toBe(0)
    expect(m.at(4)).toBe(1)
    const fine = begin('since')
    fine.at(0, 1, 0.1)
    fine.at(1, 2, 0.1)
    expect(fine.at(1.25)).toBeCloseTo(0.2, 9)
    expect(fine.next).toBeCloseTo(1300, 6)
  })

  it('highest and lowest: until they begin anew', () => {
    const high = begin('highest')
    const low = begin('lowest')
    expect([3, 9, 4].map((v, i) => high.at(i, v, 0))).toEqual([3, 9, 9])
    expect(high.at(4, null, 0)).toBe(9)
    expect(high.at(5, 2, 1)).toBe(2)
    expect(high.at(6, 1, 0)).toBe(2)
    expect([3, -9, 4].map((v, i) => low.at(i, v))).toEqual([3, -9, -9])
  })

  it('peak: holds, then falls to what is', () => {
    const m = begin('peak')
    expect(m.at(0, 10, 2)).toBe(10)
    expect(m.at(1, 4, 2)).toBe(10)
    expect(m.at(1.9)).toBe(10)
    expect(m.at(2)).toBe(4)
    expect(m.at(3, 8, 2)).toBe(8)
    expect(m.at(4, 9, 2)).toBe(9)
    expect(m.at(5.5, 1, 2)).toBe(9)
    expect(m.at(6)).toBe(1)
  })

  it('smoothed: as an exponential goes, however often it is looked at, and comes to rest', () => {
    const m = begin('smoothed')
    m.at(0, 0, 2)
    expect(m.at(1, 100, 2)).toBe(0)
    expect(m.at(3)).toBeCloseTo(100 * (1 - Math.exp(-1)), 6)
    expect(m.at(5)).toBeCloseTo(100 * (1 - Math.exp(-2)), 6)
    expect(m.at(60)).toBe(100)
    expect(m.next).toBeNull()
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.01, max: 3, noNaN: true }), { maxLength: 12 }), (pauses) => {
        const seldom = begin('smoothed')
        const often = begin('smoothed')
        for (const x of [seldom, often]) {
          x.at(0, -40, 1.5)
          x.at(0.5, 60, 1.5)
        }
        let t = 0.5
        for (const p of pauses) {
          t += p
          often.at(t)
        }
        expect(Number(often.at(t + 1))).toBeCloseTo(Number(seldom.at(t + 1)), 1)
      }),
    )
  })

  it('hysteresis: one limit on, the other off, either way round', () => {
    const m = begin('hysteresis')
    const seen = [5, 8, 10, 8, 5, 4, 8].map((v, i) => m.at(i, v, 10, 4))
    expect(seen).toEqual([0, 0, 1, 1, 1, 0, 0])
    const cold = begin('hysteresis')
    expect([5, 3, 5, 9, 5].map((v, i) => cold.at(i, v, 3, 8))).toEqual([0, 1, 1, 0, 0])
  })

  it('delayed: on and off, each in its own time, and not for what does not last', () => {
    const m = begin('delayed')
    expect(m.at(0, 0, 2, 1)).toBe(0)
    expect(m.at(1, 1, 2, 1)).toBe(0)
    expect(m.at(2.9)).toBe(0)
    expect(m.at(3)).toBe(1)
    expect(m.at(4, 0, 2, 1)).toBe(1)
    expect(m.at(4.5, 1, 2, 1)).toBe(1)
    expect(m.at(9)).toBe(1)
    expect(m.at(10, 0, 2, 1)).toBe(1)
    expect(m.at(11)).toBe(0)
    // What stands when it is first seen has stood.
    expect(begin('delayed').at(0, 1, 5)).toBe(1)
  })

  it('latched: until it is acknowledged and over', () => {
    const m = begin('latched')
    const steps: [number, number][] = [
      [0, 0],
      [1, 0],
      [0, 0],
      [1, 1],
      [0, 1],
      [0, 0],
    ]
    expect(steps.map(([c, a], i) => m.at(i, c, a))).toEqual([0, 1, 1, 1, 0, 0])
  })

  it('rate: what it changed by in the last seconds', () => {
    const m = begin('rate')
    m.at(0, 0, 2)
    for (let t = 0.1; t < 5; t += 0.1) m.at(t, t * 30, 2)
    // What stood when the window began is known to a step.
    expect(Math.abs(Number(m.at(5, 150, 2)) - 30)).toBeLessThan(2)
    // It stands: what it did is out of the window after that.
    expect(Math.abs(Number(m.at(6)) - 15)).toBeLessThan(2)
    expect(m.at(8)).toBe(0)
    expect(m.next).toBeNull()
    // However much comes, no more is kept than the window needs.
    const busy = memoryKind('rate')
    const state = busy.begin() as { samples: unknown[] }
    for (let i = 0; i < 20_000; i++) busy.step(state, [Math.sin(i), 10], i)
    expect(state.samples.length).toBeLessThan(2 * 50 + 5)
  })

  it('message: the weightiest that has occurred, each for its time', () => {
    const m = begin('message')
    const say = (t: number, fire: number, gear: number, door: number) =>
      m.at(t, fire, 'FIRE', 0, gear, 'GEAR', 5, door, 'DOOR', 2)
    expect(say(0, 0, 0, 0)).toBe('')
    expect(say(1, 0, 0, 1)).toBe('DOOR')
    expect(say(2, 0, 1, 1)).toBe('GEAR')
    expect(m.at(6.9)).toBe('GEAR')
    // The door stays open, but that is no news any more.
    expect(m.at(7)).toBe('')
    expect(say(8, 1, 1, 1)).toBe('FIRE')
    expect(m.at(99)).toBe('FIRE')
    expect(say(100, 0, 0, 0)).toBe('')
    expect(say(101, 0, 1, 0)).toBe('GEAR')
  })

  it('none of them throws or says what no number is, whatever it is given and whenever', () => {
    const given = fc.oneof(
      fc.double({ min: -1e9, max: 1e9, noNaN: true }),
      fc.constantFrom(null, 0, 1, 'x', ''),
    )
    const names = fc.constantFrom<MemoryName[]>(
      'recent',
      'since',
      'highest',
      'peak',
      'smoothed',
      'rate',
      'delayed',
      'message',
    )
    fc.assert(
      fc.property(
        names,
        fc.array(fc.tuple(fc.integer({ min: 0, max: 4000 }), given, given, given)),
        (name, steps) => {
          const kind = memoryKind(name)
          const state = kind.begin()
          let now = 0
          for (const [pause, a, b, c] of steps) {
            now += pause
            const { value, next } = kind.step(state, [a, b, c], now)
            expect(Number.isNaN(value)).toBe(false)
            expect(next === null || next > now).toBe(true)
          }
        },
      ),
    )
  })
})
