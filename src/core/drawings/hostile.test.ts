import { describe, expect, it } from 'vitest'
import { splinePieces } from '../geometry/spline'
import { readDxf } from './dxf/read-dxf'
import { readPlateFile } from './read-file'
import { readSvg } from './svg/read-svg'

const dxf = (...pairs: (string | number)[]): string =>
  ['0', 'SECTION', '2', 'ENTITIES', ...pairs, '0', 'ENDSEC', '0', 'EOF', ''].join('\n')
const svg = (inside: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="60mm" viewBox="0 0 90 60">${inside}</svg>`
const edge = '<rect width="90" height="60"/>'
const problem = (text: string, name = 'a.svg') => {
  const answer = readPlateFile({ text, name, choices: { unitMm: 1 } })
  return 'problem' in answer ? answer.problem : null
}
/** Work that grows with the square of these sizes does not end within a test's time. */
const MANY = 200_000

describe('a file that means harm', () => {
  it('announces a thousand million points: no room is made for them', () => {
    expect(readDxf(dxf(0, 'LWPOLYLINE', 8, '0', 90, 1e9, 70, 1, 10, 0, 20, 0))).toMatchObject({
      lines: [],
      left: [{ what: 'LWPOLYLINE', why: 'empty', count: 1 }],
    })
  })

  it('says DOCTYPE again and again', () => {
    expect(readSvg('<!DOCTYPE'.repeat(MANY))).toHaveProperty('problem')
    expect(readSvg(`<!DOCTYPE svg [<!ENTITY a "b">]>${svg(edge)}`)).toEqual({
      problem: expect.stringContaining('entities'),
    })
    expect(readSvg(`<!DOCTYPE svg>${svg(edge)}`)).toHaveProperty('lines')
  })

  it('has a word for a transform that never ends', () => {
    expect(readSvg(svg(`<g transform="${'a'.repeat(MANY)}">${edge}</g>`))).toMatchObject({
      lines: [],
      left: [{ what: 'g', why: 'transform', count: 1 }],
    })
    expect(problem(svg(`<g transform="translate(1,2) , scale(2)">${edge}</g>`))).toBeNull()
  })

  it('is nested a thousand deep, or calls its elements what every object is called', () => {
    expect(problem(svg(`${'<g>'.repeat(1000)}${edge}${'</g>'.repeat(1000)}`))).toMatch(/\w/)
    for (const name of ['constructor', '__proto__', 'toString', 'hasOwnProperty']) {
      const answer = readPlateFile({
        text: svg(`${edge}<${name}/><g id="${name}"/>`),
        name,
        choices: { unitMm: 1 },
      })
      if ('plate' in answer) expect(answer.plate?.widthMm).toBe(90)
      else expect(answer).toEqual({ problem: expect.stringMatching(/\w/) })
    }
  })

  it('has numbers that are none: what has them is left out and said', () => {
    const answer = readPlateFile({
      text: dxf(
        ...[0, 'CIRCLE', 8, '0', 10, 'x', 20, 5, 40, 2],
        ...[0, 'LWPOLYLINE', 8, '0', 90, 4, 70, 1],
        ...[10, 0, 20, 0, 10, 90, 20, 0, 10, 90, 20, 60, 10, 0, 20, 60],
      ),
      name: 'a.dxf',
      choices: { unitMm: 1 },
    })
    expect(answer).toMatchObject({ plate: { widthMm: 90, heightMm: 60, holes: [] } })
    expect('left' in answer && answer.left).toEqual([{ layer: '0', what: 'line', why: 'numbers', count: 1 }])
  })

  it('has very many lines that do not join', () => {
    const lines = Array.from({ length: 40_000 }, (_, i) => `M${i} 0L${i} 1`).join('')
    expect(problem(svg(`${edge}<path d="${lines}"/>`))).toBeNull()
  })

  it('has a spline of very many points, read as the curve that it is', () => {
    const count = 40_000
    const control = Array.from({ length: count }, (_, i) => ({ x: i, y: Math.sin(i) }))
    const knots = Array.from({ length: count + 4 }, (_, i) => Math.min(count - 3, Math.max(0, i - 3)))
    const curve = splinePieces(control, knots, 3)
    expect(curve?.segments).toHaveLength(count - 3)
    // In the middle of a uniform cubic B-spline a knot lies at (p + 4q + r) / 6.
    const at = (i: number) => control[i] as { x: number; y: number }
    expect(curve?.segments[999]?.to.y).toBeCloseTo((at(1000).y + 4 * at(1001).y + at(1002).y) / 6, 9)
  })

  it('repeats what repeats what repeats: it ends, and says that it is too much', () => {
    const levels = Array.from({ length: 20 }, (_, i) =>
      i === 0
        ? '<g id="l0"><rect width="1" height="1"/></g>'
        : `<g id="l${i}">${`<use href="#l${i - 1}"/>`.repeat(10)}</g>`,
    )
    expect(problem(svg(`<defs>${levels.join('')}</defs><use href="#l19"/>`))).toContain('more than 100000')
    const block = (i: number) => [
      ...[0, 'BLOCK', 8, '0', 2, `B${i}`, 70, 0, 10, 0, 20, 0],
      ...(i === 0
        ? [0, 'CIRCLE', 8, '0', 10, 0, 20, 0, 40, 1]
        : [0, 'INSERT', 8, '0', 2, `B${i - 1}`, 10, 0, 20, 0, 70, 100, 71, 100, 44, 1, 45, 1]),
      ...[0, 'ENDBLK'],
    ]
    const text = [
      ...[0, 'SECTION', 2, 'BLOCKS', ...[0, 1, 2, 3, 4, 5].flatMap(block), 0, 'ENDSEC'],
      ...[0, 'SECTION', 2, 'ENTITIES', 0, 'INSERT', 8, '0', 2, 'B5', 10, 0, 20, 0, 0, 'ENDSEC', 0, 'EOF'],
    ].join('\n')
    expect(problem(text, 'a.dxf')).toContain('more than 100000')
  })

  it('repeats itself: that is left out and said', () => {
    const read = readSvg(
      svg('<g id="a"><rect width="1" height="1"/><use href="#a"/></g><use id="u" href="#u"/>'),
    )
    expect(read).toMatchObject({ left: [{ why: 'itself' }, { why: 'itself' }] })
    const text = [
      ...[0, 'SECTION', 2, 'BLOCKS', 0, 'BLOCK', 8, '0', 2, 'A', 70, 0, 10, 0, 20, 0],
      ...[0, 'INSERT', 8, '0', 2, 'a', 10, 1, 20, 1, 0, 'ENDBLK', 0, 'ENDSEC'],
      ...[0, 'SECTION', 2, 'ENTITIES', 0, 'INSERT', 8, '0', 2, 'A', 10, 0, 20, 0, 0, 'ENDSEC', 0, 'EOF'],
    ].join('\n')
    expect(readDxf(text)).toMatchObject({ left: [{ what: 'block a', why: 'itself' }] })
  })

  it('has a style sheet of very many rules, or one that is no style', () => {
    const rules = Array.from({ length: 20_000 }, (_, i) => `.c${i}:not(.d) > g ~ rect{display:none}`).join('')
    const read = readSvg(svg(`<style>${rules}</style>${edge.repeat(200)}`))
    expect(read).toMatchObject({ lines: { length: 200 } })
    expect(
      readSvg(svg(`<style>@import url(http://example.invalid/a.css); }}} {{{ a[</style>${edge}`)),
    ).toMatchObject({
      lines: { length: 1 },
      left: [{ what: 'style sheet', why: 'style' }],
    })
  })
})
