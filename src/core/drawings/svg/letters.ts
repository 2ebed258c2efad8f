import { Element, Text } from 'domhandler'
import { combined, type Matrix, placedAt, through } from '../../geometry/matrix'
import type { FoundLetters } from '../drawing'
import { NotRead } from './lengths'

/** What is asked of a text's elements while it is read. */
export interface TextStyle {
  readonly fontSize: number
  readonly anchor: FoundLetters['anchor']
  readonly isSeen: boolean
  /** A coordinate list of one number; undefined where nothing is said. Throws for one number a letter. */
  readonly place: (name: 'x' | 'y' | 'dx' | 'dy') => number | undefined
}

/** Capitals of a usual face are this high, as a share of the size that the file says. */
const CAPITAL = 0.7

/**
 * The words of a text element (SVG 2, 11.2): a new line of letters begins where a place is said. Throws
 * {@link NotRead} for letters on a path, set one by one, mirrored or slanted.
 */
export const lettersOf = (
  text: Element,
  m: Matrix,
  layer: string,
  styleOf: (e: Element) => TextStyle,
): FoundLetters[] => {
  const runs: { words: string; x: number; y: number; style: TextStyle }[] = []
  let pen = { x: 0, y: 0 }
  let fresh = true
  const walk = (e: Element): void => {
    const style = styleOf(e)
    const [x, y] = [style.place('x'), style.place('y')]
    const [dx = 0, dy = 0] = [style.place('dx'), style.place('dy')]
    if (x !== undefined || y !== undefined || dy !== 0 || e === text) {
      pen = { x: (x ?? pen.x) + dx, y: (y ?? pen.y) + dy }
      fresh = true
    } else if (dx !== 0) throw new NotRead('letters')
    for (const child of e.children) {
      if (child instanceof Text) {
        if (!style.isSeen) continue
        const last = runs.at(-1)
        if (fresh || !last) {
          if (child.data.trim() === '') continue
          runs.push({ words: child.data, ...pen, style })
          fresh = false
        } else if (child.data.trim() !== '' && last.style.fontSize !== style.fontSize)
          throw new NotRead('letters')
        else last.words += child.data
      } else if (child instanceof Element) {
        if (child.name === 'tspan' || child.name === 'a') walk(child)
        else if (child.name === 'textPath' || child.name === 'tref') throw new NotRead('letters')
      }
    }
  }
  walk(text)
  const [sx, sy] = [Math.hypot(m.a, m.b), Math.hypot(m.c, m.d)]
  const flat =
    m.a * m.d - m.b * m.c > 0 &&
    Math.abs(sx - sy) < 1e-3 * sx &&
    Math.abs(m.a * m.c + m.b * m.d) < 1e-3 * sx * sy
  if (!flat) throw new NotRead('letters')
  return runs.map(({ words, x, y, style }) => ({
    text: words.replace(/\s+/g, ' ').trim(),
    at: through(combined(m, placedAt(x, y)), { x: 0, y: 0 }),
    capHeight: style.fontSize * CAPITAL * sx,
    deg: (Math.atan2(m.b, m.a) * 180) / Math.PI,
    anchor: style.anchor,
    layer,
  }))
}
