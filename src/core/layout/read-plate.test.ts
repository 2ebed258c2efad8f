import { describe, expect, it } from 'vitest'
import { boundsOf } from '../geometry/boxes'
import { type Contour, circle, point, polygon, rectangle } from '../geometry/contour'
import { flattened } from '../geometry/flatten'
import { contoursOf } from '../geometry/read-path-data'
import { areaOf } from '../geometry/rings'
import { type Found, joined, plateFrom } from './read-plate'

const found = (...contours: Contour[]): Found[] => contours.map((contour) => ({ contour, layer: '' }))
const plate = (...contours: Contour[]) => plateFrom({ found: found(...contours), ignored: [], unitMm: 1 }, 1)

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
    const [a, b] = almost as [Found, Found]
    expect(joined([a, { ...b, layer: 'drill' }]).some((f) => f.contour.closed)).toBe(false)
  })
})

describe('a plate out of lines', () => {
  const edge = rectangle(point(150, 90), 120, 80, 4)

  it('lies with its corner at the origin, with its holes and openings', () => {
    const read = plate(edge, circle(point(100, 60), 2.1), rectangle(point(150, 90), 30, 20))
    expect(read).toMatchObject({ widthMm: 120, heightMm: 80, cornerMm: 4, ignored: [] })
    expect('holes' in read && read.holes).toEqual([{ xMm: 10, yMm: 10, diameterMm: 4.2 }])
    const windows = 'windows' in read ? read.windows : []
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
    expect('outline' in read && read.outline).toBe('M0 0L90 0L100 10L100 50L0 50L0 0Z')
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
    const read = plateFrom(
      {
        found: found(polygon([point(0, 0), point(4, 0), point(4, 2), point(0, 2)])),
        ignored: [],
        unitMm: null,
      },
      25.4,
    )
    expect(read).toMatchObject({ widthMm: 101.6, heightMm: 50.8 })
  })
})
