import { describe, expect, it } from 'vitest'
import { boxes, drawing, left, problemOf, rounded } from '../../../../tests/drawings/found'
import { boundsOf } from '../../geometry/boxes'
import { readSvg } from './read-svg'

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
    const closed = (shape: string) => drawing(readSvg(svg(shape))).lines[0]?.contour.closed
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
    expect(drawing(readSvg(svg(shape))).lines).toEqual([])
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
    expect(drawing(readSvg(svg(inside))).lines.map((f) => f.layer)).toEqual(['drill', 'cut', ''])
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
    expect(read.lines.map((f) => rounded(boundsOf(f.contour)))).toEqual([box])
    expect(read.unitMm).toBe(1)
  })

  it.each(['', 'width="100" height="50"', 'width="100px" height="50px"'])(
    'does not say its unit with %s',
    (head) => {
      expect(drawing(readSvg(svg('<circle r="1"/>', head))).unitMm).toBeNull()
    },
  )

  it.each([
    ['<circle r="2" visibility="hidden"/>', ['1 circle invisible']],
    ['<g><rect width="9" height="9" style="display:none"/></g>', ['1 rect invisible']],
    ['<path d="M0 0h9v9z" style="fill:none;stroke:none"/>', ['1 path unpainted']],
    ['<path d="M0 0h9v9z L x"/>', ['1 path broken']],
    [
      '<mesh/><image/><script/><foreignObject/>',
      ['1 mesh kind', '1 picture kind', '1 script kind', '1 embedded document kind'],
    ],
    ['<rect width="0" height="9"/>', ['1 rect empty']],
    [
      '<rect width="9vw" height="9"/><circle r="2ex"/><rect width="calc(3px + 2px)" height="9"/>',
      ['2 rect measure', '1 circle measure'],
    ],
    ['<rect width="nine" height="9"/>', ['1 rect numbers']],
    ['<g mask="url(#m)"><rect width="9" height="9"/></g>', ['1 g masked']],
    [
      '<clipPath id="c"><rect width="5" height="5"/></clipPath><circle r="9" clip-path="url(#c)"/>',
      ['1 circle clipped'],
    ],
    [
      '<svg width="10" height="10"><circle cx="9" cy="5" r="3"/><circle cx="5" cy="5" r="3"/></svg>',
      ['1 circle clipped'],
    ],
    ['<rect width="9" height="9" style="transform:perspective(9px)"/>', ['1 rect transform']],
    [
      '<rect width="9" height="9" style="transform:rotate(9deg);transform-origin:center"/>',
      ['1 rect transform'],
    ],
    ['<use href="#none"/><use href="a.svg#b"/><use/>', ['2 use missing', '1 use elsewhere']],
    ['<text><textPath href="#p">AROUND</textPath></text>', ['1 text letters']],
    ['<text x="1 2 3">ABC</text>', ['1 text letters']],
    ['<text transform="scale(-1 1)">MIRRORED</text>', ['1 text letters']],
    ['<style>rect:wobble(3){fill:red}</style>', ['1 style sheet style']],
    ['<title>T</title><desc>D</desc><metadata/><style>a{}</style><defs><rect/></defs>', []],
  ])('leaves out and says what cannot be read right: %s', (inside, words) => {
    expect(left(readSvg(svg(inside)))).toEqual(words)
  })

  it('keeps a hidden layer apart, to be switched on', () => {
    const read = drawing(
      readSvg(svg('<g id="old" style="display:none"><circle r="3"/></g><g id="new"><circle r="3"/></g>')),
    )
    expect(read.layers).toEqual([
      { name: 'old', unseen: 'hidden' },
      { name: 'new', unseen: null },
    ])
    expect(read.lines.map((l) => l.layer)).toEqual(['old', 'new'])
  })

  it('offers texts that are letters, with their place, turn and size', () => {
    const texts =
      '<g font-size="10"><text x="10" y="20" text-anchor="middle">GEAR  DOWN</text></g>' +
      '<text transform="translate(50 30) rotate(90)" style="font-size:4px"><tspan x="0" y="0">UP</tspan><tspan x="0" dy="6">DOWN</tspan></text>' +
      '<text font-size="200%" x="5" y="50">A<tspan fill="red">B</tspan> &amp; C</text><text display="none">GONE</text>'
    const read = drawing(readSvg(svg(texts)))
    const said = read.letters.map((l) => [
      l.text,
      ...[l.at.x, l.at.y, l.capHeight, l.deg].map((n) => Math.round(n * 1000) / 1000 + 0),
      l.anchor,
    ])
    expect(said).toEqual([
      ['GEAR DOWN', 10, 20, 7, 0, 'middle'],
      ['UP', 50, 30, 2.8, 90, 'start'],
      ['DOWN', 44, 30, 2.8, 90, 'start'],
      ['AB & C', 5, 50, 22.4, 0, 'start'],
    ])
  })

  it('says its unit by lengths with one, where its numbers are pixels', () => {
    const plain = svg('<rect width="100mm" height="20mm"/>', '')
    const { unitMm, lines } = drawing(readSvg(plain))
    const [box] = lines.map((l) => boundsOf(l.contour))
    expect((box?.maxX ?? 0) * (unitMm ?? 0)).toBeCloseTo(100, 9)
    expect(drawing(readSvg(svg('<rect width="100" height="20"/>', ''))).unitMm).toBeNull()
  })

  it('knows how large it is meant in pixels', () => {
    const read = drawing(readSvg(svg('<circle r="1"/>', 'width="192" height="96" viewBox="0 0 50 25"')))
    expect(50 * (read.pixelMm ?? 0)).toBeCloseTo(50.8, 9)
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
