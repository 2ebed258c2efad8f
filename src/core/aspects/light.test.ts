import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ColourAspect, LampAspect } from '../catalogue/part-kind'
import {
  asMeant,
  asTaken,
  colourOrders,
  onScreen,
  orderFrom,
  readColours,
  withStrength,
} from '../signal/colours'
import { digitsState, readDigits } from '../signal/digits'
import { packLamp, unpackLamp } from '../signal/lamp-state'
import { colour } from './colour'
import { digits } from './digits'
import { lamp } from './lamp'
import { bendFor, strengthOf } from './light'

const share = fc.double({ min: 0, max: 1, noNaN: true })
const curve = fc.tuple(share, share, fc.double({ min: 0.3, max: 4, noNaN: true })).map(([a, b, bend]) => ({
  ...{ least: Math.min(a, b), most: Math.max(a, b), bend },
}))

describe('the brightness of a light', () => {
  it('rises with what it is to be, between just seen and as bright as it is wanted, and out is out', () => {
    fc.assert(
      fc.property(curve, share, share, (c, a, b) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)]
        expect(strengthOf(c, low)).toBeLessThanOrEqual(strengthOf(c, high) + 1e-12)
        expect(strengthOf(c, 0)).toBe(0)
        if (low > 0) expect(strengthOf(c, low)).toBeGreaterThanOrEqual(c.least - 1e-12)
        expect(strengthOf(c, high)).toBeLessThanOrEqual(c.most + 1e-12)
      }),
    )
    expect(strengthOf(undefined, 0.4)).toBe(0.4)
    expect(strengthOf({ least: 0.1 }, Number.NaN)).toBe(0)
  })

  it('goes half way up through what was shown to look half as bright', () => {
    fc.assert(
      fc.property(share, share, fc.double({ min: 0.07, max: 0.81, noNaN: true }), (a, b, up) => {
        const [least, most] = [Math.min(a, b), Math.max(a, b)]
        fc.pre(most - least > 0.05)
        const half = least + up * (most - least)
        const c = { least, most, bend: bendFor(least, most, half) }
        expect(strengthOf(c, 0.5)).toBeCloseTo(half, 2)
      }),
    )
    expect(bendFor(0.2, 0.9, 0.9)).toBe(1)
    expect(bendFor(0.2, 0.9, 0.1)).toBe(1)
  })

  it('of a lamp is dimmed with its blinking kept, and what is lit at all stays lit', () => {
    const of = (level: number, hz: number, dimmed: number, own?: object) =>
      unpackLamp(Number(lamp.lit?.(packLamp(level, hz), dimmed, own as never)))
    expect(of(1, 2, 0.5)).toEqual({ level: 128, blinkHz: 2 })
    expect(of(1, 0, 1e-6)).toEqual({ level: 1, blinkHz: 0 })
    expect(of(1, 2, 0)).toEqual({ level: 0, blinkHz: 0 })
    expect(of(0, 0, 1)).toEqual({ level: 0, blinkHz: 0 })
    expect(of(1, 0, 1e-6, { kind: 'lamp', least: 0.1 }).level).toBe(26)
    expect(of(1, 0, 1, { kind: 'lamp', most: 0.4 }).level).toBe(102)
  })

  it('of digits keeps what they show', () => {
    const dimmed = digits.lit?.(digitsState('12.5', 1), 0.01, undefined) as string
    expect(readDigits(dimmed)).toMatchObject({ brightness: 1 / 15 })
    expect(dimmed.slice(1)).toBe('12.5')
    expect(digits.lit?.(digitsState('12.5', 1), 0, undefined)).toBe('012.5')
    const bent = digits.lit?.(digitsState('8', 1), 0.5, { kind: 'digits', bend: 2 }) as string
    expect(readDigits(bent).brightness).toBeCloseTo(4 / 15, 6)
  })

  it('of a strip keeps the hue of each lamp', () => {
    const state = `\0${String.fromCharCode(200, 100, 0, 0, 0, 0, 10, 250, 30)}`
    const half = withStrength(state, (c) => c / 2)
    expect([...half].map((c) => c.charCodeAt(0))).toEqual([0, 100, 50, 0, 0, 0, 0, 5, 125, 15])
    expect([...withStrength(state, () => 0)].every((c) => c === '\0')).toBe(true)
    // What shines at all is not lost to rounding.
    expect(withStrength(state, (c) => c / 1000).charCodeAt(2)).toBe(1)
  })
})

describe('a lamp on a screen', () => {
  it('is as much brighter than its number as screens are darker, and of the same hue', () => {
    expect(onScreen('#000000')).toBe('#000000')
    expect(onScreen('#ff8000')).toBe('#ff8000')
    // A fifth of the light is nearly half of what a screen counts up to.
    expect(onScreen('#330000')).toBe('#7b0000')
    expect(onScreen('#281400')).toBe('#6e3700')
  })
})

describe('the order of a strip’s colours', () => {
  const states = fc
    .array(fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255)), { minLength: 1, maxLength: 8 })
    .map((lamps) => `\u0005${String.fromCharCode(...lamps.flat())}`)

  it('is undone by its inverse', () => {
    fc.assert(
      fc.property(states, fc.constantFrom(...colourOrders), (state, order) => {
        expect(asMeant(asTaken(state, order), order)).toBe(state)
      }),
    )
  })

  it('is found from what is seen for red and green, whatever was believed before', () => {
    /** What a strip shows: it gets green, red, blue of what was told, and takes them in its own order. */
    const seen = (told: string, real: string) => {
      const [r, g, b] = [1, 2, 3].map((i) => told.charCodeAt(i))
      const sent = [g, r, b]
      return [...'RGB'].find((c) => sent[real.indexOf(c)] === 255) as 'R' | 'G' | 'B'
    }
    for (const real of colourOrders)
      for (const believed of [undefined, ...colourOrders]) {
        const red = seen(asTaken('\0\xff\0\0', believed), real)
        const green = seen(asTaken('\0\0\xff\0', believed), real)
        expect(orderFrom(believed, red, green), `${real}, believed ${believed}`).toBe(real)
        expect(seen(asTaken('\0\xff\0\0', real), real)).toBe('R')
        expect(seen(asTaken('\0\0\0\xff', real), real)).toBe('B')
      }
    expect(orderFrom('GRB', 'R', 'R')).toBeNull()
  })

  it('is in what goes out and not in what is said of it', () => {
    const aspect = { kind: 'colour', id: 'c', lamps: 2, terminals: ['in'] } as ColourAspect
    const own = { kind: 'colour', order: 'RGB', lamps: 3 } as const
    const lit = colour.lit?.('\0\xff\0\0', 1, own) as string
    expect(readColours(lit).lamps).toEqual(['#00ff00'])
    expect(colour.words(aspect, own, lit)).toBe('#ff0000')
    expect(colour.presence(aspect, own).trial?.({ lamps: 2, colour: '#ff0000' })).toBe(
      asTaken('\0\xff\0\0\xff\0\0\0\0\0', 'RGB'),
    )
    expect(colour.slot(aspect, { places: [4], sinks: false, rest: 'out', address: 0 }, own)).toMatchObject({
      lamps: 3,
    })
    expect(lamp.presence({ kind: 'lamp' } as LampAspect, undefined).trial?.({ strength: 0.5 })).toBe(128)
  })
})
