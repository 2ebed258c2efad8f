import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { type Font, parse } from 'opentype.js'
import { type OutlineFace, outlineFaces } from '../src/core/lettering/face-names'
import { blocks, faceFiles } from '../src/core/lettering/faces'

export const fontBytes = (root: string, face: OutlineFace): ArrayBuffer => {
  const bytes = readFileSync(join(root, 'node_modules', faceFiles[face]))
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer
}

/** Runs of characters that a font has, each as its first in hexadecimal and the widths in thousandths of the size. */
const runsOf = (font: Font): string => {
  const runs: { from: number; widths: number[] }[] = []
  for (const [first, last] of blocks)
    for (let code = first; code <= last; code++) {
      const index = font.charToGlyphIndex(String.fromCharCode(code))
      if (index === 0) continue
      const width = Math.round(((font.glyphs.get(index).advanceWidth ?? 0) / font.unitsPerEm) * 1000)
      const open = runs.at(-1)
      if (open && open.from + open.widths.length === code) open.widths.push(width)
      else runs.push({ from: code, widths: [width] })
    }
  return runs.map((r) => `${r.from.toString(16)}:${r.widths.join(',')}`).join(' ')
}

const capital = (font: Font): number => font.charToGlyph('H').getBoundingBox().y2 / font.unitsPerEm

/** The tables of all faces, from the fonts' own: widths of letters, heights of capitals. */
export const faceTables = (root: string): string => {
  const fonts = outlineFaces.map((face) => [face, parse(fontBytes(root, face))] as const)
  const heights = fonts.map(([face, font]) => `  '${face}': ${Math.round(capital(font) * 1e4) / 1e4},`)
  const tables = fonts.map(([face, font]) => `  '${face}':\n    '${runsOf(font)}',`)
  return `// Made by "npm run letters" from the fonts that ship with Clavik.
import type { OutlineFace } from './face-names'

export const capHeights: Readonly<Record<OutlineFace, number>> = {
${heights.join('\n')}
}

export const widths: Readonly<Record<OutlineFace, string>> = {
${tables.join('\n')}
}
`
}

/** The numbers by which Hershey's roman simplex letters are kept. */
const hersheyNumbers = (root: string): Map<string, number> => {
  const source = readFileSync(join(root, 'node_modules/hershey/src/characterNumbers.js'), 'utf8')
  return new Map(
    [...source.matchAll(/^\s*(['"])(\\?.)\1:\s*(\d+)/gm)].map((m) => [
      (m[2] ?? '').at(-1) ?? '',
      Number(m[3]),
    ]),
  )
}

/** A glyph of the Hershey fonts (a line of a .jhf file) as its width and path data, on its base line, y upwards. */
const glyphOf = (line: string): string => {
  const at = (i: number) => line.charCodeAt(i) - 82
  const [left, right] = [at(8), at(9)]
  let d = ''
  let begins = true
  for (let i = 10; i + 1 < line.length; i += 2) {
    if (line[i] === ' ' && line[i + 1] === 'R') {
      begins = true
      continue
    }
    d += `${begins ? 'M' : 'L'}${at(i) - left} ${9 - at(i + 1)}`
    begins = false
  }
  return `${right - left}|${d}`
}

/** Hershey's roman simplex letters as a table. */
export const hersheyTable = (root: string): string => {
  const lines = readFileSync(join(root, 'node_modules/hershey/font/jhf/rowmans.jhf'), 'utf8').split('\n')
  const byNumber = new Map(lines.filter((l) => l.trim() !== '').map((l) => [Number(l.slice(0, 5)), l]))
  const entries = [...hersheyNumbers(root)]
    .flatMap(([c, n]) => {
      const line = byNumber.get(n)
      return line === undefined ? [] : [[c, glyphOf(line)] as const]
    })
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([c, glyph]) => `  ${JSON.stringify(c)}: '${glyph}',`)
  return `// Made by "npm run letters" from the package hershey: roman simplex, by A. V. Hershey at the U. S. National Bureau of
// Standards, in the format of James Hurt, Cognition, Inc.

/** Each letter as its width, a bar, and its strokes as path data on the base line, y upwards; capitals are 21 high. */
export const hershey: Readonly<Record<string, string>> = {
${entries.join('\n')}
}
`
}
