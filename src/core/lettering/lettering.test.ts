import { readFileSync } from 'node:fs'
import { parse } from 'opentype.js'
import { describe, expect, it } from 'vitest'
import { faceTables, fontBytes, hersheyTable } from '../../../tools/letters'
import { boundsOf, boxAround } from '../geometry/boxes'
import { pathData } from '../geometry/path-data'
import { legendFonts } from '../rig/legend-fonts'
import { outlineFaces } from './face-names'
import { widthIn } from './faces'
import { capHeight, missingLetters, runsOf, SPACING_MM, textWidth } from './lettering'
import { letteringFrom } from './outlines'

const letters = letteringFrom((face) => fontBytes('.', face))
const european = 'ŁÓDŹ Příliš žluťoučký Ğöşü ΩΔΣ αβμπ ЩУКА Жизнь €±×÷°½ ←↑→↓↔↕↺↻ ⌀ ≤≥ ▲▼ — “x”'

it('the tables are those of the fonts that ship', () => {
  expect(readFileSync('src/core/lettering/face-tables.ts', 'utf8')).toBe(faceTables('.'))
  expect(readFileSync('src/core/lettering/hershey.ts', 'utf8')).toBe(hersheyTable('.'))
})

describe('the letters of Europe, arrows and signs', () => {
  it.each(legendFonts)('are there in %s', (font) => {
    expect(missingLetters(european, font)).toEqual([])
  })

  it.each(legendFonts)('are drawn in %s, none as an empty box, as wide as is reckoned', (font) => {
    for (const c of new Set(european)) {
      const { contours, widthMm } = letters.outlines(c, 10, font)
      expect(widthMm, c).toBeCloseTo(textWidth(c, 10, font), 2)
      if (c !== ' ') expect(contours.length, c).toBeGreaterThan(0)
    }
    // A box is what fonts draw for what they lack: no face is asked for such a letter.
    if (font === 'single') return
    for (const run of runsOf(european, font)) {
      const face = parse(fontBytes('.', run.face))
      for (const c of run.text) expect(face.charToGlyphIndex(c), c).toBeGreaterThan(0)
    }
  })

  it.each(legendFonts)('of %s are of one height, whichever face they come from', (font) => {
    for (const c of 'HEŁЕΗЩ') {
      const { contours } = letters.outlines(c, 10, font)
      const box = contours.map(boundsOf).reduce(boxAround)
      expect(Math.abs(-box.minY - 10 * capHeight(font)), c).toBeLessThan(0.15)
    }
  })
})

describe('a text', () => {
  it('is set whole in the other face word by word where a letter is lacking; of signs only those', () => {
    expect(runsOf('GEAR ŁÓDŹ → UP', 'plain').map((r) => [r.text, r.face])).toEqual([
      ['GEAR ', 'b612'],
      ['ŁÓDŹ', 'dejavu'],
      [' ', 'b612'],
      ['→', 'dejavu'],
      [' UP', 'b612'],
    ])
    expect(runsOf('10 kΩ', 'mono').map((r) => r.face)).toEqual(['plex-mono', 'dejavu-mono'])
  })

  it('is read the same whether its marks stand apart or not', () => {
    expect(textWidth('r\u030c', 10)).toBe(textWidth('ř', 10))
    expect(missingLetters('r\u030c', 'single')).toEqual([])
  })

  it('says which letters no face has', () => {
    expect(missingLetters('A漢字B漢')).toEqual(['漢', '字'])
    expect(missingLetters('⏻', 'bold')).toEqual(['⏻'])
    expect(missingLetters('ж漢', 'single')).toEqual(['漢'])
  })

  it('is as wide as its letters and the room between them', () => {
    const [a, b] = [widthIn('b612', 'A') ?? 0, widthIn('b612', 'B') ?? 0]
    expect(textWidth('AB', 10)).toBeCloseTo(10 * (a + b) + SPACING_MM, 9)
    expect(textWidth('', 10)).toBe(0)
    expect(outlineFaces.every((face) => widthIn(face, '漢') === null)).toBe(true)
  })
})

describe('single line', () => {
  it('is open strokes that a tool follows once, never outlines', () => {
    const { contours } = letters.outlines('HLTIŁ', 10, 'single')
    expect(contours.every((c) => !c.closed)).toBe(true)
    expect(contours).toHaveLength(3 + 2 + 2 + 1 + 3)
  })

  it('puts marks over the middle of their letter, clear of it', () => {
    const [stem, mark] = letters.outlines('í', 21 / 0.76, 'single').contours.map(boundsOf)
    expect(stem && mark && mark.maxY < stem.minY).toBe(true)
    const [caron, base] = [letters.outlines('Č', 10, 'single'), letters.outlines('C', 10, 'single')]
    expect(caron.widthMm).toBe(base.widthMm)
    expect(caron.contours.map(pathData).join('')).toContain(base.contours.map(pathData).join(''))
  })
})
