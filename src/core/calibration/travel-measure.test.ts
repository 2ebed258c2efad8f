import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { randomFrom } from '../../standins/craft/world'
import { MOST_SMOOTHING } from '../aspects/travel'
import { alongCurve } from '../signal/curve'
import { delayOf, isStill, noiseOf, smoothed, smoothingFor } from './noise'
import { endsFrom, flawsOf } from './travel-measure'
import { matchOf, type Pair, withPair } from './twins'

/** Normal, by adding twelve even ones. */
const normal = (random: () => number): number =>
  Array.from({ length: 12 }, random).reduce((s, v) => s + v, -6)
describe('the noise of a lever', () => {
  it('is measured where it rests', () => {
    const random = randomFrom(4)
    const levels = Array.from({ length: 2000 }, () => 500 + 3 * normal(random))
    const noise = noiseOf(levels)
    expect(noise?.middle).toBeCloseTo(500, 0)
    expect(noise?.sigma).toBeGreaterThan(2.8)
    expect(noise?.sigma).toBeLessThan(3.2)
    expect(noiseOf([1, 2, 3])).toBeNull()
  })

  it('is evened out by the filter as reckoned, and the filter is late as reckoned', () => {
    const random = randomFrom(9)
    for (const n of [0, 1, 2, 3, 4, 5]) {
      let level = 0
      const out: number[] = []
      for (let i = 0; i < 20_000; i++) {
        level += (normal(random) - level) * 2 ** -n
        if (i > 500) out.push(level)
      }
      expect(noiseOf(out)?.sigma).toBeCloseTo(smoothed(1, n), 1)
      // A steady movement of one a sample: the filter follows so many samples behind.
      let follows = 0
      for (let i = 1; i <= 1000; i++) follows += (i - follows) * 2 ** -n
      expect(1000 - follows).toBeCloseTo(delayOf(n), 3)
    }
  })

  it('chooses more smoothing for more noise, none for none, and never beyond what a board does', () => {
    expect(smoothingFor(0)).toBe(0)
    expect(smoothingFor(1000)).toBe(MOST_SMOOTHING)
    fc.assert(
      fc.property(fc.double({ min: 0, max: 50, noNaN: true }), (sigma) => {
        expect(smoothingFor(sigma * 1.3)).toBeGreaterThanOrEqual(smoothingFor(sigma))
      }),
    )
  })

  it('is still only when it goes nowhere', () => {
    const random = randomFrom(5)
    const still = Array.from({ length: 600 }, () => 300 + 2 * normal(random))
    expect(isStill(still, 6)).toBe(true)
    expect(
      isStill(
        still.map((v, i) => v + i / 20),
        6,
      ),
    ).toBe(false)
  })
})

describe('a travel that is gone through', () => {
  const sweep = (level: (x: number) => number) =>
    Array.from({ length: 3001 }, (_, i) => ({ at: i * 1000, value: Math.round(level(i / 3000)) }))

  it('has no flaw where the level only rises and trembles', () => {
    const random = randomFrom(7)
    expect(
      flawsOf(
        sweep((x) => 20 + 980 * x ** 3 + 3 * normal(random)),
        9,
      ),
    ).toEqual([])
  })

  it('has a dead spot where the level jumps', () => {
    const found = flawsOf(
      sweep((x) => (x < 0.4 ? 1000 * x : Math.min(1000 * x + 120, 1020))),
      2,
    )
    expect(found).toMatchObject([{ kind: 'dead spot' }])
    expect(found[0]?.from).toBeCloseTo(400, -1)
    expect(found[0]?.to).toBeCloseTo(520, -1)
  })

  it('has a broken track where the wiper is lost for a moment, told once for two ways', () => {
    const lost = (x: number) => (x > 0.6 && x < 0.61 ? 0 : 1000 * x)
    const both = [...sweep(lost), ...sweep((x) => lost(1 - x)).map((n) => ({ ...n, at: n.at + 3_100_000 }))]
    expect(flawsOf(both, 2)).toMatchObject([{ kind: 'broken track' }])
  })

  it('has ends that are reached for certain, and says when forward is the lower one', () => {
    expect(endsFrom(998, 22, 3)).toEqual({ low: 0.0244, high: 0.9726, isSwapped: false })
    expect(endsFrom(22, 998, 3)).toMatchObject({ isSwapped: true })
    expect(endsFrom(500, 480, 3)).toBeNull()
  })
})

describe('two levers that are moved together', () => {
  it('give the same once one follows its twin, however either is bent', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.6, max: 1.7, noNaN: true }), fc.nat(1e6), (bend, seed) => {
        const random = randomFrom(seed)
        const pairs: Pair[] = Array.from({ length: 400 }, (_, i) => {
          const x = i / 399
          return { mine: x, twins: Math.min(1, Math.max(0, x ** bend + 0.002 * normal(random))) }
        })
        const match = matchOf(pairs)
        expect(match?.still).toBeLessThan(0.06)
        const { curve } = match as NonNullable<typeof match>
        for (let i = 1; i < curve.length; i++) {
          expect(curve[i]?.from).toBeGreaterThan(curve[i - 1]?.from as number)
          expect(curve[i]?.to).toBeGreaterThanOrEqual(curve[i - 1]?.to as number)
        }
        for (const { to } of curve.slice(1, -1)) {
          expect(to).toBeGreaterThan(0)
          expect(to).toBeLessThan(1)
        }
        expect(alongCurve(curve, 0)).toBe(0)
        expect(alongCurve(curve, 1)).toBe(1)
      }),
    )
  })

  it('are as far apart as they are, and not as they tremble; and resting takes nothing back', () => {
    const random = randomFrom(7)
    const trembling = () => 0.01 * normal(random)
    let pairs: Pair[] = []
    const stand = (x: number, twins: number) => {
      const own = Math.min(1, Math.max(0, x + trembling()))
      pairs = withPair(pairs, { mine: own, twins: Math.min(1, Math.max(0, twins + trembling())) })
    }
    for (let i = 0; i <= 300; i++) stand(i / 300, i / 300)
    for (let i = 300; i >= 0; i--) stand(i / 300, i / 300)
    expect(matchOf(pairs)?.apart).toBeLessThan(0.02)
    // Hands reach for the mouse, and take their time.
    for (let i = 0; i < 5000; i++) stand(0, 0)
    const same = matchOf(pairs)
    expect(same?.apart).toBeLessThan(0.02)
    expect(same?.still).toBeLessThan(0.02)
    // One that is bent since is known once it has been moved again.
    for (let i = 0; i <= 600; i++) stand(i / 600, (i / 600) ** 1.3)
    for (let i = 600; i >= 0; i--) stand(i / 600, (i / 600) ** 1.3)
    const bent = matchOf(pairs)
    expect(bent?.apart).toBeGreaterThan(0.07)
    expect(bent?.apart).toBeLessThan(0.13)
    expect(bent?.still).toBeLessThan(0.03)
  })

  it('are not matched where they were moved through a part of their travel alone', () => {
    expect(matchOf(Array.from({ length: 50 }, (_, i) => ({ mine: i / 200, twins: i / 200 })))).toBeNull()
  })
})
