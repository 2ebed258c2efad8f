import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bouncesOf, debounceFor, measureBounces, pressesOf } from './bounce'
import type { Note } from './note'
import { borderBetween, histogram } from './threshold'

const ms = 1000

describe('a contact that bounces', () => {
  // Worked out by hand: closes at 100 ms and bounces twice until 101.3 ms; opens at 300 ms, clean.
  const notes: Note[] = [
    { at: 0, value: 0 },
    { at: 100 * ms, value: 1 },
    { at: 100.4 * ms, value: 0 },
    { at: 100.6 * ms, value: 1 },
    { at: 101.2 * ms, value: 0 },
    { at: 101.3 * ms, value: 1 },
    { at: 300 * ms, value: 0 },
  ]

  it('is seen movement by movement, with how long each took', () => {
    expect(bouncesOf(notes)).toEqual([
      { at: 100 * ms, us: 1300, changes: 5, closed: true },
      { at: 300 * ms, us: 0, changes: 1, closed: false },
    ])
    expect(pressesOf(bouncesOf(notes))).toEqual([200])
  })

  it('is not told to be still before it is', () => {
    expect(bouncesOf(notes, 0, 305 * ms)).toHaveLength(1)
    expect(bouncesOf(notes, 0, 330 * ms)).toHaveLength(2)
  })

  it('is one of a group by its own bit alone', () => {
    const group = notes.map((n) => ({ ...n, value: n.value * 2 + 1 }))
    expect(bouncesOf(group, 0)).toEqual([])
    expect(bouncesOf(group, 1)).toHaveLength(2)
  })

  it('gets a debounce that outlasts every pause in what it does, whatever it does', () => {
    const movement = fc.array(fc.integer({ min: 30, max: 9000 }), { minLength: 0, maxLength: 8 })
    fc.assert(
      fc.property(fc.array(movement, { minLength: 1, maxLength: 12 }), (movements) => {
        const all: Note[] = [{ at: 0, value: 0 }]
        let at = 0
        let value = 0
        let widest = 0
        for (const pauses of movements) {
          at += 200 * ms
          value ^= 1
          all.push({ at, value })
          // An even number of further changes ends where the hand has put it.
          for (const pause of pauses.slice(0, pauses.length & ~1)) {
            at += pause
            widest = Math.max(widest, pause)
            value ^= 1
            all.push({ at, value })
          }
        }
        const found = measureBounces(bouncesOf(all))
        expect(found?.movements).toBe(movements.length)
        const wait = found ? debounceFor(found) * ms : 0
        expect(wait).toBeGreaterThan(Math.min(widest, 100 * ms - 1))
      }),
    )
  })
})

describe('two kinds of presses', () => {
  it('have a border between them, nearer by ratio than by length', () => {
    const border = borderBetween([90, 110, 130, 150, 800, 950, 1200]) ?? 0
    expect(border).toBeGreaterThan(150)
    expect(border).toBeLessThan(800)
    expect(border).toBeCloseTo(Math.sqrt(150 * 800), 5)
  })

  it('are not two where they are alike, or one of them is a single press', () => {
    expect(borderBetween([100, 110, 120, 130, 140])).toBeNull()
    expect(borderBetween([100, 110, 120, 900])).toBeNull()
    expect(borderBetween([])).toBeNull()
  })

  it('lie between any two heaps that are far enough apart', () => {
    const heap = fc.array(fc.double({ min: 1, max: 1.5, noNaN: true }), { minLength: 3, maxLength: 20 })
    fc.assert(
      fc.property(heap, heap, fc.double({ min: 4, max: 30, noNaN: true }), (low, high, apart) => {
        const border = borderBetween([...low, ...high.map((v) => v * apart)]) as number
        expect(border).toBeGreaterThan(Math.max(...low) - 1e-9)
        expect(border).toBeLessThan(Math.min(...high) * apart + 1e-9)
      }),
    )
  })

  it('are counted in stretches of equal ratio, what lies beyond in the last', () => {
    expect(histogram([1, 1.9, 2.1, 3.9, 4.1, 1000, 0.1], 1, 8, 3)).toEqual([3, 2, 2])
  })
})
