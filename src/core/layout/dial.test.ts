import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoRig } from '../../../tests/rigs'
import { kindOf } from '../catalogue/own-kind'
import { settingsOf } from '../rig/part-settings'
import { rowsOf } from '../rig/rig'
import { needleAngle } from '../signal/needle'
import { type DialFace, dialFace, type Scale } from './dial'

/** What is wrong with a face, in words. */
const wrong = ({ ticks, numbers }: DialFace, radius: number): string[] => {
  const found: string[] = []
  for (const [i, a] of numbers.entries()) {
    for (const b of numbers.slice(i + 1))
      if (
        a.box.minX < b.box.maxX &&
        b.box.minX < a.box.maxX &&
        a.box.minY < b.box.maxY &&
        b.box.minY < a.box.maxY
      )
        found.push(`${a.text} lies on ${b.text}`)
    for (const t of ticks)
      for (const share of [0, 0.25, 0.5, 0.75, 1]) {
        const [x, y] = [t.from.x + (t.to.x - t.from.x) * share, t.from.y + (t.to.y - t.from.y) * share]
        const { minX, minY, maxX, maxY } = a.box
        if (x > minX && x < maxX && y > minY && y < maxY) found.push(`${a.text} lies on the mark ${t.value}`)
      }
    if (Math.hypot(a.box.minX, a.box.minY) > radius || Math.hypot(a.box.maxX, a.box.maxY) > radius)
      found.push(`${a.text} leaves the dial`)
  }
  return found
}

const linear = (from: number, to: number, sweep = 260): Scale => ({
  points: [
    { value: from, deg: -sweep / 2 },
    { value: to, deg: sweep / 2 },
  ],
})
const texts = (scale: Scale, radius = 18) => dialFace([scale], radius).numbers.map((n) => n.text)

describe('the face of a dial', () => {
  it('of every gauge of the demo has no number on another or on a mark', () => {
    for (const part of rowsOf(demoRig(), 'part')) {
      const kind = kindOf(part)
      if (kind?.front.look !== 'gauge') continue
      const scales = kind.aspects.flatMap((a) => settingsOf(part.settings, a.id, 'needle') ?? [])
      const radius = kind.front.dialMm / 2
      const face = dialFace(scales, radius)
      expect(wrong(face, radius), part.name).toEqual([])
      expect(face.numbers.length).toBeGreaterThan(4)
    }
  })

  it('has round numbers, as many as there is room for, and marks that divide them as one reads', () => {
    expect(texts(linear(0, 120))).toEqual(['0', '20', '40', '60', '80', '100', '120'])
    expect(texts(linear(0, 1))).toContain('0.2')
    // On a small dial letters stay readable, so there are fewer.
    expect(texts(linear(0, 30_000), 8).length).toBeLessThan(texts(linear(0, 30_000), 30).length)
    const values = (radius: number) => dialFace([linear(0, 100)], radius).ticks.map((t) => t.value)
    expect(values(25)).toContain(51)
    expect(values(8)).not.toContain(51)
    expect(values(8).every((v) => Number.isInteger(v / 2.5) || Number.isInteger(v / 2))).toBe(true)
  })

  it('has each mark where the needle goes', () => {
    const scale: Scale = {
      points: [
        { value: 0, deg: -130 },
        { value: 600, deg: 40 },
        { value: 800, deg: 118 },
      ],
      smooth: true,
    }
    const angle = needleAngle(scale.points, true)
    for (const { value, from } of dialFace([scale], 20).ticks)
      expect((Math.atan2(from.x, -from.y) * 180) / Math.PI).toBeCloseTo(angle(value), 6)
  })

  it('has one scale for needles that share it, and an inner one for another', () => {
    const one = dialFace([linear(0, 500), linear(0, 500)], 25)
    expect(one.arcs).toHaveLength(1)
    const two = dialFace([linear(0, 500), linear(0, 10)], 25)
    expect(two.arcs).toHaveLength(2)
    expect(wrong(two, 25)).toEqual([])
  })

  it('ends with a mark where the scale does, also between two numbers', () => {
    const { ticks, numbers } = dialFace([linear(3, 73)], 18)
    expect(ticks.map((t) => t.value)).toEqual(expect.arrayContaining([3, 73]))
    expect(numbers.map((n) => n.value)).not.toContain(73)
  })

  it('of any scale has nothing on anything else', () => {
    const value = fc.double({ min: -1000, max: 30_000, noNaN: true })
    const scale = fc
      .tuple(
        value,
        fc.array(
          fc.tuple(
            fc.double({ min: 0.5, max: 3000, noNaN: true }),
            fc.double({ min: 5, max: 120, noNaN: true }),
          ),
          { minLength: 1, maxLength: 6 },
        ),
      )
      .map(([from, gaps]): Scale => {
        const points = [{ value: from, deg: -150 }]
        for (const [dv, dd] of gaps) {
          const last = points.at(-1) ?? { value: 0, deg: 0 }
          points.push({ value: last.value + dv, deg: Math.min(170, last.deg + dd) })
        }
        return { points }
      })
    fc.assert(
      fc.property(scale, fc.double({ min: 12, max: 40, noNaN: true }), (s, radius) => {
        expect(wrong(dialFace([s], radius), radius)).toEqual([])
      }),
      { numRuns: 150 },
    )
  })

  it('of a needle that has no points yet is empty', () => {
    expect(dialFace([{ points: [] }], 20)).toEqual({ ticks: [], numbers: [], arcs: [] })
  })
})
