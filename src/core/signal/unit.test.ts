import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { convert, type Unit, unitNamed, units } from './unit'

const unit = (symbol: string): Unit => {
  const found = unitNamed(symbol)
  if (!found) throw new Error(symbol)
  return found
}

describe('units', () => {
  it.each([
    [1000, 'ft', 'm', 304.8],
    [1, 'NM', 'km', 1.852],
    [1, 'mi', 'km', 1.609344],
    [100, 'kt', 'km/h', 185.2],
    [20, '°C', '°F', 68],
    [0, '°C', 'K', 273.15],
    [29.92, 'inHg', 'hPa', 1013.2],
    [180, 'deg', 'rad', Math.PI],
    [50, '%', 'ratio', 0.5],
    [118.5, 'MHz', 'kHz', 118500],
  ])('%s %s is %s in %s', (value, from, to, expected) => {
    expect(convert(value, unit(from), unit(to))).toBeCloseTo(expected, 1)
  })

  it('come back from every conversion as they went', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...units),
        fc.constantFrom(...units),
        fc.double({ min: -1e5, max: 1e5, noNaN: true }),
        (a, b, x) => {
          fc.pre(a.dimension === b.dimension)
          expect(convert(convert(x, a, b), b, a)).toBeCloseTo(x, 4)
        },
      ),
    )
  })

  it('are known by symbol and by name, one and many', () => {
    expect(unitNamed('kt')).toBe(unitNamed('knot'))
    expect(unitNamed('Knots')).toBe(unitNamed('kt'))
    for (const [name, symbol] of [
      ['degree Celsius', '°C'],
      ['degrees celsius', '°C'],
      ['US gallon', 'gal'],
      ['US gallons', 'gal'],
      ['feet', 'ft'],
      ['feet per minute', 'ft/min'],
      ['revolutions per minute', 'rpm'],
      ['pounds per square inch', 'psi'],
      ['inches of mercury', 'inHg'],
      ['nautical miles', 'NM'],
      ['metres per second squared', 'm/s²'],
      ['degrees per second', 'deg/s'],
      ['Hertz', 'Hz'],
    ] as const)
      expect(unitNamed(name)?.symbol, name).toBe(symbol)
    expect(unitNamed('furlong')).toBeUndefined()
  })
})
