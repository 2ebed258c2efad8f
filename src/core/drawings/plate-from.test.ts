import { describe, expect, it } from 'vitest'
import { plate as plateRow } from '../../../tests/plates'
import { boundsOf } from '../geometry/boxes'
import { type Contour, circle, type Point, point, polygon, rectangle } from '../geometry/contour'
import { flattened } from '../geometry/flatten'
import { contoursOf } from '../geometry/read-path-data'
import { areaOf } from '../geometry/rings'
import type { PanelRow } from '../rig/rows'
import type { Drawing, FoundLayer, FoundLine } from './drawing'
import { joined } from './joined'
import { plateFrom, type ReadPlate, type Role } from './plate-from'
import { taken } from './taken'

const found = (...contours: Contour[]): FoundLine[] => contours.map((contour) => ({ contour, layer: '' }))
const drawing = (lines: readonly FoundLine[]): Drawing => ({
  lines,
  letters: [],
  layers: [...new Set(lines.map((l) => l.layer))].map((name) => ({ name, unseen: null })),
  left: [],
  unitMm: 1,
  pixelMm: null,
})
const choices = { unitMm: 1, roles: new Map<string, Role>(), frames: 0 }
const plate = (...contours: Contour[]): ReadPlate => {
  const made = plateFrom(drawing(found(...contours)), choices)
  if (made.plate === null) throw new Error(made.problem ?? '')
  return made.plate
}

/** A rounded rectangle taken apart into its lines and arcs, some of them the other way round, in any order. */
const pieces = (c: Contour): Contour[] => {
  let from = c.start
  const open = c.segments.map((s): Contour => {
    const piece: Contour = { start: from, segments: [s], closed: false }
    from = s.to
    return piece
  })
  const turned = open.map((p, i): Contour => {
    const [s] = p.segments
    if (!s || i % 2 === 0) return p
    return {
      start: s.to,
      segments: [s.is === 'arc' ? { ...s, to: p.start, clockwise: !s.clockwise } : { ...s, to: p.start }],
      closed: false,
    }
  })
  return turned.sort((a, b) => a.start.x * 7 - b.start.x * 7 + a.start.y - b.start.y)
}

describe('joining', () => {
  it('makes one closed line of pieces in any order and direction, arcs and all', () => {
    const whole = rectangle(point(50, 30), 60, 40, 5)
    const [one, ...more] = joined(found(...pieces(whole)))
    expect(more).toEqual([])
    expect(one?.contour.closed).toBe(true)
    expect(boundsOf(one?.contour as Contour)).toEqual(boundsOf(whole))
    expect(Math.abs(areaOf(flattened(one?.contour as Contour, 0.001)))).toBeCloseTo(
      2400 - (4 - Math.PI) * 25,
      1,
    )
  })

  it('bridges ends that almost meet, not those that do not, and never across layers', () => {
    const almost = found(
      polygon([point(0, 0), point(10, 0), point(10, 10)], false),
      polygon([point(10.015, 10), point(0, 10), point(0, 0.01)], false),
    )
    expect(joined(almost).map((f) => f.contour.closed)).toEqual([true])
    const apart = found(
      polygon([point(0, 0), point(10, 0), point(10, 10)], false),
      polygon([point(10.5, 10), point(0, 10), point(0, 0)], false),
    )
    expect(joined(apart).some((f) => f.contour.closed)).toBe(false)
    const [a, b] = almost as [FoundLine, FoundLine]
    expect(joined([a, { ...b, layer: 'drill' }]).some((f) => f.contour.closed)).toBe(false)
  })
})

describe('a plate out of lines', () => {
  const edge = rectangle(point(150, 90), 120, 80, 4)

  it('lies with its corner at the origin, with its holes and openings', () => {
    const read = plate(edge, circle(point(100, 60), 2.1), rectangle(point(150, 90), 30, 20))
    expect(read).toMatchObject({ widthMm: 120, heightMm: 80, cornerMm: 4 })
    expect(read.holes).toEqual([{ xMm: 10, yMm: 10, diameterMm: 4.2 }])
    const { windows } = read
    expect(windows).toHaveLength(1)
    expect(boundsOf(contoursOf(windows[0] ?? '')[0] as Contour)).toEqual({
      minX: 45,
      minY: 30,
      maxX: 75,
      maxY: 50,
    })
  })

  it('with an edge that is no plain rectangle keeps that edge', () => {
    const cornerOff = polygon([point(0, 0), point(90, 0), point(100, 10), point(100, 50), point(0, 50)])
    const read = plate(cornerOff)
    expect(read.outline).toBe('M0 0L90 0L100 10L100 50L0 50L0 0Z')
    expect(read).toMatchObject({ widthMm: 100, heightMm: 50, cornerMm: 0 })
    const uneven: Contour = {
      start: point(3, 0),
      closed: true,
      segments:
        contoursOf('M3 0L97 0A3 3 0 0 1 100 3L100 43A7 7 0 0 1 93 50L0 50L0 3A3 3 0 0 1 3 0Z')[0]?.segments ??
        [],
    }
    expect('outline' in plate(uneven)).toBe(true)
  })

  it('in inches is as large as it is', () => {
    const read = plateFrom(drawing(found(polygon([point(0, 0), point(4, 0), point(4, 2), point(0, 2)]))), {
      ...choices,
      unitMm: 25.4,
    })
    expect(read.plate).toMatchObject({ widthMm: 101.6, heightMm: 50.8 })
  })

  it('leaves out, and says, what is drawn twice, lies outside, does not close, or encloses nothing', () => {
    const hole = circle(point(120, 70), 3)
    const made = plateFrom(
      drawing(
        found(
          edge,
          ...[hole, hole, circle(point(120.004, 70.003), 3.004)],
          rectangle(point(400, 90), 10, 10),
          polygon([point(100, 60), point(130, 60)], false),
          rectangle(point(150, 90), 0.05, 0.05),
        ),
      ),
      choices,
    )
    expect(made.plate).toMatchObject({ holes: [{ xMm: 30, yMm: 20, diameterMm: 6 }], windows: [] })
    expect(made.left.map((l) => `${l.count} ${l.why}`)).toEqual(['2 twice', '1 tiny', '1 open', '1 outside'])
  })

  it('closes an edge of single lines although each is drawn twice, some the other way', () => {
    const corners = [point(0, 0), point(90, 0), point(90, 60), point(0, 60)]
    const lines = corners.map((p, i) => polygon([p, corners[(i + 1) % 4] as Point], false))
    const back = lines.map((l) => polygon([l.segments[0]?.to as Point, l.start], false))
    expect(plate(...lines, ...back)).toMatchObject({ widthMm: 90, heightMm: 60 })
  })

  it('takes an opening across the edge along, whichever of its points comes first', () => {
    const across = [point(200, 90), point(220, 90), point(220, 100), point(200, 100)]
    for (let i = 0; i < 4; i++) {
      const turned = [...across.slice(i), ...across.slice(0, i)]
      expect(plate(edge, polygon(turned)).windows).toHaveLength(1)
    }
  })

  it('takes the next smaller line for the edge where a frame is drawn round it', () => {
    const border = rectangle(point(150, 90), 297, 210)
    expect(plate(border, edge)).toMatchObject({ widthMm: 297, windows: { length: 1 } })
    const made = plateFrom(drawing(found(border, edge)), { ...choices, frames: 1 })
    expect(made.plate).toMatchObject({ widthMm: 120, heightMm: 80, windows: [] })
    expect(made.left).toEqual([{ layer: '', what: 'line', why: 'frame', count: 1 }])
    expect(plateFrom(drawing(found(border, edge)), { ...choices, frames: 2 })).toMatchObject({
      plate: null,
      problem: expect.stringContaining('no closed line'),
    })
  })

  it('cuts, engraves or leaves a layer: by its name and the file, or as is chosen', () => {
    const on = (layer: string, unseen: FoundLayer['unseen'] = null) => ({
      lines: [{ contour: circle(point(150, 90), 5), layer }],
      layer: { name: layer, unseen },
    })
    const parts = [on('holes'), on('Engraving'), on('dimensions'), on('old', 'off')]
    const all: Drawing = {
      ...drawing([{ contour: edge, layer: 'plate' }, ...parts.flatMap((p) => p.lines)]),
      layers: [{ name: 'plate', unseen: null }, ...parts.map((p) => p.layer)],
    }
    const made = plateFrom(all, choices)
    expect(made.plate).toMatchObject({ holes: { length: 1 }, engraved: [{ layer: 'Engraving' }] })
    expect(made.left.map((l) => [l.layer, l.why])).toEqual([
      ['dimensions', 'layer'],
      ['old', 'layer'],
    ])
    const other = plateFrom(all, {
      ...choices,
      roles: new Map<string, Role>([
        ['holes', 'leave'],
        ['Engraving', 'cut'],
        ['old', 'engrave'],
      ]),
    })
    expect(other.plate).toMatchObject({ holes: { length: 1 }, engraved: [{ layer: 'old' }] })
    expect(other.left.map((l) => l.layer)).toEqual(['holes', 'dimensions'])
  })

  it('has its letters where they lie on it, at the size of their capitals', () => {
    const read = plateFrom(
      {
        ...drawing(found(edge)),
        letters: [
          { text: 'GEAR', at: point(100, 60), capHeight: 3, deg: 270, anchor: 'middle', layer: '' },
          { text: 'X', at: point(Number.NaN, 0), capHeight: 3, deg: 0, anchor: 'start', layer: '' },
        ],
      },
      choices,
    )
    expect(read.plate?.letters).toEqual([
      { text: 'GEAR', at: { x: 10, y: 10 }, capHeightMm: 3, deg: -90, anchor: 'middle' },
    ])
    expect(read.left).toEqual([{ layer: '', what: 'text', why: 'numbers', count: 1 }])
  })

  it('is not taken where it has more than a plate keeps, or no size that could be one', () => {
    const many = Array.from({ length: 2001 }, (_, i) => circle(point(95 + (i % 50) * 2, 55 + i / 40), 0.4))
    expect(plateFrom(drawing(found(edge, ...many)), choices)).toMatchObject({
      plate: null,
      problem: expect.stringContaining('2001 round holes'),
    })
    expect(plateFrom(drawing(found(edge)), { ...choices, unitMm: 0.001 }).problem).toContain('unit right')
  })
})

describe('taking it', () => {
  it('makes the panel so, keeps what the panel has of its own, and adds texts and lines as legends', () => {
    let ids = 0
    const panel: PanelRow = {
      ...plateRow,
      settings: { holes: [], outline: 'M0 0L9 0L9 9Z', material: 'steel', guides: [{ axis: 'x', atMm: 3 }] },
    }
    const read: ReadPlate = {
      widthMm: 90,
      heightMm: 60,
      cornerMm: 2,
      windows: ['M10 10L20 10L20 20Z'],
      holes: [{ xMm: 5, yMm: 5, diameterMm: 4 }],
      engraved: [{ layer: 'marks', d: 'M30 20L40 25' }],
      letters: [{ text: 'UP', at: point(7, 8), capHeightMm: 3.8, deg: 90, anchor: 'end' }],
    }
    const rows = (texts: boolean) =>
      taken(panel, read, { texts, engraved: true }, () => `new ${++ids}`).map((c) =>
        c.op === 'add' ? c.row : c.op === 'change' ? c.after : null,
      )
    expect(rows(false)).toHaveLength(2)
    const [plate, lines, text] = rows(true)
    expect(plate).toMatchObject({
      widthMm: 90,
      settings: { windows: read.windows, holes: read.holes },
    })
    expect(JSON.stringify(plate)).not.toContain('M0 0L9 0')
    expect(lines).toMatchObject({
      xMm: 30,
      yMm: 20,
      settings: { kind: 'drawing', name: 'marks', d: 'M0 0L10 5' },
    })
    expect(text).toMatchObject({
      xMm: 7,
      yMm: 8,
      settings: { kind: 'text', text: 'UP', sizeMm: 5, anchor: 'end', rotationDeg: 90 },
    })
  })
})
