import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { hostEnd } from '../../links/board-link'
import { SimulatedBoard } from '../../standins/boards/simulated-board'
import { coilOrder, type MotorLeads, type NeedleSettings, type NeedleSlot } from '../aspects/needle'
import { channelPlace } from '../catalogue/place'
import { encodeConfiguration } from '../harness/slot'
import { needleAngle, needleValue } from '../signal/needle'
import { centredZero, furthestBehind, keepPair, leadsFrom, outOfReach, type SeenToDo, timeFor } from './motor'

/** Needle points that rise in value and go one way round. */
const scale = fc
  .tuple(
    fc.uniqueArray(fc.integer({ min: -5000, max: 5000 }), { minLength: 2, maxLength: 12 }),
    fc.array(fc.double({ min: 0.5, max: 40, noNaN: true }), { minLength: 12, maxLength: 12 }),
    fc.boolean(),
  )
  .map(([values, steps, isBackwards]) => {
    let deg = -150
    return values
      .sort((a, b) => a - b)
      .map((value, i) => {
        deg += steps[i] as number
        return { value, deg: isBackwards ? -deg : deg }
      })
  })

describe('a scale and its inverse', () => {
  it('agree within a tenth of a step, straight and smooth, either way round', () => {
    const STEP_DEG = 1 / 3
    fc.assert(
      fc.property(
        scale,
        fc.boolean(),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (points, smooth, share) => {
          const first = points[0] as (typeof points)[number]
          const last = points.at(-1) as typeof first
          const deg = first.deg + share * (last.deg - first.deg)
          const value = needleValue(points, smooth)?.(deg) ?? Number.NaN
          expect(Math.abs(needleAngle(points, smooth)(value) - deg)).toBeLessThan(STEP_DEG / 10)
        },
      ),
    )
  })

  it('has none where one angle stands for several values', () => {
    const back = [
      { value: 0, deg: 0 },
      { value: 1, deg: 90 },
      { value: 2, deg: 30 },
    ]
    expect(needleValue(back)).toBeNull()
  })
})

const dial: NeedleSettings = {
  kind: 'needle',
  points: [
    { value: 0, deg: -120 },
    { value: 100, deg: 120 },
  ],
}

describe('a scale on a motor', () => {
  it('is told which of its points the motor or its limits leave out', () => {
    expect(outOfReach(dial, 315)).toEqual([])
    expect(outOfReach(dial, 180)).toEqual([0, 1])
    expect(outOfReach({ ...dial, zeroDeg: -120 }, 180)).toEqual([1])
    expect(outOfReach({ ...dial, mostDeg: 100 }, 315)).toEqual([1])
    expect(centredZero(dial.points, 300)).toBe(-150)
  })

  it('keeps a pair in place of one of the same value, or where it belongs', () => {
    expect(keepPair(dial.points, { value: 50, deg: 10 }).map((p) => p.deg)).toEqual([-120, 10, 120])
    expect(keepPair(dial.points, { value: 100, deg: 99 }).map((p) => p.deg)).toEqual([-120, 99])
  })

  it('takes as long as its speed lets it: worked out by hand', () => {
    // From 100 °/s to 200 °/s at 667 °/s² takes 150 ms and 22.5°; both ends of 240° and 195° between at 200 °/s.
    expect(timeFor(240, 200)).toBeCloseTo(150 + 150 + 975, 0)
    // 22.5° there and as many back: it never gets further.
    expect(timeFor(45, 200)).toBeCloseTo(300, 0)
    expect(timeFor(0, 200)).toBe(0)
  })

  it('is told in which movement it falls the furthest behind', () => {
    // 60 % within 600 ms, among slow movements; at 100 Hz.
    const times = Array.from({ length: 1000 }, (_, i) => i * 10)
    const values = times.map((t) => (t < 5000 ? t / 500 : t < 5600 ? 10 + (t - 5000) / 10 : 70))
    const slow = furthestBehind(times, values, dial, 100)
    // 2.4 degrees a percent: 144 degrees at 100 a second, in some 0.6 seconds, with what came just before and after.
    expect(slow?.deg).toBeCloseTo(144, -1)
    expect((slow?.takesMs ?? 0) - (slow?.ms ?? 0)).toBeGreaterThan(600)
    expect(slow?.takesMs).toBeCloseTo(timeFor(slow?.deg ?? 0, 100), 6)
    // Slow movements are followed by any.
    const gentle = furthestBehind(
      times,
      times.map((t) => t / 500),
      dial,
      100,
    )
    expect(gentle?.takesMs).toBeLessThan(gentle?.ms ?? 0)
    expect(
      furthestBehind(
        times,
        times.map(() => 5),
        dial,
        100,
      ),
    ).toBeNull()
  })
})

const driver = { kind: 'motor-driver-4', pins: [22, 23, 24, 25, 26, 27, 28, 29, 30], chips: 1, address: 0 }

/** A motor on a simulated board, on its pins or behind a driver, moved to and fro as its leads are taken: what is seen of it. */
const watched = (
  really: MotorLeads | undefined,
  taken: MotorLeads | undefined,
  isDriven = false,
): SeenToDo => {
  const terminals = isDriven ? [0, 1, 2, 3].map((c) => channelPlace(0, c)) : [2, 3, 4, 5]
  const chips = isDriven ? [driver] : []
  const slot = (leads: MotorLeads | undefined): NeedleSlot => ({
    ...{ kind: 'needle', drive: 'four-wire', travelDeg: 300, degPerS: 200, rest: 0 },
    pins: coilOrder(terminals, leads),
  })
  const loaded = [...encodeConfiguration({ chips, slots: [slot(taken)] })]
  let now = 1_000_000
  const link = hostEnd()
  const board = new SimulatedBoard(
    ...(['00112233445566aa', 'ATmega2560 board'] as const),
    { configuration: loaded, closed: [], chips, slots: [slot(really)] },
    () => 0.5,
    () => {},
  )
  board.connect(now)
  const run = (ms: number) => {
    for (let i = 0; i < ms; i += 2) {
      now += 2000
      board.step(now)
      if (i % 200 === 0) board.receive(link.encode({ say: 'heartbeat', next: 0, digest: 0 }).bytes, now)
    }
  }
  const stands = () => Number([...board.shows.values()][0]) / 10
  run(3000)
  const to = (tenths: number) => {
    board.receive(link.encode({ say: 'outputs', outputs: [{ slot: 0, state: tenths }] }).bytes, now)
    run(1500)
    return stands()
  }
  const low = to(600)
  const high = to(1800)
  return Math.abs(high - low) < 40 ? 'shivered' : high > low ? 'turned forwards' : 'turned backwards'
}

describe('the leads of a motor', () => {
  const every: (MotorLeads | undefined)[] = [undefined, 'crossed', 'turned', 'crossed and turned']

  it('are found by what it was seen to do, however they are soldered, in three tries at most', () => {
    for (const really of every) {
      let taken: MotorLeads | null = null
      let tries = 0
      for (;;) {
        const next = leadsFrom(taken, watched(really, taken ?? undefined))
        if (!next) break
        taken = next.leads
        expect(++tries, `${really} after ${taken}`).toBeLessThan(3)
      }
      expect(watched(really, taken ?? undefined)).toBe('turned forwards')
    }
  })

  it('behind a driver chip are told which way is forwards; coils that are mixed there shiver, whatever it is told', () => {
    const seen = (really?: MotorLeads, taken?: MotorLeads) => watched(really, taken, true)
    expect(seen()).toBe('turned forwards')
    expect(seen('turned')).toBe('turned backwards')
    expect(seen('turned', 'turned')).toBe('turned forwards')
    for (const taken of every) expect(seen('crossed', taken)).toBe('shivered')
  })
})
