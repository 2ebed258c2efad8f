import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lampMilliamps, nextE12, seriesOhms } from './series-resistor'

describe('a series resistor', () => {
  it.each([
    [5, 2.1, 20, 150],
    [5, 1.9, 10, 330],
    [5, 3.1, 20, 100],
    [3.3, 1.9, 10, 150],
    [12, 2, 20, 560],
  ])('from %f V for a lamp of %f V and %f mA is %d Ω', (volts, forward, milliamps, ohms) => {
    expect(seriesOhms(volts, forward, milliamps)).toBe(ohms)
  })

  it('is none where the supply does not light the lamp', () => {
    expect(seriesOhms(3.3, 3.1, 10)).toBeNull()
    expect(seriesOhms(3.3, 3.2, 10)).toBeNull()
  })

  it('is the next value that can be bought, and never lets more through than asked', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 900_000, noNaN: true }), (ohms) => {
        const bought = nextE12(ohms)
        expect(bought).toBeGreaterThanOrEqual(ohms * (1 - 1e-6))
        // The series rises by no more than a factor of 1.25 from one value to the next.
        expect(bought).toBeLessThanOrEqual(ohms * 1.26)
        expect(nextE12(bought)).toBe(bought)
        const lead = bought / 10 ** Math.floor(Math.log10(bought) + 1e-9)
        const series = [1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2]
        expect(series.some((e) => Math.abs(e - lead) < 1e-6)).toBe(true)
      }),
    )
  })

  it('lets nothing through below the forward voltage', () => {
    expect(lampMilliamps(2, 3.1, 100)).toBe(0)
    expect(lampMilliamps(5, 2, 150)).toBeCloseTo(20)
  })
})
