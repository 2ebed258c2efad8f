import { describe, expect, it } from 'vitest'
import { splinePieces } from '../geometry/spline'
import { readDxf } from './read-dxf'
import { readPlateFile } from './read-plate-file'
import { readSvg } from './read-svg'

const dxf = (...pairs: (string | number)[]): string =>
  ['0', 'SECTION', '2', 'ENTITIES', ...pairs, '0', 'ENDSEC', '0', 'EOF', ''].join('\n')
const svg = (inside: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="60mm" viewBox="0 0 90 60">${inside}</svg>`
const edge = '<rect width="90" height="60"/>'
const problem = (text: string, name = 'a.svg') => {
  const answer = readPlateFile({ text, name, unitMm: 1 })
  return 'problem' in answer ? answer.problem : null
}
/** Work that grows with the square of these sizes does not end within a test's time. */
const MANY = 200_000

describe('a file that means harm', () => {
  it('announces a thousand million points: no room is made for them', () => {
    expect(readDxf(dxf(0, 'LWPOLYLINE', 8, '0', 90, 1e9, 70, 1, 10, 0, 20, 0))).toEqual({
      problem: expect.stringContaining('announces 1000000000 points'),
    })
  })

  it('says DOCTYPE again and again', () => {
    expect(readSvg('<!DOCTYPE'.repeat(MANY))).toHaveProperty('problem')
    expect(readSvg(`<!DOCTYPE svg [<!ENTITY a "b">]>${svg(edge)}`)).toEqual({
      problem: expect.stringContaining('entities'),
    })
    expect(readSvg(`<!DOCTYPE svg>${svg(edge)}`)).toHaveProperty('found')
  })

  it('has a word for a transform that never ends', () => {
    expect(problem(svg(`<g transform="${'a'.repeat(MANY)}">${edge}</g>`))).toContain('transform')
    expect(problem(svg(`<g transform="translate(1,2) , scale(2)">${edge}</g>`))).toBeNull()
  })

  it('is nested a thousand deep, or calls its elements what every object is called', () => {
    expect(problem(svg(`${'<g>'.repeat(1000)}${edge}${'</g>'.repeat(1000)}`))).toMatch(/\w/)
    for (const name of ['constructor', '__proto__', 'toString', 'hasOwnProperty']) {
      const answer = readPlateFile({ text: svg(`${edge}<${name}/><g id="${name}"/>`), name, unitMm: 1 })
      if ('plate' in answer) expect(answer.plate.widthMm).toBe(90)
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
      unitMm: 1,
    })
    expect(answer).toMatchObject({ plate: { widthMm: 90, heightMm: 60, holes: [] } })
    expect(JSON.stringify(answer)).toContain('lines whose numbers are none')
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
})
