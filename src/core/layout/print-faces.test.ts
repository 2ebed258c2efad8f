import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { demoRig } from '../../../tests/rigs'
import { fontBytes } from '../../../tools/letters'
import type { NeedleSettings } from '../aspects/needle'
import { letteringFrom } from '../lettering/outlines'
import { settingsOf } from '../rig/part-settings'
import type { PartRow } from '../rig/rows'
import { needleAngle } from '../signal/needle'
import { printedFace } from './dial-drawing'
import { faceSvg, facesOnPages, printFaces } from './print-faces'

const letters = letteringFrom((face) => fontBytes('.', face))
const torque = demoRig().part['torque-left'] as PartRow
const dial = settingsOf(torque.settings, 'needle', 'needle') as NeedleSettings
const designed: PartRow = {
  ...torque,
  settings: {
    ...torque.settings,
    aspects: {
      needle: {
        ...dial,
        face: {
          bands: [
            { from: 20, to: 100, colour: 'green' },
            { from: 110, to: 110, colour: 'red' },
          ],
          captions: [{ text: 'TORQUE', sizeMm: 2.4, side: 'above' }],
        },
      },
    },
  },
}
const folder = mkdtempSync(join(tmpdir(), 'clavik-faces-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** A picture as pdftoppm draws it at ten dots a millimetre: what colour is at a place, in words. */
const picture = (pdf: Uint8Array) => {
  writeFileSync(join(folder, 'a.pdf'), pdf)
  execFileSync('pdftoppm', ['-r', '254', '-singlefile', join(folder, 'a.pdf'), join(folder, 'a')])
  const bytes = readFileSync(join(folder, 'a.ppm'))
  const head = /^P6\s+(\d+)\s+(\d+)\s+\d+\s/.exec(bytes.subarray(0, 60).toString('latin1'))
  const [width, height, from] = [Number(head?.[1]), Number(head?.[2]), head?.[0].length ?? 0]
  const at = (x: number, y: number): string => {
    const i = from + (Math.round(y) * width + Math.round(x)) * 3
    const [r = 0, g = 0, b = 0] = [bytes[i], bytes[i + 1], bytes[i + 2]]
    if (r > 245 && g > 245 && b > 245) return 'paper'
    if (r < 60 && g < 60 && b < 60) return 'ground'
    if (g > r + 30 && g > b + 30) return 'green'
    if (r > g + 60 && r > b + 60) return 'red'
    return r > 150 && g > 150 && b > 150 ? 'ink' : 'between'
  }
  return { width, height, at }
}

describe('a face that is printed, as another program draws it', () => {
  it('has its real size, its marks where the needle points, and its colours where their values are', async () => {
    const face = printedFace(designed, letters)
    if (!face) throw new Error('it is a gauge')
    const made = await printFaces('Torque', [face], letters, 'A4')
    if ('tooLarge' in made) throw new Error('it fits')
    const { width, at } = picture(made)
    expect(Math.abs(width - 2100)).toBeLessThan(2)
    // Its middle, from the margin; ten dots a millimetre.
    const [x0, y0] = [120 + 180, 120 + 180]
    const alongRow = Array.from({ length: 600 }, (_, x) => at(x, y0)).map((c) => c !== 'paper')
    const size = alongRow.lastIndexOf(true) - alongRow.indexOf(true) + 1
    expect(size).toBeGreaterThan(357)
    expect(size).toBeLessThan(364)
    const angle = needleAngle(dial.points, dial.smooth)
    const on = (value: number, share: number) => {
      const a = (angle(value) * Math.PI) / 180
      return at(x0 + 180 * share * Math.sin(a), y0 - 180 * share * Math.cos(a))
    }
    for (const value of [0, 20, 40, 60, 80, 100, 120]) expect(on(value, 0.87), `mark ${value}`).toBe('ink')
    for (const value of [25, 50, 75, 98]) expect(on(value, 0.972), `green at ${value}`).toBe('green')
    for (const value of [10, 104, 118]) expect(on(value, 0.972), `nothing at ${value}`).toBe('ground')
    expect(on(110, 0.9)).toBe('red')
    // Where its motor does not go, nothing is printed.
    expect(at(x0, y0 + 180 * 0.94)).toBe('ground')
    // A mark between two others lies between them in its share of the angle: 50 is half way from 40 to 60.
    expect(on(45, 0.85)).toBe('ground')
  })

  it('goes with others on as few pages as rows of them take, and is refused where it is larger than the paper', async () => {
    const one = printedFace(designed, letters)
    if (!one) throw new Error('it is a gauge')
    const { pages } = facesOnPages(
      Array.from({ length: 40 }, () => one),
      [186, 259],
    )
    // Four of 36 mm in a row with 4 mm between, six rows.
    expect(pages.map((p) => p.length)).toEqual([24, 16])
    for (const [i, a] of pages.flat().entries())
      for (const b of pages.flat().slice(i + 1, 24))
        if (i < 24) expect(Math.abs(a.x - b.x) >= 40 || Math.abs(a.y - b.y) >= 40).toBe(true)
    expect(await printFaces('x', [{ ...one, radius: 120 }], letters, 'A4')).toEqual({ tooLarge: [one.name] })
  })

  it('is an SVG of its real size without anything that needs a font', () => {
    const face = printedFace(designed, letters)
    const svg = face ? faceSvg(face) : ''
    expect(svg).toContain('width="36mm" height="36mm"')
    expect(svg).not.toContain('<text')
    expect(svg).toContain('id="cut"')
  })
})
