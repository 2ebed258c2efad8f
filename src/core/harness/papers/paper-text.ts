import { widthIn } from '../../lettering/faces'
import type { Millimetres } from '../../units-of-measure'

/** Papers are set in a narrow face that has the letters of Europe, arrows and signs; files below `node_modules`. */
export const paperFonts = {
  plain: 'dejavu-fonts-ttf/ttf/DejaVuSansCondensed.ttf',
  bold: 'dejavu-fonts-ttf/ttf/DejaVuSansCondensed-Bold.ttf',
} as const

/** The condensed faces are nine tenths as wide as those whose tables are at hand. */
const CONDENSED = 0.9
const MISSING = '\u25a1'

/** A text with a box for each letter that the face does not have. */
export const printable = (text: string, bold = false): string =>
  [...text.normalize('NFC').replace(/[\r\n\t]+/g, ' ')]
    .map((c) => (widthIn(bold ? 'dejavu-bold' : 'dejavu', c) === null ? MISSING : c))
    .join('')

export const paperWidth = (text: string, sizeMm: Millimetres, bold = false): Millimetres => {
  let width = 0
  for (const c of printable(text, bold)) width += widthIn(bold ? 'dejavu-bold' : 'dejavu', c) ?? 0.6
  return width * CONDENSED * sizeMm
}

/** A text in lines no wider than so much, broken between words; a word that is too long, within it. */
export const wrapped = (text: string, widthMm: Millimetres, sizeMm: Millimetres, bold = false): string[] => {
  const lines: string[] = []
  let line = ''
  const fits = (t: string) => paperWidth(t, sizeMm, bold) <= widthMm
  for (const word of text.split(/\s+/).filter((w) => w !== '')) {
    const longer = line === '' ? word : `${line} ${word}`
    if (fits(longer)) {
      line = longer
      continue
    }
    if (line !== '') lines.push(line)
    line = ''
    for (const c of word) {
      if (line !== '' && !fits(line + c)) {
        lines.push(line)
        line = ''
      }
      line += c
    }
  }
  return line === '' ? lines : [...lines, line]
}

/** A text in at most so many lines, at the largest of these sizes at which it fits; at the smallest it takes what it needs. */
export const fitted = (
  text: string,
  widthMm: Millimetres,
  sizes: readonly Millimetres[],
  mostLines: number,
  bold = false,
): { readonly lines: readonly string[]; readonly sizeMm: Millimetres } => {
  for (const sizeMm of sizes) {
    const lines = wrapped(text, widthMm, sizeMm, bold)
    // A word broken in the middle is a last resort.
    const whole = lines.join(' ').split(' ').length === text.split(/\s+/).filter((w) => w !== '').length
    if (lines.length <= mostLines && whole) return { lines, sizeMm }
  }
  const sizeMm = sizes.at(-1) ?? 2
  return { lines: wrapped(text, widthMm, sizeMm, bold), sizeMm }
}
