import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sameNumber } from './same-number'
import { chosen, type Stepping, stepped } from './stepping'

const step = (by: number, more: Partial<Stepping> = {}): Stepping => ({
  by,
  least: 0,
  most: 100,
  atEnd: 'stop',
  ...more,
})

describe('a step', () => {
  it('stops at its limits, or comes in again at the other end', () => {
    expect(stepped(95, step(10), 1)).toBe(100)
    expect(stepped(3, step(-10), 1)).toBe(0)
    expect(stepped(359, { by: 1, least: 0, most: 360, atEnd: 'wrap' }, 2)).toBe(1)
    expect(stepped(0, { by: -1, least: 0, most: 360, atEnd: 'wrap' }, 1)).toBe(359)
  })
  it('stays a decimal number of its own kind, however often it is made', () => {
    let value = 118
    for (let i = 0; i < 400; i++) value = stepped(value, step(0.025, { least: 118, most: 137 }), 1)
    expect(value).toBe(128)
  })
  it('never leaves its limits', () => {
    const limits = fc.tuple(fc.integer({ min: -500, max: 0 }), fc.integer({ min: 1, max: 500 }))
    fc.assert(
      fc.property(
        limits,
        fc.integer({ min: 0, max: 100 }),
        fc.integer({ min: -99, max: 99 }).filter((n) => n !== 0),
        fc.constantFrom('stop' as const, 'wrap' as const),
        fc.integer({ min: -20, max: 20 }),
        ([least, most], share, by, atEnd, times) => {
          const from = least + ((most - least) * share) / 100
          const to = stepped(from, { by, least, most, atEnd }, times)
          expect(to).toBeGreaterThanOrEqual(least)
          expect(to).toBeLessThanOrEqual(most)
        },
      ),
    )
  })
})

describe('a step within a digit', () => {
  const digit = (place: number, base: number, by: number): Stepping =>
    step(by, { most: 7777, atEnd: 'wrap', digit: { place, base } })
  it.each([
    [1200, 100, 10, 1, 1300],
    [1900, 100, 10, 1, 1000],
    [4327, 1, 8, 1, 4320],
    [4320, 1, 8, -1, 4327],
    [4321, 1000, 8, 4, 321],
  ])('of %i moves the %is in base %i by %i to %i, and carries nothing', (from, place, base, by, to) => {
    expect(stepped(from, digit(place, base, by), 1)).toBe(to)
  })
  it('moves a digit behind the point as well', () => {
    expect(stepped(118.95, step(1, { most: 137, atEnd: 'wrap', digit: { place: 0.1, base: 10 } }), 1)).toBe(
      118.05,
    )
  })
  it('leaves a value alone that would come out beyond the limits', () => {
    const beacon = step(1, { least: 190, most: 999, atEnd: 'wrap', digit: { place: 100, base: 10 } })
    expect(stepped(950, beacon, 1)).toBe(950)
  })
  it('stops at the last digit where it is not to come round', () => {
    expect(stepped(7, step(1, { most: 7777, digit: { place: 1, base: 8 } }), 3)).toBe(7)
  })
  it('changes nothing but its own digit', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 9999 }),
        fc.constantFrom(1, 10, 100, 1000),
        fc.integer({ min: -12, max: 12 }).filter((n) => n !== 0),
        (from, place, by) => {
          const to = stepped(from, { by, least: 0, most: 9999, atEnd: 'wrap', digit: { place, base: 10 } }, 1)
          const others = (n: number) =>
            [1, 10, 100, 1000].filter((p) => p !== place).map((p) => Math.floor(n / p) % 10)
          expect(others(to)).toEqual(others(from))
          expect((Math.floor(to / place) - Math.floor(from / place) - by) % 10).toBeCloseTo(0)
        },
      ),
    )
  })
})

describe('a step within part of the value', () => {
  it('tunes behind the point and leaves what stands before it', () => {
    const fine = step(0.025, { least: 118, most: 137, atEnd: 'wrap', within: 1 })
    expect(stepped(121.975, fine, 1)).toBe(121)
    expect(stepped(121, fine, -1)).toBe(121.975)
  })
})

describe('a choice along permitted values', () => {
  const list = { values: [5, 10, 20, 40], by: 1, atEnd: 'stop' as const }
  it.each([
    [5, 1, 10],
    [12, 1, 20],
    [12, -1, 10],
    [40, 1, 40],
    [5, -1, 5],
    [1, 1, 5],
    [10, 2, 40],
  ])('leads from %d by %d to %d', (from, times, to) => {
    expect(chosen(from, list, times)).toBe(to)
  })
  it('may begin anew at either end', () => {
    expect(chosen(40, { ...list, atEnd: 'wrap' }, 1)).toBe(5)
    expect(chosen(5, { ...list, atEnd: 'wrap' }, -1)).toBe(40)
  })
  it('lands on a grid that repeats, however odd it is', () => {
    const grid = { values: [0, 0.005, 0.01, 0.015, 0.025], every: 0.05, by: 1, atEnd: 'stop' as const }
    expect(chosen(118, grid, 1)).toBe(118.005)
    expect(chosen(118.025, grid, 1)).toBe(118.05)
    expect(chosen(118.05, grid, -1)).toBe(118.025)
    expect(chosen(118.002, grid, 1)).toBe(118.005)
    expect(chosen(118.002, grid, -1)).toBe(118)
  })
  it('comes back by as many steps as it went', () => {
    const grid = { values: [0, 0.005, 0.01, 0.015, 0.025], every: 0.05, by: 1, atEnd: 'stop' as const }
    fc.assert(
      fc.property(fc.integer({ min: -30, max: 30 }), (times) => {
        expect(chosen(chosen(121, grid, times), grid, -times)).toBe(121)
      }),
    )
  })
})

describe('a simulator that keeps 32-bit floats', () => {
  const f = Math.fround
  it.each([
    [118.025, 0.025, -1, 118],
    [118.1, 0.025, 1, 118.125],
    [0.1, 0.1, -1, 0],
    [0.7, 0.1, 1, 0.8],
    [121.5, 0.005, -1, 121.495],
  ])('is stepped from %d by %d', (told, by, times, to) => {
    expect(stepped(f(told), { by, least: 0, most: 200, atEnd: 'stop' }, times)).toBe(to)
  })
  it('goes down a grid as well as up, place by place', () => {
    const choice = { values: [0, 0.005, 0.01, 0.015], every: 0.025, by: -1, atEnd: 'wrap' as const }
    expect(chosen(f(118.03), choice, 1)).toBe(118.025)
    expect(chosen(f(118.025), choice, 1)).toBe(118.015)
    expect(chosen(f(118.025), { ...choice, by: 1 }, 1)).toBe(118.03)
  })
  it('is not taken for one that tells something else', () => {
    expect(sameNumber(f(118.025), 118.025)).toBe(true)
    expect(sameNumber(118.03, 118.025)).toBe(false)
    expect(sameNumber(9_999_999, 10_000_000)).toBe(false)
  })
})

describe('coming in at the other end', () => {
  const wrap = (least: number, most: number, by: number, ends?: 'both' | 'one') =>
    ({ by, least, most, atEnd: 'wrap', ...(ends ? { ends } : {}) }) as const
  it.each([
    [359, wrap(0, 359, 1), 1, 0],
    [0, wrap(0, 359, 1), -1, 359],
    [360, wrap(1, 360, 1), 1, 1],
    [1, wrap(1, 360, 1), -1, 360],
    [355, wrap(0, 355, 5), 1, 0],
    [355, wrap(0, 359, 10), 1, 5],
    [359, wrap(0, 360, 1), 2, 1],
    [360, wrap(0, 360, 1, 'both'), 1, 0],
    [136.975, wrap(118, 136.975, 0.025), 1, 118],
    [136.5, wrap(118, 136.975, 1), 1, 118.5],
    [3, wrap(0, 4, 1, 'one'), 1, 4],
    [4, wrap(0, 4, 1, 'one'), 1, 1],
  ])('from %d leads on to the right place', (from, step, times, to) => {
    expect(stepped(from, step, times)).toBe(to)
  })
})
