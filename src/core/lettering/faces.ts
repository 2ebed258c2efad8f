import type { LegendFont } from '../rig/legend-fonts'
import type { OutlineFace } from './face-names'
import { capHeights, widths } from './face-tables'

/** Where each face comes from, below `node_modules`. */
export const faceFiles: Readonly<Record<OutlineFace, string>> = {
  b612: '@fontsource/b612/files/b612-latin-400-normal.woff',
  'b612-bold': '@fontsource/b612/files/b612-latin-700-normal.woff',
  'plex-mono': '@fontsource/ibm-plex-mono/files/ibm-plex-mono-latin-400-normal.woff',
  dejavu: 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf',
  'dejavu-bold': 'dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf',
  'dejavu-mono': 'dejavu-fonts-ttf/ttf/DejaVuSansMono.ttf',
}

/** Each font's own face, and the one that steps in for letters and signs which that does not have. */
export const facesOf: Readonly<Record<Exclude<LegendFont, 'single'>, readonly [OutlineFace, OutlineFace]>> = {
  plain: ['b612', 'dejavu'],
  bold: ['b612-bold', 'dejavu-bold'],
  mono: ['plex-mono', 'dejavu-mono'],
}

/** Characters that legends may hold beyond the faces' own: Latin, Greek, Cyrillic, signs, arrows, geometric shapes. */
export const blocks: readonly (readonly [number, number])[] = [
  [0x20, 0x7e],
  [0xa0, 0x24f],
  [0x2b0, 0x2ff],
  [0x370, 0x52f],
  [0x1e00, 0x1fff],
  [0x2010, 0x2027],
  [0x2030, 0x205e],
  [0x2070, 0x209c],
  [0x20a0, 0x20bf],
  [0x2100, 0x23ff],
  [0x2460, 0x24ff],
  [0x25a0, 0x27bf],
  [0x27f0, 0x27ff],
  [0x2900, 0x297f],
  [0x2b00, 0x2b2f],
]

const known = new Map<OutlineFace, ReadonlyMap<number, number>>()

/** Widths in thousandths of the size by character; read from the tables when first asked. */
const widthsOf = (face: OutlineFace): ReadonlyMap<number, number> => {
  let found = known.get(face)
  if (!found) {
    const map = new Map<number, number>()
    for (const run of widths[face].split(' ')) {
      const [from = '', list = ''] = run.split(':')
      for (const [i, w] of list.split(',').entries()) map.set(Number.parseInt(from, 16) + i, Number(w))
    }
    found = map
    known.set(face, map)
  }
  return found
}

/** How wide a character is in a face, as a share of the size; null where the face has none. */
export const widthIn = (face: OutlineFace, c: string): number | null => {
  const width = widthsOf(face).get(c.codePointAt(0) ?? 0)
  return width === undefined ? null : width / 1000
}

/** Height of capitals as a share of the size. */
export const capHeightOf = (face: OutlineFace): number => capHeights[face]
