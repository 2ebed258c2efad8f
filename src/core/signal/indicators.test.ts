import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { alongBands } from './bands'
import { colourAt, colourState, readColours } from './colours'
import { digitsState, digitsText, readDigits } from './digits'
import { needleAngle } from './needle'
import { textRow, withCursor } from './text-page'

const plain = { decimals: 0, leading: 'blanks', sign: 'minus' } as const

describe('a digit window', () => {
  it.each([
    [42, plain, '   42'],
    [-42, plain, '  -42'],
    [42, { ...plain, leading: 'zeros' }, '00042'],
    [-42, { ...plain, leading: 'zeros' }, '-0042'],
    [-42, { ...plain, sign: 'never' }, '   42'],
    [118.905, { ...plain, decimals: 2 }, '118.91'],
    [-0.2, plain, '    0'],
  ] as const)('shows %d so', (value, format, shown) => {
    expect(digitsText(value, format, shown.replace('.', '').length)).toBe(shown)
  })
  it('shows absent as dashes, too large and too small as bars, and never as a number', () => {
    expect(digitsText(null, plain, 4)).toBe('----')
    expect(digitsText(Number.NaN, plain, 4)).toBe('----')
    expect(digitsText(10000, plain, 4)).toBe('¯¯¯¯')
    expect(digitsText(-1000, plain, 4)).toBe('____')
    expect(digitsText(1e30, plain, 4)).toBe('¯¯¯¯')
  })
  it('fills just its width, whatever the value', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e7, max: 1e7, noNaN: true }),
        fc.integer({ min: 0, max: 3 }),
        fc.constantFrom('blanks' as const, 'zeros' as const),
        (value, decimals, leading) => {
          const shown = digitsText(value, { decimals, leading, sign: 'minus' }, 6)
          expect(readDigits(digitsState(shown, 1)).digits).toHaveLength(6)
          if (!/[¯_]/.test(shown))
            expect(Math.abs(Number(shown) - value)).toBeLessThanOrEqual(0.5 / 10 ** decimals + 1e-9)
        },
      ),
    )
  })
  it('shows a text from the left and lets points stand beside their digit', () => {
    expect(digitsText('12.5', plain, 5)).toBe('12.5  ')
    expect(readDigits(digitsState('1.2', 0.5))).toEqual({
      brightness: 8 / 15,
      digits: [
        { glyph: '1', point: true },
        { glyph: '2', point: false },
      ],
    })
  })
})

describe('a row of a text display', () => {
  it('is as wide as the display, and says so when something was cut', () => {
    expect(textRow('HDG 060', 10)).toBe('HDG 060   ')
    expect(textRow('HEADING 060 DEG', 10)).toBe('HEADING 0~')
    expect(textRow(null, 4)).toBe('----')
  })
  it('has its cursor before it', () => {
    expect(withCursor('COM', true)).toBe('>COM')
    expect(withCursor('COM', false)).toBe(' COM')
    expect(withCursor(null, true)).toBeNull()
  })
})

describe('a needle', () => {
  const points = [
    { value: 0, deg: -130 },
    { value: 20, deg: -60 },
    { value: 50, deg: 0 },
    { value: 100, deg: 130 },
  ]
  it('goes straight from point to point and rests at the ends', () => {
    const angle = needleAngle(points)
    expect([0, 10, 20, 75, 100].map(angle)).toEqual([-130, -95, -60, 65, 130])
    expect(angle(-5)).toBe(-130)
    expect(angle(1e6)).toBe(130)
  })
  it('smooth or not, passes through every point, never turns back and never overshoots', () => {
    const rising = fc
      .uniqueArray(fc.tuple(fc.integer({ min: 0, max: 1000 }), fc.integer({ min: -150, max: 150 })), {
        minLength: 2,
        maxLength: 8,
        selector: ([value]) => value,
      })
      .map((list) => {
        const values = list.map(([v]) => v).sort((a, b) => a - b)
        const degs = list.map(([, d]) => d).sort((a, b) => a - b)
        return values.map((value, i) => ({ value, deg: degs[i] as number }))
      })
    fc.assert(
      fc.property(rising, fc.boolean(), (list, smooth) => {
        const angle = needleAngle(list, smooth)
        for (const p of list) expect(angle(p.value)).toBeCloseTo(p.deg, 6)
        let before = Number.NEGATIVE_INFINITY
        for (let v = -10; v <= 1010; v += 7) {
          expect(angle(v)).toBeGreaterThanOrEqual(before - 1e-9)
          before = angle(v)
        }
      }),
    )
  })
})

describe('bands of a lever', () => {
  const bands = [
    { from: 0, to: 0.2, gives: [-0.3, 0] as const },
    { from: 0.25, to: 0.3, gives: [0, 0] as const },
    { from: 0.4, to: 1, gives: [0, 1] as const },
  ]
  it('give each its own range, flat where it is flat', () => {
    expect(alongBands(bands, 0)).toBeCloseTo(-0.3)
    expect(alongBands(bands, 0.1)).toBeCloseTo(-0.15)
    expect(alongBands(bands, 0.27)).toBe(0)
    expect(alongBands(bands, 0.7)).toBeCloseTo(0.5)
  })
  it('give the nearer edge in the gate between two, and their own beyond the last', () => {
    expect(alongBands(bands, 0.21)).toBeCloseTo(0)
    expect(alongBands(bands.slice(2), 0.1)).toBe(0)
  })
  it('without any give the travel itself', () => {
    expect(alongBands([], 0.42)).toBe(0.42)
  })
})

describe('colours', () => {
  const stops = [
    { at: 0, colour: '#000080' },
    { at: 10, colour: '#00ff00' },
    { at: 20, colour: '#ff0000' },
  ]
  const rule = { stops, blend: false, fill: 'all', least: 0, most: 20, blinkAbove: 18 } as const
  const lit = (state: string) =>
    readColours(state)
      .lamps.map((c) => (c === '#000000' ? '.' : '#'))
      .join('')
  it('step from stop to stop, or blend between them', () => {
    expect(colourAt(stops, false, 9)).toEqual([0, 0, 128])
    expect(colourAt(stops, false, 10)).toEqual([0, 255, 0])
    expect(colourAt(stops, true, 15)).toEqual([128, 128, 0])
    expect(colourAt(stops, true, -5)).toEqual([0, 0, 128])
    expect(colourAt(stops, true, 99)).toEqual([255, 0, 0])
  })
  it('fill a strip from its start, its end or its middle', () => {
    expect(lit(colourState({ ...rule, fill: 'start' }, 10, 8))).toBe('####....')
    expect(lit(colourState({ ...rule, fill: 'end' }, 5, 8))).toBe('......##')
    expect(lit(colourState({ ...rule, fill: 'middle' }, 20, 8))).toBe('....####')
    expect(lit(colourState({ ...rule, fill: 'middle' }, 5, 8))).toBe('..##....')
    expect(lit(colourState({ ...rule, fill: 'middle' }, 10, 8))).toBe('........')
  })
  it('blink above their limit', () => {
    expect(readColours(colourState(rule, 18, 1)).blinkHz).toBe(0)
    expect(readColours(colourState(rule, 19, 1)).blinkHz).toBeCloseTo(2)
  })
  it('are dark without a value', () => {
    expect(lit(colourState(rule, Number.NaN, 3))).toBe('...')
  })
})
