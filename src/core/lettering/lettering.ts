import type { LegendFont } from '../rig/legend-fonts'
import type { Millimetres } from '../units-of-measure'
import type { OutlineFace } from './face-names'
import { capHeightOf, facesOf, widthIn } from './faces'
import { hasStroke, SINGLE_CAP, strokeWidth } from './single-line'

/** Height of capitals as a share of the size. */
export const capHeight = (font: LegendFont = 'plain'): number =>
  font === 'single' ? SINGLE_CAP : capHeightOf(facesOf[font][0])

/** Room between characters as engraved, in millimetres. */
export const SPACING_MM: Millimetres = 0.25

/** A piece of a text that is set in one face. */
export interface Run {
  readonly text: string
  readonly face: OutlineFace
  /** By how much this face is set larger, so that capitals of all are of one height. */
  readonly scale: number
}

/** What stands for a letter that no face has: an empty box, half as wide as the size. */
const MISSING = 0.6

/**
 * A text as pieces of one face each. A word with a letter that the font's own face lacks is set whole in the other, so
 * that its letters match; of signs only those that are lacking.
 */
export const runsOf = (text: string, font: Exclude<LegendFont, 'single'>): Run[] => {
  const [own, other] = facesOf[font]
  const runs: Run[] = []
  const add = (c: string, face: OutlineFace) => {
    const last = runs.at(-1)
    if (last?.face === face) runs[runs.length - 1] = { ...last, text: last.text + c }
    else runs.push({ text: c, face, scale: face === own ? 1 : capHeightOf(own) / capHeightOf(face) })
  }
  for (const word of text.normalize('NFC').split(/(\s+)/)) {
    const letters = [...word]
    const lacks = (c: string) => widthIn(own, c) === null && widthIn(other, c) !== null
    const whole = letters.some((c) => /\p{L}/u.test(c) && lacks(c))
    for (const c of letters) add(c, lacks(c) || (whole && widthIn(other, c) !== null) ? other : own)
  }
  return runs
}

/** Characters of a text that no face of a font has, each once. */
export const missingLetters = (text: string, font: LegendFont = 'plain'): string[] => {
  const has = (c: string): boolean =>
    font === 'single' ? hasStroke(c) : facesOf[font].some((face) => widthIn(face, c) !== null)
  return [...new Set(text.normalize('NFC'))].filter((c) => !has(c))
}

/** How wide a legend is, set with the spacing used for engraving. */
export const textWidth = (text: string, sizeMm: Millimetres, font: LegendFont = 'plain'): Millimetres => {
  let width = 0
  if (font === 'single') for (const c of text.normalize('NFC')) width += strokeWidth(c) * sizeMm + SPACING_MM
  else
    for (const run of runsOf(text, font))
      for (const c of run.text) width += (widthIn(run.face, c) ?? MISSING) * run.scale * sizeMm + SPACING_MM
  return Math.max(0, width - SPACING_MM)
}
