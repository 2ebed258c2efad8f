import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { numberWords, timeWords, type ValueSettings, value, valueWords } from './value'

const fresh = value.fresh().settings as ValueSettings
const shown = (settings: Partial<ValueSettings>, v: number | string | null) =>
  valueWords({ ...fresh, ...settings }, v)

describe('a value in words', () => {
  it.each<[string, Partial<ValueSettings>, number | string | null, string]>([
    ['a whole number', {}, 249.6, '250'],
    ['with decimals', { decimals: 2 }, 41.2762, '41.28'],
    ['a true minus sign', { decimals: 1 }, -12.34, '−12.3'],
    ['no minus before what is shown as zero', { decimals: 1 }, -0.04, '0.0'],
    ['no plus before zero', { plus: true }, 0.2, '0'],
    ['a plus', { plus: true, decimals: 1 }, 1.25, '+1.3'],
    ['filled up with zeros', { digits: 4 }, 42, '0042'],
    ['and the sign before them', { digits: 3 }, -7, '−007'],
    ['with words round it', { before: 'HDG ', after: '°' }, 41, 'HDG 41°'],
    ['absent, without its unit', { after: ' kg' }, null, '–'],
    ['absent, with what stands before it', { before: 'QTY ', after: ' kg' }, null, 'QTY –'],
    ['not a number', {}, Number.NaN, '–'],
    ['absurd', { after: ' NM' }, 4e12, '≈∞'],
    ['absurd by its own limit', { most: 3000 }, -3001, '≈∞'],
    ['just not absurd', { most: 3000 }, 3000, '3000'],
    ['a text', { as: 'text', after: '!' }, 'GO', 'GO!'],
    ['a number that is to be a text', { as: 'text' }, 3, '3'],
    ['a choice', { as: 'choice', choices: [{ is: '1', shows: 'DOWN' }] }, 1, 'DOWN'],
    ['a choice by its word', { as: 'choice', choices: [{ is: 'up', shows: 'UP' }] }, 'up', 'UP'],
    ['a choice nobody has named', { as: 'choice', choices: [] }, 7, '7'],
  ])('%s', (_, settings, v, words) => {
    expect(shown(settings, v)).toBe(words)
  })
})

describe('a time in words', () => {
  const time = (seconds: number, more: Partial<ValueSettings> = {}) =>
    timeWords(seconds, { largest: 'h', decimals: 0, digits: 1, plus: false, ...more })
  // Worked out by hand.
  it.each<[number, Partial<ValueSettings>, string]>([
    [0, {}, '0:00:00'],
    [3661, {}, '1:01:01'],
    [86_399, {}, '23:59:59'],
    [90_000, {}, '25:00:00'],
    [125, { largest: 'min' }, '2:05'],
    [3661, { largest: 'min' }, '61:01'],
    [61.25, { largest: 'min', decimals: 1 }, '1:01.3'],
    [59.96, { largest: 'min', decimals: 1 }, '1:00.0'],
    [3599.999, { decimals: 2 }, '1:00:00.00'],
    [9.5, { largest: 's', decimals: 3, digits: 2 }, '09.500'],
    [-75, { largest: 'min' }, '−1:15'],
    [-0.001, { largest: 'min', decimals: 2 }, '0:00.00'],
    [12, { largest: 'min', plus: true }, '+0:12'],
    [5, { largest: 'min', digits: 2 }, '00:05'],
  ])('%d s %j is %s', (seconds, more, words) => {
    expect(time(seconds, more)).toBe(words)
  })

  it('read back, it is the time to half of its last part', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 300_000, noNaN: true }),
        fc.integer({ min: 0, max: 3 }),
        fc.constantFrom('h' as const, 'min' as const, 's' as const),
        (seconds, decimals, largest) => {
          const parts = time(seconds, { decimals, largest }).split(':').map(Number)
          const back = parts.reduce((sum, p) => sum * 60 + p, 0)
          expect(Math.abs(back - seconds)).toBeLessThanOrEqual(0.5 / 10 ** decimals + 1e-6)
          // Minutes and seconds below others never reach sixty.
          for (const p of parts.slice(1)) expect(p).toBeLessThan(60)
        },
      ),
    )
  })

  it('numbers, too', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e8, max: 1e8, noNaN: true }),
        fc.integer({ min: 0, max: 6 }),
        (x, decimals) => {
          const words = numberWords(x, { decimals, digits: 1, plus: false })
          expect(Math.abs(Number(words.replace('−', '-')) - x)).toBeLessThanOrEqual(
            0.5 / 10 ** decimals + 1e-6,
          )
        },
      ),
    )
  })
})
