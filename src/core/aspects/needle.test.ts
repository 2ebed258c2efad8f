import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { smallRig } from '../../../tests/rigs'
import { solderedThing } from '../../standins/boards/soldered/things'
import type { NeedleAspect } from '../catalogue/part-kind'
import { decodeConfiguration, encodeConfiguration, type Slot } from '../harness/slot'
import { wiringsOf } from '../harness/wiring'
import { addRow, apply } from '../rig/edit'
import type { PartRow } from '../rig/rows'
import {
  dialDegrees,
  GAINS_DEG_S2,
  gainsOf,
  LEAST_GAIN_DEG_S2,
  type NeedleSettings,
  needle,
  needleSettings,
  seenDegrees,
} from './needle'

const servo: NeedleAspect = {
  ...{ kind: 'needle', id: 'needle', drive: 'servo', terminals: ['pulse'] },
  ...{ travelDeg: 180, degPerS: 400 },
}
const dial = (more: Partial<NeedleSettings> = {}): NeedleSettings => ({
  kind: 'needle',
  points: [
    { value: 0, deg: -80 },
    { value: 100, deg: 80 },
  ],
  ...more,
})
/** What pulse a board gives for what it is told: 500 µs at zero, 2,500 at its whole travel. */
const pulseOf = (tenths: number, travelDeg = 180): number => 500 + (tenths * 2000) / (travelDeg * 10)

describe('a servo with pulses of its own', () => {
  const us = fc.integer({ min: 500, max: 2500 })
  const ends = fc.tuple(us, us).filter(([a, b]) => b - a >= 100)

  it('is given none beyond its ends, whatever is asked of it', () => {
    fc.assert(
      fc.property(ends, fc.double({ min: -5000, max: 5000, noNaN: true }), ([leastUs, mostUs], value) => {
        const own = dial({ leastUs, mostUs })
        const { bare, sweep, all, trial } = needle.presence(servo, own)
        const told = [
          bare(value),
          sweep(0.3),
          all,
          trial?.({ deg: value }),
          needle.presence(servo, own).rest('out'),
        ]
        for (const tenths of told) {
          // A board knows tenths of a degree, about a microsecond.
          expect(pulseOf(Number(tenths))).toBeGreaterThanOrEqual(leastUs - 1)
          expect(pulseOf(Number(tenths))).toBeLessThanOrEqual(mostUs + 1)
        }
      }),
    )
  })

  it('is said to stand where it was told to, and really stands there', () => {
    fc.assert(
      fc.property(ends, fc.double({ min: -90, max: 90, noNaN: true }), ([leastUs, mostUs], deg) => {
        const own = dial({ leastUs, mostUs })
        const told = Number(needle.presence(servo, own).trial?.({ deg }))
        // A tenth of a degree of what the board knows, over as little of its pulses as the servo uses.
        const within = 0.06 * (2000 / (mostUs - leastUs))
        expect(Math.abs(dialDegrees(servo, own, told) - deg)).toBeLessThan(within)
        const slot = needle.slot(servo, { places: [9], sinks: false, rest: 'out', address: 0 }, own)
        const thing = solderedThing(slot as Parameters<typeof solderedThing>[0], () => undefined)
        thing?.beLike?.({ kind: 'needle', leastUs, mostUs })
        thing?.pulsed?.(Math.round(pulseOf(told)))
        expect(Math.abs(seenDegrees(servo, undefined, Number(thing?.shows())) - deg)).toBeLessThan(within * 2)
      }),
    )
  })

  it('is found by pulses alone, past what is set', () => {
    const { trial } = needle.presence(servo, dial({ leastUs: 1200, mostUs: 1400 }))
    expect(trial?.({ pulseUs: 500 })).toBe(0)
    expect(trial?.({ pulseUs: 1500 })).toBe(900)
    expect(trial?.({ pulseUs: 9000 })).toBe(1800)
    expect(needle.words(servo, dial({ leastUs: 1000, mostUs: 2000 }), 900)).toBe('0°')
  })

  it('cannot have ends that are none', () => {
    const problem = (more: object) =>
      needleSettings.safeParse({ ...dial(), ...more }).error?.issues[0]?.message
    expect(problem({ leastUs: 1500, mostUs: 1550 })).toBe(
      'the longest pulse must be longer than the shortest',
    )
    expect(problem({ leastUs: 2450 })).toBe('the longest pulse must be longer than the shortest')
    expect(problem({ leastUs: 400 })).toContain('500')
    expect(problem({ leastUs: 900, mostUs: 2100 })).toBeUndefined()
  })

  it('turns a motor on coils as ever', () => {
    const motor: NeedleAspect = { ...servo, drive: 'four-wire', travelDeg: 315 }
    const own = dial({ leastUs: 1000, mostUs: 2000 })
    expect(needle.presence(motor, own).trial?.({ deg: 0 })).toBe(1575)
    expect(dialDegrees(motor, own, 1575)).toBe(0)
  })
})

describe('a servo of three turns', () => {
  it('goes through all of them, and is printed as one', () => {
    const turns: NeedleAspect = { ...servo, travelDeg: 1080 }
    const own = dial({
      zeroDeg: 0,
      points: [
        { value: 0, deg: 0 },
        { value: 3000, deg: 1080 },
      ],
    })
    const { bare } = needle.presence(turns, own)
    expect(bare(0)).toBe(0)
    expect(bare(1500)).toBe(5400)
    expect(bare(9999)).toBe(10_800)
    expect(needle.words(turns, own, 5400)).toBe('540°')
    expect(needleSettings.safeParse(own).success).toBe(true)
  })
})

describe('an instrument that is driven by a voltage', () => {
  const coil: NeedleAspect = { ...servo, drive: 'voltage', travelDeg: 90 }
  const own = dial({
    zeroDeg: -45,
    points: [
      { value: 0, deg: -45 },
      { value: 30, deg: 45 },
    ],
  })

  it('is a lamp to its board, as bright as its points have it, and said in degrees', () => {
    const slot = needle.slot(coil, { places: [9], sinks: false, rest: 'out', address: 0 }, own)
    expect(slot).toEqual({ kind: 'lamp', pin: 9, sinks: false, rest: 0 })
    const { bare, sweep, all } = needle.presence(coil, own)
    expect([bare(0), bare(15), bare(30), bare(99), sweep(1), all]).toEqual([0, 128, 255, 255, 255, 255])
    expect(needle.words(coil, own, 128)).toBe('0°')
    expect(dialDegrees(coil, own, 255)).toBe(45)
    expect(seenDegrees(coil, -45, 51)).toBeCloseTo(-27, 9)
  })

  it('hangs on a pin that can give it, and on no other', () => {
    const on = (pin: string) => {
      const bench = apply(smallRig({}), [
        addRow('part', {
          ...{ id: 'coil', panelId: 'panel', name: 'Volts', kind: 'gauge-voltage-45' },
          ...{ xMm: 30, yMm: 30, rotationDeg: 0, settings: { aspects: { needle: own } } },
        }),
        addRow('lead', {
          ...{ id: 'l', partId: 'coil', fromExpanderId: null, terminal: 'voltage', number: 1, colour: 'red' },
          ...{ boardId: 'board', pin, expanderId: null, channel: null, supplyId: null },
          ...{ ground: false, shared: false, locked: false, ribbon: null },
        }),
      ])
      return wiringsOf(bench, bench.part.coil as PartRow)[0]?.wiring
    }
    expect(on('D9')).toMatchObject({ slot: { kind: 'lamp', pin: 9 } })
    expect(on('D24')).toMatchObject({ message: expect.stringContaining('has no timer output') })
  })
})

describe('how quickly a motor gains speed', () => {
  const motor: NeedleAspect = { ...servo, drive: 'four-wire', travelDeg: 315 }
  const hangs = { places: [4, 5, 6, 7], sinks: false, rest: 'out', address: 0 } as const

  it('is never more than it may, and goes to its board and back', () => {
    fc.assert(
      fc.property(fc.double({ min: LEAST_GAIN_DEG_S2, max: 2000, noNaN: true }), (gainsDegPerS2) => {
        const own = dial({ gainsDegPerS2 })
        const gains = gainsOf(motor, own)
        expect(gains).toBeLessThanOrEqual(Math.min(gainsDegPerS2, GAINS_DEG_S2) + 1e-9)
        const slot = needle.slot(motor, hangs, own) as Slot
        const read = decodeConfiguration(encodeConfiguration({ chips: [], slots: [slot] }))
        expect(read).toEqual({ chips: [], slots: [slot] })
        expect(GAINS_DEG_S2 / (((slot as { gentle?: number }).gentle ?? 0) + 1)).toBeCloseTo(gains, 9)
      }),
    )
    expect(gainsOf(motor, dial())).toBe(GAINS_DEG_S2)
    expect(needle.slot(motor, hangs, dial())).not.toHaveProperty('gentle')
    // A servo has its own.
    expect(gainsOf(servo, dial({ gainsDegPerS2: 50 }))).toBe(GAINS_DEG_S2)
  })
})
