import type { Millimetres } from '../../units-of-measure'
import type { PaperMark, PaperSheet } from './marks'
import { fitted } from './paper-text'
import type { WireLine } from './wire-list'

/** Labels to be wrapped round both ends of each wire, on A4. */
const PAGE = { widthMm: 210, heightMm: 297, marginMm: 10 }
const LABEL = { widthMm: 47.5, heightMm: 13.8 }
const COLUMNS = Math.floor((PAGE.widthMm - 2 * PAGE.marginMm) / LABEL.widthMm)
const ROWS = Math.floor((PAGE.heightMm - 2 * PAGE.marginMm) / LABEL.heightMm)

const INSIDE_MM: Millimetres = 1.3
const ROOM_MM = LABEL.widthMm - 2 * INSIDE_MM
/** What the two ends are written in, the largest first; each has two lines. */
const SIZES: readonly Millimetres[] = [2.2, 2, 1.8, 1.6, 1.4, 1.2]
const END_MM: Millimetres = 4.4

/** An end in at most two lines: smaller where it is long, and never cut off. */
const endMarks = (text: string, x: number, y: number): PaperMark[] => {
  const { lines, sizeMm } = fitted(text, ROOM_MM, SIZES, 2)
  // What fits in no size takes as many lines as there is room for, close together.
  const step = Math.min(sizeMm * 1.05, END_MM / lines.length)
  const size = Math.min(sizeMm, step / 1.02)
  return lines.map((line, i) => ({
    is: 'text',
    x,
    y: y + size * 0.9 + i * step,
    text: line,
    sizeMm: size,
    anchor: 'start',
  }))
}

/** A label tells the wire, which of its ends this is, and where the other one is. */
const labelMarks = (line: WireLine, here: string, there: string, x: number, y: number): PaperMark[] => [
  { is: 'box', x, y, width: LABEL.widthMm, height: LABEL.heightMm, dashed: true },
  {
    is: 'text',
    x: x + INSIDE_MM,
    y: y + 3.7,
    text: line.number,
    sizeMm: 3.4,
    anchor: 'start',
    bold: true,
  },
  {
    is: 'text',
    x: x + LABEL.widthMm - INSIDE_MM,
    y: y + 3.6,
    text: line.colour,
    sizeMm: 2.2,
    anchor: 'end',
  },
  ...endMarks(`at ${here}`, x + INSIDE_MM, y + 4.6),
  ...endMarks(`to ${there}`, x + INSIDE_MM, y + 9.1),
]

/** Two labels for each wire, side by side, sheet after sheet. */
export const labelSheets = (lines: readonly WireLine[]): PaperSheet[] => {
  const labels = lines.flatMap((line) => [
    { line, here: line.from, there: line.to },
    { line, here: line.to, there: line.from },
  ])
  const perSheet = COLUMNS * ROWS
  const sheets: PaperSheet[] = []
  for (let from = 0; from < labels.length; from += perSheet) {
    const marks = labels.slice(from, from + perSheet).flatMap(({ line, here, there }, i) => {
      const x = PAGE.marginMm + (i % COLUMNS) * LABEL.widthMm
      const y = PAGE.marginMm + Math.floor(i / COLUMNS) * LABEL.heightMm
      return labelMarks(line, here, there, x, y)
    })
    sheets.push({ widthMm: PAGE.widthMm, heightMm: PAGE.heightMm, marks })
  }
  return sheets
}
