import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type ColourRule, colourAt, colourState, darkState, readColours, whiteState } from './colours'

const stops = [
  { at: 0, colour: '#000000' },
  { at: 10, colour: '#646464' },
  { at: 20, colour: '#ff0000' },
]
const rule = (more: Partial<ColourRule> = {}): ColourRule => ({
  ...{ stops, blend: false, fill: 'all', least: 0, most: 20, blinkAbove: null },
  ...more,
})
/** Which lamps of a row of eight shine at a value, as marks; all of one colour. */
const row = (fill: ColourRule['fill'], value: number): string =>
  readColours(colourState(rule({ fill, least: 0, most: 8, stops: [{ at: 0, colour: '#ffffff' }] }), value, 8))
    .lamps.map((c) => (c === '#000000' ? '.' : '#'))
    .join('')

describe('the colour at a value', () => {
  it('is that of the last stop reached, and of the first one below that', () => {
    expect([-5, 0, 9.9, 10, 19, 20, 100].map((v) => colourAt(stops, false, v)[0])).toEqual([
      0, 0, 0, 100, 100, 255, 255,
    ])
  })

  it('blends from stop to stop, and not beyond the ends', () => {
    expect(colourAt(stops, true, 5)).toEqual([50, 50, 50])
    expect(colourAt(stops, true, 15)).toEqual([178, 50, 50])
    expect(colourAt(stops, true, -1)).toEqual([0, 0, 0])
    expect(colourAt(stops, true, 99)).toEqual([255, 0, 0])
    expect(colourAt([], true, 1)).toEqual([0, 0, 0])
  })
})

describe('a row of lamps', () => {
  it('fills from either end as far as the value reaches', () => {
    expect([0, 1, 4, 8, 99].map((v) => row('start', v))).toEqual([
      '........',
      '#.......',
      '####....',
      '########',
      '########',
    ])
    expect([0, 1, 4, 8].map((v) => row('end', v))).toEqual(['........', '.......#', '....####', '########'])
  })

  it('grows from its middle to the side on which the value lies', () => {
    expect([0, 2, 4, 6, 8].map((v) => row('middle', v))).toEqual([
      '####....',
      '..##....',
      '........',
      '....##..',
      '....####',
    ])
  })

  it('shows at each place the colour of the value that the place stands for', () => {
    const { lamps } = readColours(colourState(rule({ fill: 'start' }), 20, 4))
    expect(lamps).toEqual(['#000000', '#000000', '#646464', '#646464'])
    // From the end, the first lamp stands for the most.
    expect(readColours(colourState(rule({ fill: 'end' }), 20, 4)).lamps).toEqual([...lamps].reverse())
  })

  it('blinks above its limit, and is dark for what is no number', () => {
    expect(readColours(colourState(rule({ blinkAbove: 15 }), 15, 2)).blinkHz).toBe(0)
    expect(readColours(colourState(rule({ blinkAbove: 15 }), 16, 2)).blinkHz).toBeCloseTo(2, 1)
    expect(colourState(rule(), Number.NaN, 3)).toBe(darkState(3))
  })

  it('has as many lamps as it has, whatever the value', () => {
    fc.assert(
      fc.property(
        fc.double({ noNaN: true }),
        fc.integer({ min: 1, max: 60 }),
        fc.constantFrom('all', 'start', 'end', 'middle'),
        (value, lamps, fill) => {
          const read = readColours(colourState(rule({ fill, blend: true }), value, lamps))
          expect(read.lamps).toHaveLength(lamps)
          for (const c of read.lamps) expect(c).toMatch(/^#[0-9a-f]{6}$/)
        },
      ),
    )
    expect(readColours(whiteState(2)).lamps).toEqual(['#ffffff', '#ffffff'])
    expect(readColours(darkState(2))).toEqual({ blinkHz: 0, lamps: ['#000000', '#000000'] })
    expect(readColours('')).toEqual({ blinkHz: 0, lamps: [] })
  })
})
