import { describe, expect, it } from 'vitest'
import { type Box, boundsOf } from '../geometry/boxes'
import { asCircle } from '../geometry/contour'
import { readDxf } from './read-dxf'
import type { ReadDrawing } from './read-plate'
import { readSvg } from './read-svg'

const rounded = ({ minX, minY, maxX, maxY }: Box) =>
  [minX, minY, maxX, maxY].map((n) => Math.round(n * 1000) / 1000 + 0)

const drawing = (read: ReadDrawing | { problem: string }): ReadDrawing => {
  if ('problem' in read) throw new Error(read.problem)
  return read
}
const problemOf = (read: ReadDrawing | { problem: string }) => ('problem' in read ? read.problem : 'none')
/** The box about each thing found. */
const boxes = (read: ReadDrawing | { problem: string }) =>
  drawing(read).found.map((f) => rounded(boundsOf(f.contour)))

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
    expect(drawing(readDxf(text)).found.map((f) => f.layer)).toEqual(['cut', 'drill', 'cut'])
  })

  it('gives polylines closed and open, with bulges as true arcs on the right side', () => {
    const half = drawing(readDxf(dxf([polyline(true, [0, 0, 1], [10, 0, 1])]))).found[0]
    // Two half circles make a whole one.
    expect(half && asCircle(half.contour)).toMatchObject({ radius: 5 })
    // A bulge above zero lies to the right of the way, a negative one to the left; y upwards in the file.
    expect(boxes(readDxf(dxf([polyline(false, [0, 0, 1], [10, 0])])))).toEqual([[0, 0, 10, 5]])
    expect(boxes(readDxf(dxf([polyline(false, [0, 0, -1], [10, 0])])))).toEqual([[0, -5, 10, 0]])
    const open = drawing(readDxf(dxf([polyline(false, [0, 0], [10, 0], [10, 10])]))).found[0]
    expect(open?.contour).toMatchObject({ closed: false })
    expect(open?.contour.segments).toHaveLength(2)
    expect(drawing(readDxf(dxf([polyline(true, [0, 0])]))).found).toEqual([])
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
    const [one] = drawing(readDxf(dxf([spline([0, 0, 0, 0, 1, 1, 1, 1])]))).found
    expect(one?.contour.segments).toHaveLength(1)
    // The middle of that curve is three quarters up.
    expect(one && boundsOf(one.contour).minY).toBeCloseTo(-7.5, 2)
    const read = drawing(readDxf(dxf([spline([0, 1])])))
    expect([read.found, read.ignored]).toEqual([[], ['1 of SPLINE']])
  })

  it('counts what it leaves out, by its name', () => {
    const text = [0, 'TEXT', 8, 'cut', 10, 0, 20, 0, 40, 3, 1, 'HELLO']
    const read = drawing(readDxf(dxf([text, text, [0, 'POINT', 8, '0', 10, 1, 20, 1]])))
    expect(read.ignored).toEqual(['2 of TEXT', '1 of POINT'])
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

const mm = 'width="100mm" height="50mm" viewBox="0 0 100 50"'
const svg = (inside: string, head = mm) => `<svg xmlns="http://www.w3.org/2000/svg" ${head}>${inside}</svg>`

describe('an SVG file', () => {
  it.each([
    ['<rect x="10" y="5" width="20" height="10"/>', [10, 5, 30, 15]],
    ['<rect x="10" y="5" width="20" height="10" rx="2"/>', [10, 5, 30, 15]],
    ['<circle cx="10" cy="10" r="4"/>', [6, 6, 14, 14]],
    ['<ellipse cx="10" cy="10" rx="4" ry="2"/>', [6, 8, 14, 12]],
    ['<line x1="1" y1="2" x2="5" y2="9"/>', [1, 2, 5, 9]],
    ['<polyline points="0,0 10,0 10,5"/>', [0, 0, 10, 5]],
    ['<polygon points="0 0 10 0 10 5"/>', [0, 0, 10, 5]],
    ['<path d="M1 1h8v4z"/>', [1, 1, 9, 5]],
  ])('gives %s where it lies', (shape, box) => {
    expect(boxes(readSvg(svg(shape)))).toEqual([box])
  })

  it('closes a polygon and leaves a polyline open', () => {
    const closed = (shape: string) => drawing(readSvg(svg(shape))).found[0]?.contour.closed
    expect(closed('<polygon points="0 0 10 0 10 5"/>')).toBe(true)
    expect(closed('<polyline points="0 0 10 0 10 5"/>')).toBe(false)
  })

  it.each([
    '<rect width="0" height="10"/>',
    '<circle r="0"/>',
    '<ellipse rx="3" ry="0"/>',
    '<polygon points="1 2"/>',
    '<polygon points="0 0 ten 0 10 5"/>',
  ])('draws nothing for %s', (shape) => {
    expect(drawing(readSvg(svg(shape))).found).toEqual([])
  })

  it.each([
    ['translate(10)', [10, 0, 12, 1]],
    ['translate(10 5)', [10, 5, 12, 6]],
    ['scale(2)', [0, 0, 4, 2]],
    ['scale(2, 3)', [0, 0, 4, 3]],
    ['rotate(90)', [-1, 0, 0, 2]],
    ['rotate(90 2 1)', [2, -1, 3, 1]],
    ['matrix(1 0 0 1 3 4)', [3, 4, 5, 5]],
    ['skewX(45)', [0, 0, 3, 1]],
    ['skewY(45)', [0, 0, 2, 3]],
    ['translate(10 0) scale(2)', [10, 0, 14, 2]],
  ])('follows the transform %s', (transform, box) => {
    const inside = `<g transform="${transform}"><rect width="2" height="1"/></g>`
    expect(boxes(readSvg(svg(inside)))).toEqual([box])
  })

  it('names layers by their label, else by their id, the outermost counts', () => {
    const inside =
      '<g inkscape:label="drill" xmlns:inkscape="urn:x"><g id="inner"><circle r="1"/></g></g><g id="cut"><circle r="1"/></g><circle r="1"/>'
    expect(drawing(readSvg(svg(inside))).found.map((f) => f.layer)).toEqual(['drill', 'cut', ''])
  })

  it.each([
    ['width="10cm" height="5cm" viewBox="0 0 100 50"', [0, 0, 10, 10]],
    ['width="4in" height="2in" viewBox="0 0 101.6 50.8"', [0, 0, 10, 10]],
    ['width="72pt" height="72pt" viewBox="0 0 25.4 25.4"', [0, 0, 10, 10]],
    ['width="6pc" height="6pc" viewBox="0 0 25.4 25.4"', [0, 0, 10, 10]],
    ['width="100mm" height="50mm" viewBox="10 10 200 100"', [-5, -5, 0, 0]],
    // Without a view box its numbers are pixels.
    ['width="100mm" height="50mm"', [0, 0, 2.646, 2.646]],
  ])('of the size %s is in millimetres', (head, box) => {
    const read = drawing(readSvg(svg('<rect width="10" height="10"/>', head)))
    expect(read.found.map((f) => rounded(boundsOf(f.contour)))).toEqual([box])
    expect(read.unitMm).toBe(1)
  })

  it.each(['', 'width="100" height="50"', 'width="100px" height="50px"'])(
    'does not say its unit with %s',
    (head) => {
      expect(drawing(readSvg(svg('<circle r="1"/>', head))).unitMm).toBeNull()
    },
  )

  it('leaves out what is hidden, and says so; titles and notes are nothing', () => {
    const inside =
      '<title>T</title><desc>D</desc><metadata/><g display="none"><circle r="1"/></g><circle r="2" visibility="hidden"/><mesh/><style>a{}</style>'
    const read = drawing(readSvg(svg(inside)))
    expect(read.found).toEqual([])
    expect(read.ignored).toEqual(['2 hidden things', '1 things called mesh', '1 style sheets'])
  })

  it('is refused with a sentence when it is broken, another thing, hostile, too deep, or far too large', () => {
    expect(problemOf(readSvg('<svg><g></svg>'))).toMatch(/^The file is broken at line 1: /)
    expect(problemOf(readSvg('<html></html>'))).toBe('This is no SVG file: it has no svg element.')
    expect(problemOf(readSvg('<!DOCTYPE svg [<!ENTITY a "b">]><svg/>'))).toMatch(/entities of its own/)
    expect(problemOf(readSvg(svg('<g>'.repeat(70) + '</g>'.repeat(70))))).toBe(
      'The file is nested too deeply.',
    )
    expect(problemOf(readSvg(' '.repeat(8_000_001)))).toBe('The file is larger than 8 MB.')
  })
})
