import { describe, expect, it } from 'vitest'
import { formatNumber, formatValue, formatValues } from './format'

describe('values in words', () => {
  it.each([
    [1234.5, '1235'],
    [28.32, '28.3'],
    [0.5, '0.500'],
    [-3.25, '−3.25'],
    [-0.0001, '0.000'],
    [Number.NaN, '–'],
  ])('%s reads %s', (value, words) => {
    expect(formatNumber(value)).toBe(words)
  })

  it('always carry their unit', () => {
    expect(formatValue(28.3, { type: 'number', unit: 'V' })).toBe('28.3 V')
    expect(formatValue(0.62, { type: 'number', unit: 'ratio' })).toBe('0.62')
    expect(formatValue(118.005, { type: 'number', unit: 'MHz' })).toBe('118.005 MHz')
  })

  it('say choices and switches by their words', () => {
    expect(formatValue(2, { type: 'number', unit: null, choices: ['up', 'off', 'down'] })).toBe('down')
    expect(formatValue(1, { type: 'boolean' })).toBe('on')
  })

  it('show an absent value as a dash, never as zero', () => {
    expect(formatValue(null, { type: 'number', unit: 'V' })).toBe('–')
  })

  it('of a row of values say their unit once', () => {
    expect(formatValues([3.78, 4.12], { type: 'number', unit: 'min' }, ' … ')).toBe('3.78 … 4.12 min')
    expect(formatValues([0, 0.62], { type: 'number', unit: 'ratio' }, ' … ')).toBe('0.00 … 0.62')
    const way = { type: 'number', unit: 'min', choices: ['up', 'at min'] } as const
    expect(formatValues([0, 1, 7], way, ' · ')).toBe('up · at min · 7 min')
    expect(formatValues([], { type: 'number', unit: 'V' }, ' · ')).toBe('')
  })
})
