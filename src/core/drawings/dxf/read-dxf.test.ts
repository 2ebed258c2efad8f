import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { boxes, drawing, left, problemOf, rounded } from '../../../../tests/drawings/found'
import { boundsOf } from '../../geometry/boxes'
import { asCircle, type Contour, distance, type Point } from '../../geometry/contour'
import { flattened } from '../../geometry/flatten'
import { areaOf } from '../../geometry/rings'
import type { FoundLine } from '../drawing'
import { readDxf } from './read-dxf'

/** Pairs of group codes and values, as a DXF file has them. */
const dxf = (
  entities: readonly (readonly (string | number)[])[],
  header: readonly (string | number)[] = [],
) =>
  [
    ...[0, 'SECTION', 2, 'HEADER', ...header, 0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES'],
    ...entities.flat(),
    ...[0, 'ENDSEC', 0, 'EOF'],
  ].join('\n')

const polyline = (closed: boolean, ...vertices: [x: number, y: number, bulge?: number][]) => [
  ...[0, 'LWPOLYLINE', 8, 'cut', 90, vertices.length, 70, closed ? 1 : 0],
  ...vertices.flatMap(([x, y, bulge]) => [10, x, 20, y, ...(bulge === undefined ? [] : [42, bulge])]),
]

describe('a DXF file', () => {
  it('gives lines, circles and arcs, with y turned downwards', () => {
    const text = dxf([
      [0, 'LINE', 8, 'cut', 10, 0, 20, 0, 11, 10, 21, 5],
      [0, 'CIRCLE', 8, 'drill', 10, 20, 20, 10, 40, 3],
      [0, 'ARC', 8, 'cut', 10, 0, 20, 0, 40, 10, 50, 0, 51, 90],
    ])
    expect(boxes(readDxf(text))).toEqual([
      [0, -5, 10, 0],
      [17, -13, 23, -7],
      // A quarter of a circle from the right to the top, which is the way of the smaller y.
      [0, -10, 10, 0],
    ])
    expect(drawing(readDxf(text)).lines.map((f) => f.layer)).toEqual(['cut', 'drill', 'cut'])
  })

  it('gives polylines closed and open, with bulges as true arcs on the right side', () => {
    const half = drawing(readDxf(dxf([polyline(true, [0, 0, 1], [10, 0, 1])]))).lines[0]
    // Two half circles make a whole one.
    expect(half && asCircle(half.contour)).toMatchObject({ radius: 5 })
    // A bulge above zero lies to the right of the way, a negative one to the left; y upwards in the file.
    expect(boxes(readDxf(dxf([polyline(false, [0, 0, 1], [10, 0])])))).toEqual([[0, 0, 10, 5]])
    expect(boxes(readDxf(dxf([polyline(false, [0, 0, -1], [10, 0])])))).toEqual([[0, -5, 10, 0]])
    const open = drawing(readDxf(dxf([polyline(false, [0, 0], [10, 0], [10, 10])]))).lines[0]
    expect(open?.contour).toMatchObject({ closed: false })
    expect(open?.contour.segments).toHaveLength(2)
    expect(drawing(readDxf(dxf([polyline(true, [0, 0])]))).lines).toEqual([])
  })

  it('gives ellipses whole and in part, turned as they are', () => {
    const ellipse = (from: number, to: number) => [
      ...[0, 'ELLIPSE', 8, 'cut', 10, 50, 20, 20, 11, 0, 21, 10, 40, 0.5, 41, from, 42, to],
    ]
    // Its long half lies upwards: 10 high, 5 wide to either side.
    expect(boxes(readDxf(dxf([ellipse(0, 2 * Math.PI)])))).toEqual([[45, -30, 55, -10]])
    const [part] = boxes(readDxf(dxf([ellipse(0, Math.PI / 2)])))
    expect(part).toEqual([45, -30, 50, -20])
  })

  it('gives splines as the same curve, and leaves out those that cannot be', () => {
    const spline = (knots: readonly number[]) => [
      ...[0, 'SPLINE', 8, 'cut', 70, 8, 71, 3, 72, knots.length, 73, 4],
      ...knots.flatMap((k) => [40, k]),
      ...[10, 0, 20, 0, 10, 0, 20, 10, 10, 10, 20, 10, 10, 10, 20, 0],
    ]
    const [one] = drawing(readDxf(dxf([spline([0, 0, 0, 0, 1, 1, 1, 1])]))).lines
    expect(one?.contour.segments).toHaveLength(1)
    // The middle of that curve is three quarters up.
    expect(one && boundsOf(one.contour).minY).toBeCloseTo(-7.5, 2)
    const read = drawing(readDxf(dxf([spline([0, 1])])))
    expect([read.lines, left(read)]).toEqual([[], ['1 SPLINE spline']])
  })

  it.each([
    [1, 25.4],
    [4, 1],
    [5, 10],
    [6, 1000],
    [2, 304.8],
    [14, 100],
    [0, null],
    [17, null],
  ])('of unit %i is in so many millimetres: %s', (unit, mm) => {
    const read = readDxf(dxf([[0, 'CIRCLE', 8, '0', 10, 0, 20, 0, 40, 1]], [9, '$INSUNITS', 70, unit]))
    expect(drawing(read).unitMm).toBe(mm)
  })

  it('is refused with a sentence when it is binary, no DXF, empty, or far too large', () => {
    expect(problemOf(readDxf('Binary DXF\r\n\0'))).toMatch(/binary DXF file; save it as text/)
    expect(problemOf(readDxf('hello\nthere'))).toMatch(/no DXF file, or it is broken|nothing drawn/)
    expect(problemOf(readDxf(' '.repeat(8_000_001)))).toBe('The file is larger than 8 MB.')
  })
})

const made = (name: string) => readDxf(readFileSync(`tests/drawings/${name}.dxf`, 'utf8'))

interface Measured {
  readonly layer: string
  readonly box: readonly number[]
  readonly length: number
  readonly area: number
}
const measured: Record<string, Measured[]> = JSON.parse(readFileSync('tests/drawings/dxf.json', 'utf8'))

const measure = ({ contour, layer }: FoundLine): Measured => {
  const points = flattened(contour, 0.0005)
  const ring = contour.closed ? [...points, points[0] as Point] : points
  const length = ring.slice(1).reduce((sum, p, i) => sum + distance(p, ring[i] as Point), 0)
  return { layer, box: rounded(boundsOf(contour)), length, area: Math.abs(areaOf(points)) }
}

describe('a DXF file of another program', () => {
  it.each(Object.keys(measured))('%s: every line is what that program measures, and none is more', (name) => {
    const read = drawing(made(name))
    const shown = new Set(read.layers.filter((l) => l.unseen === null).map((l) => l.name))
    const own = read.lines.filter((l) => shown.has(l.layer)).map(measure)
    const theirs = measured[name] ?? []
    const byLayer = (list: readonly Measured[]) => {
      const sums = new Map<string, number>()
      for (const m of list) sums.set(m.layer, (sums.get(m.layer) ?? 0) + m.length)
      return sums
    }
    expect([...byLayer(own).keys()]).toEqual([...byLayer(theirs).keys()])
    for (const [layer, sum] of byLayer(own))
      expect(Math.abs(sum / (byLayer(theirs).get(layer) ?? 0) - 1), layer).toBeLessThan(1e-3)
    // Where arcs are scaled unevenly, that program takes a line to pieces.
    if (name === 'blocks') return
    expect(own).toHaveLength(theirs.length)
    for (const [i, m] of own.entries()) {
      const t = theirs[i] as Measured
      for (const [k, edge] of m.box.entries())
        expect(edge, `${name} ${i}`).toBeCloseTo(t.box[k] as number, 1.7)
      expect(Math.abs(m.length - t.length), `${name} ${i}`).toBeLessThan(0.01 + t.length * 5e-4)
      expect(Math.abs(m.area - t.area), `${name} ${i}`).toBeLessThan(0.02 + t.area * 1e-3)
    }
  })

  it('takes nothing of a sheet of paper', () => {
    expect(left(made('paper'))).toEqual(['1 LWPOLYLINE paper', expect.stringMatching(/^\d VIEWPORT paper$/)])
  })

  it('keeps layers apart that are off, frozen or not plotted, and leaves out what is invisible', () => {
    const read = drawing(made('layers'))
    expect(read.layers.map((l) => [l.name, l.unseen])).toEqual([
      ['plate', null],
      ['off', 'off'],
      ['cold', 'frozen'],
      ['construction', 'not plotted'],
    ])
    expect(left(read)).toEqual(['1 CIRCLE invisible'])
  })

  it('knows a circle written as a rational curve for a hole, and an arc for an arc', () => {
    const [, circle, arc] = drawing(made('rational')).lines
    expect(circle && asCircle(circle.contour)?.radius).toBeCloseTo(10, 4)
    expect(Math.abs(areaOf(flattened(circle?.contour as Contour, 1e-4)))).toBeCloseTo(314.159, 1)
    expect(arc?.contour.segments.every((s) => s.is === 'arc')).toBe(true)
  })

  it('offers words with their place, size and turn, and names what is no line', () => {
    const read = drawing(made('words'))
    const words = read.letters.map((l) => [
      l.text,
      ...rounded({ minX: l.at.x, minY: l.at.y, maxX: l.capHeight, maxY: l.deg }),
      l.anchor,
    ])
    expect(words).toEqual([
      // Held in its middle and turned upwards: its base line lies half its height to the right.
      ['GEAR', 52, -20, 4, -90, 'middle'],
      ['UP ⌀ 5 °', 70, -60, 3, 0, 'start'],
      ['FUEL', 80, -45, 5, 0, 'start'],
      ['LEFT 1', 80, -36.667, 5, 0, 'start'],
    ])
    expect(left(read)).toEqual(['1 HATCH filling', '1 DIMENSION dimension', '1 POINT kind'])
  })

  it.each([
    ['tilted', [0, 'CIRCLE', 8, '0', 10, 0, 20, 0, 40, 3, 210, 0, 220, 1, 230, 1]],
    ['tilted', [0, 'LINE', 8, '0', 10, 0, 20, 0, 30, 0, 11, 5, 21, 0, 31, 7]],
    [
      'tilted',
      [0, 'LWPOLYLINE', 8, '0', 70, 1, 210, 1, 220, 0, 230, 0, 10, 0, 20, 0, 10, 9, 20, 0, 10, 9, 20, 9],
    ],
    ['through points', [0, 'SPLINE', 8, '0', 70, 8, 71, 3, 72, 0, 73, 0, 74, 2, 11, 0, 21, 0, 11, 5, 21, 5]],
    [
      'spline',
      [0, 'SPLINE', 8, '0', 71, 1, 40, 0, 40, 0, 40, 1, 40, 1, 41, 1, 41, -1, 10, 0, 20, 0, 10, 5, 20, 5],
    ],
    ['missing', [0, 'INSERT', 8, '0', 2, 'NOWHERE', 10, 0, 20, 0]],
    ['kind', [0, 'REGION', 8, '0']],
    ['kind', [0, 'POLYLINE', 8, '0', 70, 64]],
    ['empty', [0, 'CIRCLE', 8, '0', 10, 0, 20, 0]],
  ] as const)('leaves out and says %s', (why, entity) => {
    expect(drawing(readDxf(dxf([entity]))).left.map((l) => l.why)).toEqual([why])
  })
})
