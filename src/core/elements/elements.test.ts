import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type BarSettings, bar, filled, stretch } from './bar'
import { cardMarks } from './compass'
import { type ElementKindName, elementKinds, elementSettings, livePropertiesOf } from './elements'
import { type HorizonSettings, horizon, horizonAt, pitchLines } from './horizon'
import { type LampsSettings, lampColours, lampPlaces, lamps } from './lamps'
import { angleOf, type NeedleElement, needle, needlePath } from './needle'
import { scaleMarks } from './scale-marks'
import { arcPath } from './shapes'
import { nearestRound, type TapeSettings, tape, tapeMarks } from './tape'
import { TrendKeeper, trendPath, trendScale } from './trend'

const kinds = Object.keys(elementKinds) as ElementKindName[]

describe('every kind of element', () => {
  it.each(kinds)(
    '%s begins as something that its own schema takes, with a range and properties that follow',
    (kind) => {
      const { settings, width, height } = elementKinds[kind].fresh()
      expect(elementSettings.safeParse(settings).error?.issues).toBeUndefined()
      expect(settings.kind).toBe(kind)
      expect(width).toBeGreaterThan(0)
      expect(height).toBeGreaterThanOrEqual(0)
      const [least, most] = elementKinds[kind].range(settings)
      expect(most).toBeGreaterThan(least)
      const properties = livePropertiesOf(settings).map((l) => l.property)
      expect(new Set(properties).size).toBe(properties.length)
      expect(properties).toEqual(expect.arrayContaining(['visible', 'blink', 'colour', 'x', 'angle']))
    },
  )

  it('refuses what it has not', () => {
    const { settings } = elementKinds.bar.fresh()
    for (const bad of [
      { ...settings, most: -1 },
      { ...settings, colour: 'red' },
      { ...settings, follows: { volume: { variable: null, show: '1' } } },
      { ...settings, unheard: 1 },
      { ...settings, kind: 'bagpipe' },
    ])
      expect(elementSettings.safeParse(bad).success).toBe(false)
  })
})

const extent = { width: 200, height: 100 }

describe('a bar', () => {
  const of = (more: Partial<BarSettings>): BarSettings => ({
    ...(bar.fresh().settings as BarSettings),
    ...more,
  })
  // By hand, of a bar of 200 × 100 dots from 0 to 100.
  it.each<[string, Partial<BarSettings>, number, [number, number, number, number]]>([
    ['a quarter to the right', {}, 25, [0, 0, 50, 100]],
    ['to the left', { along: 'left' }, 25, [150, 0, 50, 100]],
    ['upwards', { along: 'up' }, 25, [0, 75, 200, 25]],
    ['downwards', { along: 'down' }, 25, [0, 0, 200, 25]],
    ['from the end', { grows: 'end' }, 25, [50, 0, 150, 100]],
    ['from the middle, below it', { grows: 'middle' }, 25, [50, 0, 50, 100]],
    ['from the middle, above it', { grows: 'middle' }, 75, [100, 0, 50, 100]],
    ['from zero', { grows: 'zero', least: -100 }, 50, [100, 0, 50, 100]],
    ['from zero, below it', { grows: 'zero', least: -100 }, -50, [50, 0, 50, 100]],
    ['from a zero that it has not', { grows: 'zero', least: 20 }, 60, [0, 0, 100, 100]],
    ['beyond its end', {}, 400, [0, 0, 200, 100]],
    ['before its beginning', {}, -400, [0, 0, 0, 100]],
  ])('%s', (_, more, v, [x, y, width, height]) => {
    expect(filled(of(more), extent, v)).toEqual({ x, y, width, height })
  })

  it('is never outside its box, and as long as what it shows', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('right' as const, 'left' as const, 'up' as const, 'down' as const),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (along, a, b) => {
          const r = stretch(along, extent, a, b)
          expect(r.x).toBeGreaterThanOrEqual(-1e-9)
          expect(r.y).toBeGreaterThanOrEqual(-1e-9)
          expect(r.x + r.width).toBeLessThanOrEqual(extent.width + 1e-9)
          expect(r.y + r.height).toBeLessThanOrEqual(extent.height + 1e-9)
          const long =
            along === 'right' || along === 'left' ? r.width / extent.width : r.height / extent.height
          expect(long).toBeCloseTo(Math.abs(a - b))
        },
      ),
    )
  })
})

describe('marks of a scale', () => {
  it('stand at multiples, the long ones with their number', () => {
    expect(scaleMarks(-1, 2, 0.5, 1)).toEqual([
      { value: -1, long: true, words: '−1' },
      { value: -0.5, long: false, words: null },
      { value: 0, long: true, words: '0' },
      { value: 0.5, long: false, words: null },
      { value: 1, long: true, words: '1' },
      { value: 1.5, long: false, words: null },
      { value: 2, long: true, words: '2' },
    ])
    expect(scaleMarks(0, 0.3, 0.1, 0.1).map((m) => m.words)).toEqual(['0.0', '0.1', '0.2', '0.3'])
  })

  it('are none where there would be more than anybody can tell apart, or none are asked for', () => {
    expect(scaleMarks(0, 1e6, 1, 10)).toEqual([])
    expect(scaleMarks(0, 100, 0, 0)).toEqual([])
    expect(scaleMarks(5, 5, 1, 1)).toEqual([])
  })
})

describe('a needle', () => {
  it('goes by its points as a real one does', () => {
    const angle = angleOf(needle.fresh().settings as NeedleElement)
    expect([angle(0), angle(50), angle(100), angle(150)]).toEqual([-135, 0, 135, 135])
  })

  it.each(['line', 'wedge', 'arrow'] as const)(
    'as %s points straight up, and is as long as it is said to be',
    (shape) => {
      const numbers = needlePath(shape, 90)
        .match(/-?[\d.]+/g)
        ?.map(Number) as number[]
      expect(Math.min(...numbers)).toBe(-90)
      expect(Math.max(...numbers)).toBeLessThan(20)
    },
  )
})

describe('a tape', () => {
  const s: TapeSettings = {
    ...(tape.fresh().settings as TapeSettings),
    span: 100,
    marksEvery: 10,
    labelsEvery: 20,
  }
  it('has marks a span and a half to each side, and none beyond its end', () => {
    const values = tapeMarks({ ...s, least: 0 }, 60, 1).map((m) => m.value)
    expect(values[0]).toBe(0)
    expect(values.at(-1)).toBe(210)
    expect(tapeMarks({ ...s, least: null }, 60, 1)[0]?.value).toBe(-90)
  })

  it('that goes round counts on, and says what is read', () => {
    const marks = tapeMarks({ ...s, least: null, round: 360 }, 350, 0.2)
    expect(marks.filter((m) => m.long).map((m) => [m.value, m.words])).toEqual([
      [280, '280'],
      [300, '300'],
      [320, '320'],
      [340, '340'],
      [360, '0'],
      [380, '20'],
      [400, '40'],
      [420, '60'],
    ])
  })

  it('takes the shorter way round', () => {
    expect(nearestRound(360, 350, 10)).toBe(370)
    expect(nearestRound(360, 10, 350)).toBe(-10)
    expect(nearestRound(360, 730, 20)).toBe(740)
    expect(nearestRound(null, 350, 10)).toBe(10)
    fc.assert(
      fc.property(
        fc.double({ min: -5000, max: 5000, noNaN: true }),
        fc.double({ min: 0, max: 360, noNaN: true }),
        (from, to) => {
          const next = nearestRound(360, from, to)
          expect(Math.abs(next - from)).toBeLessThanOrEqual(180 + 1e-6)
          const off = Math.abs((next - to) / 360 - Math.round((next - to) / 360))
          expect(off).toBeLessThan(1e-6)
        },
      ),
    )
  })
})

describe('a compass and a horizon', () => {
  it('speak in tens of degrees, or by the names of the quarters', () => {
    const words = (letters: boolean) => cardMarks(letters).flatMap((m) => m.words ?? [])
    expect(words(true)).toEqual(['N', '3', '6', 'E', '12', '15', 'S', '21', '24', 'W', '30', '33'])
    expect(words(false)[3]).toBe('9')
    expect(cardMarks(true)).toHaveLength(72)
  })

  const s = horizon.fresh().settings as HorizonSettings
  it('nose up, the horizon lies lower, and straight up it stays', () => {
    expect(horizonAt(s, { width: 200, height: 100 }, 10)).toBe(20)
    expect(horizonAt(s, { width: 200, height: 100 }, -25)).toBe(-50)
    expect(horizonAt(s, { width: 200, height: 100 }, 200)).toBe(180)
  })

  it('has long lines with figures, and short ones between', () => {
    const up = pitchLines(s).filter((l) => l.deg > 0 && l.deg <= 20)
    expect(up).toEqual([
      { deg: 5, half: 0.08, words: null },
      { deg: 10, half: 0.16, words: '10' },
      { deg: 15, half: 0.08, words: null },
      { deg: 20, half: 0.16, words: '20' },
    ])
    expect(pitchLines({ ...s, linesEvery: 0 })).toEqual([])
  })
})

describe('a strip of lamps', () => {
  const s: LampsSettings = { ...(lamps.fresh().settings as LampsSettings), lamps: 10 }
  it('fills with its value, each in the colour of what it stands for', () => {
    expect(lampColours(s, 0).lamps.every((c) => c === null)).toBe(true)
    const half = lampColours(s, 50).lamps
    expect(half.filter((c) => c !== null)).toHaveLength(5)
    expect(lampColours(s, 100).lamps).toEqual([
      ...Array(6).fill('#3fbf6a'),
      ...Array(2).fill('#f2a93b'),
      '#e0483c',
      '#e0483c',
    ])
    expect(lampColours({ ...s, blinkAbove: 90 }, 95).blinkHz).toBeGreaterThan(0)
    expect(lampColours(s, Number.NaN).lamps.every((c) => c === null)).toBe(true)
  })

  it('lies across or stands upright, with its gaps, within its box', () => {
    const across = lampPlaces({ ...s, gapPx: 5 }, { width: 245, height: 20 })
    expect(across[0]).toEqual({ x: 0, y: 0, width: 20, height: 20 })
    expect(across[9]).toEqual({ x: 225, y: 0, width: 20, height: 20 })
    const upright = lampPlaces({ ...s, gapPx: 5 }, { width: 20, height: 245 })
    expect(upright[0]).toEqual({ x: 0, y: 225, width: 20, height: 20 })
    expect(upright[9]?.y).toBe(0)
  })
})

describe('an arc', () => {
  const box = { width: 100, height: 100, widthPx: 10 }
  it('begins and ends where it is said to, clockwise from straight up', () => {
    const ends = (d: string) => {
      const n = d.match(/-?[\d.]+/g)?.map(Number) as number[]
      return [n.slice(0, 2), n.slice(-2)]
    }
    expect(ends(arcPath(box, 0, 90))).toEqual([
      [50, 5],
      [95, 50],
    ])
    expect(ends(arcPath(box, 0, -90))[1]).toEqual([5, 50])
  })

  it('without length is nothing, and never more than a whole turn', () => {
    expect(arcPath(box, 40, 40)).toBe('')
    expect(arcPath(box, 0, 5000)).toBe(arcPath(box, 0, 360))
  })
})

describe('a trend', () => {
  const s = { seconds: 10, least: 0, most: 100 }
  it('steps from value to value, now at its right edge', () => {
    const points = [
      { at: 0, value: 0 },
      { at: 5000, value: 50 },
      { at: 8000, value: 100 },
    ]
    expect(trendPath(s, { width: 100, height: 100 }, points, 10_000)).toBe(
      'M0.0 100.0H50.0V50.0H80.0V0.0H100.0',
    )
  })

  it('breaks where there was none', () => {
    const points = [
      { at: 0, value: 50 },
      { at: 4000, value: null },
      { at: 6000, value: 50 },
    ]
    expect(trendPath(s, { width: 100, height: 100 }, points, 10_000)).toBe('M0.0 50.0H40.0M60.0 50.0H100.0')
  })

  it('of many values in one column shows the least and the most, in no more steps than there are dots', () => {
    const points = Array.from({ length: 6000 }, (_, i) => ({
      at: (i * 10_000) / 6000,
      value: i % 2 === 0 ? 20 : 80,
    }))
    const d = trendPath(s, { width: 100, height: 100 }, points, 10_000)
    expect(d.match(/H/g)?.length).toBeLessThan(120)
    const heights = [...d.matchAll(/V([\d.]+)/g)].map((m) => Number(m[1]))
    expect(Math.min(...heights)).toBe(20)
    expect(Math.max(...heights)).toBe(80)
  })

  it('keeps what it shows, and for hours no more', () => {
    const keeper = new TrendKeeper(10_000)
    for (let i = 0; i < 200_000; i++) keeper.add(i % 97, i * 16)
    expect(keeper.all.length).toBeLessThan(4200)
    expect(keeper.all[0]?.at).toBeLessThanOrEqual(200_000 * 16 - 10_000)
  })

  it('has a scale that follows what is seen, with some room, also where nothing moves', () => {
    expect(
      trendScale({ least: null, most: null }, [
        { at: 0, value: 10 },
        { at: 1, value: 20 },
      ]),
    ).toEqual([9.2, 20.8])
    const [low, high] = trendScale({ least: null, most: null }, [{ at: 0, value: 5 }])
    expect(low).toBeLessThan(5)
    expect(high).toBeGreaterThan(5)
    expect(trendScale({ least: 0, most: null }, [])).toEqual([0, 1.08])
  })
})
