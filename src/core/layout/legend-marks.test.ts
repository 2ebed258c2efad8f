import { describe, expect, it } from 'vitest'
import { legendAt, partAt } from '../../../tests/plates'
import { boxOf } from '../geometry/boxes'
import { distance, point } from '../geometry/contour'
import { capHeight, textWidth } from '../lettering/lettering'
import type { LegendRow } from '../rig/rows'
import { atAngle, type EngravedMark, legendMarks, markOutline, positionAngles } from './legend-marks'

const texts = (marks: readonly EngravedMark[]) => marks.flatMap((m) => (m.is === 'text' ? [m] : []))
const lines = (marks: readonly EngravedMark[]) => marks.flatMap((m) => (m.is === 'lines' ? m.contours : []))
const as = (settings: LegendRow['settings'], partId: string | null = null): LegendRow => ({
  ...legendAt('l', '', 20, 30, partId),
  settings,
})
const middleOf = (mark: EngravedMark) => {
  const { minX, minY, maxX, maxY } = boxOf(markOutline(mark))
  return point((minX + maxX) / 2, (minY + maxY) / 2)
}

describe('words round a knob', () => {
  const labels = { '1': 'OFF', '2': 'L', '3': 'BOTH', '4': 'R' }
  const ring = as({ kind: 'ring', radiusMm: 14, sizeMm: 2.5, ticks: true }, 'knob')

  it.each([
    ['rotary-4', [-45, -15, 15, 45]],
    ['rotary-5-36deg', [-72, -36, 0, 36, 72]],
    ['rotary-3-45deg', [-45, 0, 45]],
  ])('of %s stand where it clicks: %j', (kind, degrees) => {
    const knob = partAt('knob', kind, 60, 60, { settings: { labels } })
    expect(positionAngles(knob).map((p) => p.deg)).toEqual(degrees)
    const words = texts(legendMarks(ring, knob))
    expect(words).toHaveLength(degrees.length)
    for (const [i, word] of words.entries()) {
      const at = middleOf(word)
      const deg = (Math.atan2(at.x - 60, 60 - at.y) * 180) / Math.PI
      expect(deg).toBeCloseTo(degrees[i] as number, 0)
      // No word reaches into the knob.
      for (const corner of markOutline(word)) expect(distance(corner, point(60, 60))).toBeGreaterThan(12.5)
    }
  })

  it('turn with the part, have ticks of their own, and are called by their position where nothing is said', () => {
    const knob = partAt('knob', 'rotary-4', 60, 60, { rotationDeg: 90, settings: { labels: { '1': 'OFF' } } })
    expect(positionAngles(knob).map((p) => p.deg)).toEqual([45, 75, 105, 135])
    const marks = legendMarks(ring, knob)
    expect(texts(marks).map((t) => t.text)).toEqual(['OFF', '2', '3', '4'])
    for (const [i, tick] of lines(marks).entries()) {
      const outer = atAngle(point(60, 60), 45 + i * 30, 14 - 0.8)
      expect(distance(tick.segments[0]?.to ?? point(0, 0), outer)).toBeLessThan(1e-6)
    }
    const { ticks: _none, ...rest } = { kind: 'ring', radiusMm: 14, sizeMm: 2.5, ticks: true } as const
    expect(lines(legendMarks(as({ ...rest, ticks: false }, 'knob'), knob))).toEqual([])
  })

  it('are none for what does not turn, or is gone', () => {
    expect(legendMarks(ring, partAt('knob', 'toggle-2', 60, 60))).toEqual([])
    expect(legendMarks(ring, undefined)).toEqual([])
  })
})

describe('other legends', () => {
  it('a frame is open just where its title stands', () => {
    const frame = { kind: 'frame', title: 'FUEL', sizeMm: 3, widthMm: 60, heightMm: 40 } as const
    const [line] = lines(legendMarks(as(frame), undefined))
    const gap = textWidth('FUEL', 3) + 3
    expect(line?.closed).toBe(false)
    expect(line?.start.x).toBeCloseTo(20 + (60 - gap) / 2, 6)
    expect(line?.segments.at(-1)?.to.x).toBeCloseTo(20 + (60 + gap) / 2, 6)
    const [title] = texts(legendMarks(as(frame), undefined))
    expect(title && middleOf(title).y).toBeCloseTo(30, 6)
    expect(title && middleOf(title).x).toBeCloseTo(50, 6)
    expect(lines(legendMarks(as({ ...frame, title: '' }), undefined))[0]?.closed).toBe(true)
  })

  it('a text takes the room of its capitals, wherever it is held and however it is turned', () => {
    const text = { kind: 'text', text: 'OIL', sizeMm: 4, anchor: 'start' } as const
    const of = (s: LegendRow['settings']) => {
      const [mark] = legendMarks(as(s), undefined)
      return boxOf(mark ? markOutline(mark) : [])
    }
    const width = textWidth('OIL', 4)
    expect(of(text).minX).toBeCloseTo(20, 6)
    expect(of(text).maxX).toBeCloseTo(20 + width, 6)
    expect(of(text).minY).toBeCloseTo(30 - 4 * capHeight(), 6)
    expect(of({ ...text, anchor: 'end' }).maxX).toBeCloseTo(20, 6)
    expect(of({ ...text, anchor: 'middle' }).minX).toBeCloseTo(20 - width / 2, 6)
    const upright = of({ ...text, rotationDeg: 90 })
    expect(upright.maxY - upright.minY).toBeCloseTo(width, 6)
    expect(textWidth('OIL', 4, 'mono')).toBeCloseTo(3 * 2.4 + 0.5, 6)
  })

  it('lines and ticks are as long as they say', () => {
    const [line] = lines(legendMarks(as({ kind: 'line', dxMm: 3, dyMm: 4 }), undefined))
    expect(distance(line?.start ?? point(0, 0), line?.segments[0]?.to ?? point(0, 0))).toBeCloseTo(5, 9)
    const [tick] = lines(legendMarks(as({ kind: 'tick', lengthMm: 7 }), undefined))
    expect(tick?.segments[0]?.to).toEqual(point(27, 30))
  })
})
