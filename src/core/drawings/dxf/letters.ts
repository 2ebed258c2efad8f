import type { Point } from '../../geometry/contour'
import { combined, type Matrix, through } from '../../geometry/matrix'
import type { FoundLetters } from '../drawing'
import { planeOf, pointOf } from './flat'
import { type Entity, numberOf, textOf } from './groups'

/** Words of a thing in its own plane, before they are laid on the drawing's, with y upwards. */
interface Words {
  readonly text: string
  readonly at: Point
  readonly height: number
  /** Against the clock. */
  readonly deg: number
  readonly anchor: FoundLetters['anchor']
}

/** Lines of one text lie this much of their capitals' height apart (DXF reference, MTEXT, group 44). */
const LINE = 5 / 3

/** TEXT, ATTRIB and MTEXT as words; null for other things, and for words that legends cannot be. */
export const lettersOf = (e: Entity, m: Matrix, layer: string): FoundLetters[] | null => {
  const words = e.type === 'MTEXT' ? paragraph(e) : e.type === 'TEXT' || e.type === 'ATTRIB' ? line(e) : null
  const plane = e.type === 'MTEXT' ? flatParagraph(e) : planeOf(e)
  if (words === null || plane === null) return null
  // A mirrored or slanted text is none that could be set.
  const there = combined(m, plane)
  const [sx, sy] = [Math.hypot(there.a, there.b), Math.hypot(there.c, there.d)]
  const det = there.a * there.d - there.b * there.c
  if (det <= 0 || Math.abs(sx - sy) > 1e-6 * sx || Math.abs(there.a * there.c + there.b * there.d) > 1e-6)
    return null
  const turned = (Math.atan2(there.b, there.a) * 180) / Math.PI
  return words
    .filter((w) => w.text.trim() !== '' && w.height > 0)
    .map((w) => {
      const at = through(there, w.at)
      return {
        text: w.text.trim(),
        at: { x: at.x, y: -at.y },
        capHeight: w.height * sx,
        deg: -(turned + w.deg) + 0,
        anchor: w.anchor,
        layer,
      }
    })
}

/** A paragraph's place is given in the drawing, not in its own plane. */
const flatParagraph = (e: Entity): Matrix | null => {
  const plane = planeOf(e)
  return plane === null || plane.a < 0 ? null : plane
}

const signs: Readonly<Record<string, string>> = { c: '⌀', d: '°', p: '±' }

/** What codes in a text stand for: %%c, %%d, %%p, and \U+ with four digits. */
const plainText = (text: string): string =>
  text
    .replace(/%%([cdp])/gi, (_, c: string) => signs[c.toLowerCase()] ?? '')
    .replace(/%%[uok]/gi, '')
    .replace(/\\U\+([0-9a-f]{4})/gi, (_, hex: string) => String.fromCodePoint(Number.parseInt(hex, 16)))

/** A text of one line; its justification is in 72 and 73, and then its place is the second point. */
const line = (e: Entity): Words[] | null => {
  const across = numberOf(e, 72, 0)
  const up = numberOf(e, e.type === 'ATTRIB' ? 74 : 73, 0)
  // Bit 2: backwards, bit 4: upside down.
  if (across === 3 || across === 5 || numberOf(e, 71, 0) !== 0) return null
  if (e.type === 'ATTRIB' && (numberOf(e, 70, 0) & 1) !== 0) return []
  const height = numberOf(e, 40, 0)
  const deg = numberOf(e, 50, 0)
  const at = across === 0 && up === 0 ? pointOf(e, 10) : pointOf(e, 11)
  const middled = across === 4 || up === 2
  const drop = middled ? height / 2 : up === 3 ? height : 0
  const anchor = across === 1 || across === 4 ? 'middle' : across === 2 ? 'end' : 'start'
  return [{ text: plainText(textOf(e, 1) ?? ''), at: lowered(at, drop, deg), height, deg, anchor }]
}

/** A point moved down by so much, as seen along a line that is turned. */
const lowered = (p: Point, by: number, deg: number): Point => {
  const a = (deg * Math.PI) / 180
  return { x: p.x + by * Math.sin(a), y: p.y - by * Math.cos(a) }
}

/** A text of several lines with codes of its own for fonts, heights and colours, which are left away. */
const paragraph = (e: Entity): Words[] => {
  const text = [
    ...e.groups.filter((g) => g.code === 3).map((g) => g.value),
    ...e.groups.filter((g) => g.code === 1).map((g) => g.value),
  ].join('')
  const lines = plainText(text)
    .replace(/\\[ACFHQTWfp][^;]*;/g, '')
    .replace(/\\S([^;]*);/g, (_, s: string) => s.replace(/[#^]/, '/'))
    .replace(/\\[LlOoKk]/g, '')
    .replace(/\\~/g, ' ')
    .replace(/(?<!\\)[{}]/g, '')
    .split('\\P')
    .map((l) => l.replace(/\\([\\{}])/g, '$1'))
  const height = numberOf(e, 40, 0)
  const deg =
    textOf(e, 11) === undefined
      ? numberOf(e, 50, 0)
      : (Math.atan2(numberOf(e, 21, 0), numberOf(e, 11, 1)) * 180) / Math.PI
  const attached = numberOf(e, 71, 1)
  const step = LINE * height * numberOf(e, 44, 1)
  const whole = (lines.length - 1) * step + height
  const above = attached <= 3 ? 0 : attached <= 6 ? whole / 2 : whole
  const anchor = (['start', 'middle', 'end'] as const)[(attached - 1) % 3] ?? 'start'
  return lines.map((l, i) => ({
    text: l,
    at: lowered(pointOf(e, 10), height + i * step - above, deg),
    height,
    deg,
    anchor,
  }))
}
