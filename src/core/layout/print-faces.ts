import { PDFDocument } from 'pdf-lib'
import { placedAt, transformed } from '../geometry/matrix'
import { pathData } from '../geometry/path-data'
import type { Lettering } from '../lettering/outlines'
import type { Millimetres } from '../units-of-measure'
import type { PrintedFace } from './dial-drawing'
import { type Paper, papers } from './papers'
import { foot, MARGIN_MM, pageOf, roomOf } from './pdf-sheet'
import { escaped, HAIRLINE_MM, layerColours } from './write-svg'

/** Room for the scissors. */
const BETWEEN_MM: Millimetres = 4

interface Placed {
  readonly face: PrintedFace
  readonly x: Millimetres
  readonly y: Millimetres
}

/** Faces on as few pages as rows of them take, the larger first; those larger than a page are left over. */
export const facesOnPages = (
  faces: readonly PrintedFace[],
  [width, height]: readonly [Millimetres, Millimetres],
): { pages: Placed[][]; tooLarge: PrintedFace[] } => {
  const fits = (f: PrintedFace) => 2 * f.radius <= Math.min(width, height)
  const pages: Placed[][] = []
  let page: Placed[] = []
  let [x, y, rowHeight] = [0, 0, 0]
  for (const face of faces.filter(fits).toSorted((a, b) => b.radius - a.radius)) {
    const size = 2 * face.radius
    if (x + size > width) [x, y, rowHeight] = [0, y + rowHeight + BETWEEN_MM, 0]
    if (y + size > height || pages.length === 0) {
      page = []
      pages.push(page)
      ;[x, y, rowHeight] = [0, 0, 0]
    }
    page.push({ face, x, y })
    x += size + BETWEEN_MM
    rowHeight = Math.max(rowHeight, size)
  }
  return { pages, tooLarge: faces.filter((f) => !fits(f)) }
}

/** Faces in their colours at 1:1, with a bar to measure on each page; or the names of those that are larger than the paper. */
export const printFaces = async (
  title: string,
  faces: readonly PrintedFace[],
  lettering: Lettering,
  paper: Paper,
): Promise<Uint8Array | { readonly tooLarge: readonly string[] }> => {
  const pageMm = papers[paper]
  const { pages, tooLarge } = facesOnPages(faces, roomOf(pageMm))
  if (tooLarge.length > 0) return { tooLarge: tooLarge.map((f) => f.name) }
  const pdf = await PDFDocument.create()
  pdf.setTitle(title)
  for (const [i, placed] of pages.entries()) {
    const sheet = pageOf(pdf, pageMm)
    for (const { face, x, y } of placed) {
      const there = placedAt(MARGIN_MM + x, MARGIN_MM + y)
      for (const { colour, contours } of face.inks)
        sheet.fill(
          contours.map((c) => transformed(c, there)),
          colour,
        )
      for (const c of face.cut) sheet.draw(transformed(c, there), 'cut')
    }
    foot(
      sheet,
      lettering,
      pageMm,
      `${title}${pages.length > 1 ? `   page ${i + 1} of ${pages.length}` : ''}   1:1`,
    )
  }
  return pdf.save()
}

/** A face in its colours as SVG in millimetres, with the line along which it is cut out. */
export const faceSvg = ({ name, radius, inks, cut }: PrintedFace): string => {
  const size = Math.round(2 * radius * 1e4) / 1e4
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${size}mm" height="${size}mm" viewBox="0 0 ${size} ${size}">`,
    `  <title>${escaped(name)}</title>`,
    '  <g id="print" stroke="none">',
    ...inks.map((i) => `    <path fill="${i.colour}" d="${i.contours.map(pathData).join('')}"/>`),
    '  </g>',
    `  <g id="cut" fill="none" stroke="${layerColours.cut}" stroke-width="${HAIRLINE_MM}">`,
    ...cut.map((c) => `    <path d="${pathData(c)}"/>`),
    '  </g>',
    '</svg>',
    '',
  ].join('\n')
}
