import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoRig } from '../../../tests/rigs'
import { bandColours, captionSides, type NeedleFace, numberDivisors } from '../aspects/face'
import { kindOf } from '../catalogue/own-kind'
import { settingsOf } from '../rig/part-settings'
import { rowsOf } from '../rig/rig'
import { needleAngle } from '../signal/needle'
import { dialFace } from './dial-face'
import { type DialFace, nearest, type Scale } from './dial-shapes'

/** What is wrong with a face, in words. */
const wrong = ({ ticks, numbers, captions, bands }: DialFace, radius: number): string[] => {
  const found: string[] = []
  const stretches = bands.filter((b) => b.from !== b.to)
  for (const [i, a] of stretches.entries())
    for (const b of stretches.slice(i + 1))
      if (a.inner === b.inner && a.from < b.to - 1e-9 && b.from < a.to - 1e-9)
        found.push('a band lies on another')
  if (bands.some((b) => b.outer > radius)) found.push('a band leaves the dial')
  const words = [...numbers, ...captions]
  for (const [i, a] of words.entries()) {
    for (const b of words.slice(i + 1))
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

it('a box is as near to the middle as its nearest edge, and no nearer than the middle', () => {
  expect(nearest({ minX: 3, maxX: 5, minY: -1, maxY: 1 })).toBe(3)
  expect(nearest({ minX: -1, maxX: 1, minY: -6, maxY: -4 })).toBe(4)
  expect(nearest({ minX: 3, maxX: 5, minY: 4, maxY: 6 })).toBe(5)
  expect(nearest({ minX: -1, maxX: 1, minY: -1, maxY: 1 })).toBe(0)
})

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

  it('of any design has nothing on anything else, and says what it had to leave out', () => {
    const size = fc.double({ min: 1.2, max: 8, noNaN: true })
    const value = fc.double({ min: -20, max: 140, noNaN: true })
    const face: fc.Arbitrary<NeedleFace> = fc.record(
      {
        step: fc.constantFrom(0.001, 1, 2.5, 5, 7, 20, 100, 1000),
        divisions: fc.integer({ min: 1, max: 20 }),
        divideBy: fc.constantFrom(...numberDivisors),
        sizeMm: size,
        bands: fc.array(
          fc.tuple(value, value, fc.constantFrom(...bandColours)).map(([a, b, colour]) => ({
            ...{ from: Math.min(a, b), to: Math.max(a, b), colour },
          })),
          { maxLength: 5 },
        ),
        captions: fc.array(
          fc.record({
            text: fc.constantFrom('TORQUE', '%', 'OIL TEMP', 'A'),
            sizeMm: size,
            side: fc.constantFrom(...captionSides),
          }),
          { maxLength: 4 },
        ),
      },
      { requiredKeys: [] },
    )
    fc.assert(
      fc.property(face, fc.double({ min: 12, max: 40, noNaN: true }), fc.boolean(), (f, radius, second) => {
        const scales = [{ ...linear(0, 120), face: f }, ...(second ? [{ ...linear(0, 9), face: f }] : [])]
        const made = dialFace(scales, radius)
        expect(wrong(made, radius)).toEqual([])
        const asked = scales.reduce((n, s) => n + (s.face.captions?.length ?? 0), 0)
        const said = made.problems.filter((p) => p.includes('” finds no room')).length
        expect(made.captions.length + said).toBe(asked)
      }),
      { numRuns: 200 },
    )
  })

  it('has marks and numbers as they are asked for, where they find room', () => {
    const of = (face: NeedleFace, radius = 25) => dialFace([{ ...linear(0, 3000), face }], radius)
    const made = of({ step: 500, divisions: 5, divideBy: 100 })
    expect(made.numbers.map((n) => n.text)).toEqual(['0', '5', '10', '15', '20', '25', '30'])
    expect(made.ticks).toHaveLength(31)
    expect(made.problems).toEqual([])
    expect(of({ noNumbers: true }).numbers).toEqual([])
    expect(of({ step: 100, divisions: 1 }).problems).toEqual([
      'Not all numbers find room at every 100: every 500 does it.',
    ])
    expect(of({ step: 0.5 }).problems).toEqual([
      'Marks cannot be told apart at every 0.500: every 500 does it.',
    ])
    expect(of({ step: 5000 }).numbers.map((n) => n.value)).toEqual([0])
    const late = dialFace([{ ...linear(1000, 3000), face: { step: 5000 } }], 25)
    expect(late.problems).toEqual(['The scale has no multiple of 5000: every 500 does it.'])
    expect(late.numbers.length).toBe(5)
  })

  it('has its bands along the values they are for, cut where they would lie on another or beyond', () => {
    const made = dialFace(
      [
        {
          ...linear(0, 100),
          face: {
            bands: [
              { from: 60, to: 120, colour: 'red' },
              { from: 0, to: 70, colour: 'green' },
              { from: 90, to: 90, colour: 'white' },
            ],
          },
        },
      ],
      20,
    )
    expect(made.bands.map((b) => [b.colour, Math.round(b.from), Math.round(b.to)])).toEqual([
      ['green', -130, 52],
      ['red', 52, 130],
      ['white', 104, 104],
    ])
    expect(made.problems).toEqual([
      'The red band reaches beyond the scale, and ends with it.',
      'The red band lies on another up to 70: begin it there.',
    ])
  })

  it('of a needle that turns several times is its first turn, closed', () => {
    const turns = (last: number, deg: number): Scale => ({
      points: [
        { value: 0, deg: 0 },
        { value: last, deg },
      ],
      face: { divideBy: 100 },
    })
    const made = dialFace([turns(10_000, 3600)], 24)
    expect(made.numbers.map((n) => n.text)).toEqual(['0', '1', '2', '3', '4', '5', '6', '7', '8', '9'])
    expect(made.arcs).toEqual([{ radius: 24 * 0.94, from: 0, to: 360 }])
    expect(made.problems).toEqual([])
    expect(wrong(made, 24)).toEqual([])
    const bent = turns(10_000, 3600)
    const uneven = {
      ...bent,
      points: [...bent.points.slice(0, 1), { value: 3000, deg: 900 }, ...bent.points.slice(1)],
    }
    expect(dialFace([uneven], 24).problems[0]).toContain('turns are not alike')
  })

  it('of a needle that has no points yet is empty', () => {
    expect(dialFace([{ points: [] }], 20)).toMatchObject({ ticks: [], numbers: [], arcs: [], problems: [] })
  })
})
