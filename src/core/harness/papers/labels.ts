import type { PaperMark, PaperSheet } from './marks'
import type { WireLine } from './wire-list'

/** Labels to be wrapped round both ends of each wire, on A4. */
const PAGE = { widthMm: 210, heightMm: 297, marginMm: 10 }
const LABEL = { widthMm: 38, heightMm: 9 }
const COLUMNS = Math.floor((PAGE.widthMm - 2 * PAGE.marginMm) / LABEL.widthMm)
const ROWS = Math.floor((PAGE.heightMm - 2 * PAGE.marginMm) / LABEL.heightMm)
const MOST = 26

const short = (text: string): string => (text.length > MOST ? `${text.slice(0, MOST - 1)}…` : text)

/** A label tells the wire, and where its far end is: what one wants to know with this end in the hand. */
const labelMarks = (line: WireLine, farEnd: string, x: number, y: number): PaperMark[] => [
  { is: 'box', x, y, width: LABEL.widthMm, height: LABEL.heightMm, dashed: true },
  { is: 'text', x: x + 1.2, y: y + 4, text: line.number, sizeMm: 3.4, anchor: 'start', bold: true },
  { is: 'text', x: x + LABEL.widthMm - 1.2, y: y + 4, text: line.colour, sizeMm: 2.2, anchor: 'end' },
  { is: 'text', x: x + 1.2, y: y + 7.6, text: short(farEnd), sizeMm: 2.2, anchor: 'start' },
]

/** Two labels for each wire, side by side, sheet after sheet. */
export const labelSheets = (lines: readonly WireLine[]): PaperSheet[] => {
  const labels = lines.flatMap((line) => [
    { line, farEnd: line.to },
    { line, farEnd: line.from },
  ])
  const perSheet = COLUMNS * ROWS
  const sheets: PaperSheet[] = []
  for (let from = 0; from < labels.length; from += perSheet) {
    const marks = labels.slice(from, from + perSheet).flatMap(({ line, farEnd }, i) => {
      const x = PAGE.marginMm + (i % COLUMNS) * LABEL.widthMm
      const y = PAGE.marginMm + Math.floor(i / COLUMNS) * LABEL.heightMm
      return labelMarks(line, farEnd, x, y)
    })
    sheets.push({ widthMm: PAGE.widthMm, heightMm: PAGE.heightMm, marks })
  }
  return sheets
}
