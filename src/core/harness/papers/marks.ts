import fontkit from '@pdf-lib/fontkit'
import { PDFDocument, rgb } from 'pdf-lib'
import type { Millimetres } from '../../units-of-measure'
import { paperWidth, printable } from './paper-text'

/** What a paper is made of, in millimetres from its upper left corner. */
export type PaperMark =
  | {
      readonly is: 'box'
      readonly x: Millimetres
      readonly y: Millimetres
      readonly width: Millimetres
      readonly height: Millimetres
      readonly dashed?: boolean
      /** White, over what lies below. */
      readonly filled?: boolean
    }
  | {
      readonly is: 'line'
      readonly points: readonly (readonly [Millimetres, Millimetres])[]
      readonly colour: string
      readonly widthMm: Millimetres
    }
  | {
      readonly is: 'text'
      readonly x: Millimetres
      readonly y: Millimetres
      readonly text: string
      readonly sizeMm: Millimetres
      readonly anchor: 'start' | 'middle' | 'end'
      readonly bold?: boolean
    }

export interface PaperSheet {
  readonly widthMm: Millimetres
  readonly heightMm: Millimetres
  readonly marks: readonly PaperMark[]
}

const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

const n = (x: number): string => String(Math.round(x * 100) / 100)

const svgMark = (m: PaperMark): string => {
  switch (m.is) {
    case 'box':
      return `<rect x="${n(m.x)}" y="${n(m.y)}" width="${n(m.width)}" height="${n(m.height)}" fill="${m.filled ? '#ffffff' : 'none'}" stroke="#13222b" stroke-width="0.25"${m.dashed ? ' stroke-dasharray="1 1"' : ''}/>`
    case 'line':
      return `<polyline points="${m.points.map(([x, y]) => `${n(x)},${n(y)}`).join(' ')}" fill="none" stroke="${m.colour}" stroke-width="${n(m.widthMm)}"/>`
    case 'text':
      return `<text x="${n(m.x)}" y="${n(m.y)}" font-size="${n(m.sizeMm)}" text-anchor="${m.anchor}"${m.bold ? ' font-weight="bold"' : ''}>${escaped(m.text)}</text>`
  }
}

const SHEET_GAP_MM = 6

/** Sheets as one SVG in millimetres, one below the other. */
export const marksSvg = (sheets: readonly PaperSheet[], title: string): string => {
  const width = Math.max(0, ...sheets.map((s) => s.widthMm))
  let y = 0
  const parts = sheets.map((s) => {
    const at = y
    y += s.heightMm + SHEET_GAP_MM
    return `<g transform="translate(0 ${n(at)})"><rect width="${n(s.widthMm)}" height="${n(s.heightMm)}" fill="#ffffff"/>${s.marks.map(svgMark).join('')}</g>`
  })
  const height = Math.max(0, y - SHEET_GAP_MM)
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}" font-family="'DejaVu Sans Condensed','DejaVu Sans',sans-serif" fill="#13222b"><title>${escaped(title)}</title>${parts.join('')}</svg>\n`
}

const POINTS_PER_MM = 72 / 25.4

const colourOf = (hex: string) => {
  const part = (at: number) => Number.parseInt(hex.slice(at, at + 2), 16) / 255
  return rgb(part(1), part(3), part(5))
}
const ink = colourOf('#13222b')

/** The bytes of the faces that papers are set in. */
export type PaperFonts = Readonly<Record<'plain' | 'bold', ArrayBuffer>>

/** Sheets as the pages of a PDF at 1:1. */
export const marksPdf = async (
  sheets: readonly PaperSheet[],
  title: string,
  fonts: PaperFonts,
): Promise<Uint8Array> => {
  const pdf = await PDFDocument.create()
  pdf.setTitle(title)
  pdf.registerFontkit(fontkit)
  const plain = await pdf.embedFont(fonts.plain, { subset: true })
  const bold = await pdf.embedFont(fonts.bold, { subset: true })
  for (const sheet of sheets) {
    const page = pdf.addPage([sheet.widthMm * POINTS_PER_MM, sheet.heightMm * POINTS_PER_MM])
    const x = (mm: Millimetres) => mm * POINTS_PER_MM
    const y = (mm: Millimetres) => (sheet.heightMm - mm) * POINTS_PER_MM
    for (const m of sheet.marks) {
      if (m.is === 'box')
        page.drawRectangle({
          ...{ x: x(m.x), y: y(m.y + m.height), width: x(m.width), height: x(m.height) },
          ...{ borderColor: ink, borderWidth: x(0.25) },
          ...(m.filled ? { color: rgb(1, 1, 1) } : {}),
          ...(m.dashed ? { borderDashArray: [x(1), x(1)] } : {}),
        })
      else if (m.is === 'line')
        for (const [i, [toX, toY]] of m.points.entries()) {
          const from = m.points[i - 1]
          if (from)
            page.drawLine({
              start: { x: x(from[0]), y: y(from[1]) },
              end: { x: x(toX), y: y(toY) },
              thickness: x(m.widthMm),
              color: colourOf(m.colour),
            })
        }
      else {
        const font = m.bold ? bold : plain
        const text = printable(m.text, m.bold)
        const size = x(m.sizeMm)
        const width = x(paperWidth(text, m.sizeMm, m.bold))
        const shift = m.anchor === 'start' ? 0 : m.anchor === 'middle' ? width / 2 : width
        page.drawText(text, { x: x(m.x) - shift, y: y(m.y), size, font, color: ink })
      }
    }
  }
  return pdf.save()
}
