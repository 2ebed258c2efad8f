import type { Contour } from '../geometry/contour'
import { placedAt, transformed } from '../geometry/matrix'
import { contoursOf } from '../geometry/read-path-data'
import type { Millimetres } from '../units-of-measure'
import { hershey } from './hershey'
import {
  alikeLetters,
  crossedLetters,
  drawnLetters,
  marksAbove,
  marksBelow,
  smallCapitals,
} from './single-line-letters'

/** Heights of capitals and small letters in the face's own units. */
const CAPITAL = 21
const SMALL = 14
const ABOVE = 2
/** Height of capitals as a share of the size, as in the plain face. */
export const SINGLE_CAP = 0.76
const UNIT = SINGLE_CAP / CAPITAL
/** What stands for a letter that is missing. */
const MISSING = { width: 18, strokes: [] }
/** Room that a tool needs between letters as Hershey set them is less than he left for a screen. */
const TIGHTER = 2

interface Stroked {
  readonly width: number
  /** On the base line, y upwards. */
  readonly strokes: readonly Contour[]
}

const parsed = (text: string): Stroked => {
  const bar = text.indexOf('|')
  const d = text.slice(bar + 1)
  return { width: Number(text.slice(0, bar)), strokes: d === '' ? [] : contoursOf(d) }
}

const known = new Map<string, Stroked | null>()

/** A letter's strokes: Hershey's, drawn to match, or put together from a letter and its marks. */
const letterOf = (c: string): Stroked | null => {
  let found = known.get(c)
  if (found === undefined) {
    found = made(c)
    known.set(c, found)
  }
  return found
}

const own = (table: Readonly<Record<string, string>>, c: string): string | undefined =>
  Object.hasOwn(table, c) ? table[c] : undefined

const made = (c: string): Stroked | null => {
  // Where Hershey doubled a line for the eye, the tool has one of ours.
  const text = own(drawnLetters, c) ?? own(hershey, c)
  if (text !== undefined) return parsed(text)
  const alike = own(alikeLetters, c)
  if (alike !== undefined) return letterOf(alike)
  const capital = own(smallCapitals, c)
  if (capital !== undefined) return smaller(letterOf(capital))
  const crossed = Object.hasOwn(crossedLetters, c) ? crossedLetters[c] : undefined
  if (crossed) {
    const base = letterOf(crossed[0])
    return base && { ...base, strokes: [...base.strokes, ...contoursOf(crossed[1])] }
  }
  return marked(c)
}

/** Small letters are not as much narrower than capitals as they are lower. */
const NARROWER = 0.8

const smaller = (letter: Stroked | null): Stroked | null => {
  if (!letter) return null
  const m = { ...placedAt(0, 0), a: NARROWER, d: SMALL / CAPITAL }
  return { width: Math.round(letter.width * NARROWER), strokes: letter.strokes.map((k) => transformed(k, m)) }
}

/** Whether a letter is as high as a capital where a mark would stand. */
const isTall = (c: string): boolean => c !== c.toLowerCase() || /[bdfhklt]/.test(c)

/** A letter with marks above and below it, by its canonical decomposition (Unicode, NFD). */
const marked = (c: string): Stroked | null => {
  const [first = '', ...marks] = [...c.normalize('NFD')]
  if (marks.length === 0) return null
  const bare = marks.some((m) => own(marksAbove, m) !== undefined)
    ? { i: 'ı', j: 'ȷ', і: 'ı', ј: 'ȷ' }[first]
    : undefined
  const base = letterOf(bare ?? first)
  if (!base) return null
  const strokes = [...base.strokes]
  let top = (isTall(first) ? CAPITAL : SMALL) + ABOVE
  for (const mark of marks) {
    const [above, below] = [own(marksAbove, mark), own(marksBelow, mark)]
    if (above === undefined && below === undefined) return null
    const at = placedAt(base.width / 2, above === undefined ? 0 : top)
    strokes.push(...contoursOf(above ?? below ?? '').map((k) => transformed(k, at)))
    if (above !== undefined) top += 6
  }
  return { width: base.width, strokes }
}

export const hasStroke = (c: string): boolean => letterOf(c) !== null

/** How wide a letter is, as a share of the size. */
export const strokeWidth = (c: string): number => Math.max(2, (letterOf(c) ?? MISSING).width - TIGHTER) * UNIT

/** The strokes of a text on a base line that begins at the origin, y downwards. */
export const strokesOf = (
  text: string,
  sizeMm: Millimetres,
  spacingMm: Millimetres,
): { contours: readonly Contour[]; widthMm: Millimetres } => {
  const contours: Contour[] = []
  const scale = UNIT * sizeMm
  let x = 0
  for (const c of text.normalize('NFC')) {
    const letter = letterOf(c) ?? MISSING
    const there = { ...placedAt(x - (TIGHTER / 2) * scale, 0), a: scale, d: -scale }
    contours.push(...letter.strokes.map((s) => transformed(s, there)))
    x += strokeWidth(c) * sizeMm + spacingMm
  }
  return { contours, widthMm: Math.max(0, x - spacingMm) }
}
