import { PDFDocument } from 'pdf-lib'
import { point, polygon } from '../geometry/contour'
import { placedAt, transformed } from '../geometry/matrix'
import type { Lettering } from '../lettering/outlines'
import type { Millimetres } from '../units-of-measure'
import { type CutDrawing, layerNames } from './cut-drawing'
import { type Paper, papers } from './papers'
import { foot, MARGIN_MM, pageOf, roomOf, type Sheet } from './pdf-sheet'
import { contoursOfLayer } from './write-svg'

/** How far sheets reach over each other to be joined. */
const OVERLAP_MM = 10

interface Tile {
  readonly column: number
  readonly row: number
  readonly x: Millimetres
  readonly y: Millimetres
}

/** How a drawing lies on sheets: upright or across, whichever takes fewer; one sheet stands in its middle. */
export const tilesFor = (
  widthMm: Millimetres,
  heightMm: Millimetres,
  paper: Paper,
): {
  pageMm: readonly [Millimetres, Millimetres]
  roomMm: readonly [Millimetres, Millimetres]
  tiles: Tile[]
} => {
  const [w, h] = papers[paper]
  const ways = (
    [
      [w, h],
      [h, w],
    ] as const
  ).map((pageMm) => {
    const roomMm = roomOf(pageMm)
    const count = (size: number, room: number) =>
      size <= room ? 1 : Math.ceil((size - OVERLAP_MM) / (room - OVERLAP_MM))
    const [columns, rows] = [count(widthMm, roomMm[0]), count(heightMm, roomMm[1])]
    const tiles = Array.from({ length: columns * rows }, (_, i) => {
      const [column, row] = [i % columns, Math.floor(i / columns)]
      return {
        column,
        row,
        x: columns === 1 ? (widthMm - roomMm[0]) / 2 : column * (roomMm[0] - OVERLAP_MM),
        y: rows === 1 ? (heightMm - roomMm[1]) / 2 : row * (roomMm[1] - OVERLAP_MM),
      }
    })
    return { pageMm, roomMm, tiles }
  })
  const [upright, across] = ways
  if (!upright || !across) throw new Error('paper has two ways to lie')
  return across.tiles.length < upright.tiles.length ? across : upright
}

/** A drawing at 1:1 over as many sheets as it takes, with marks to join them and a bar to measure on each. */
export const writePdf = async (
  drawing: CutDrawing,
  lettering: Lettering,
  paper: Paper,
): Promise<Uint8Array> => {
  const { minX, minY, maxX, maxY } = drawing.box
  const { pageMm, roomMm, tiles } = tilesFor(maxX - minX, maxY - minY, paper)
  const pdf = await PDFDocument.create()
  pdf.setTitle(drawing.name)
  for (const [i, tile] of tiles.entries()) {
    const sheet = pageOf(pdf, pageMm)
    sheet.clipTo(MARGIN_MM, MARGIN_MM, roomMm[0], roomMm[1])
    const shift = placedAt(MARGIN_MM - tile.x - minX, MARGIN_MM - tile.y - minY)
    for (const layer of layerNames)
      for (const contour of contoursOfLayer(drawing, layer)) sheet.draw(transformed(contour, shift), layer)
    sheet.unclip()
    if (tiles.length > 1) joinMarks(sheet, roomMm)
    const words = `${drawing.name}${tiles.length > 1 ? `   sheet ${i + 1} of ${tiles.length}: column ${tile.column + 1}, row ${tile.row + 1}` : ''}   1:1`
    foot(sheet, lettering, pageMm, words)
  }
  return pdf.save()
}

/** Crosses at the corners of the room, OVERLAP_MM from which the next sheet begins. */
const joinMarks = (sheet: Sheet, [w, h]: readonly [Millimetres, Millimetres]): void => {
  const arm = 4
  for (const x of [MARGIN_MM, MARGIN_MM + OVERLAP_MM, MARGIN_MM + w - OVERLAP_MM, MARGIN_MM + w])
    for (const y of [MARGIN_MM, MARGIN_MM + OVERLAP_MM, MARGIN_MM + h - OVERLAP_MM, MARGIN_MM + h]) {
      sheet.draw(polygon([point(x - arm / 2, y), point(x + arm / 2, y)], false), 'reference')
      sheet.draw(polygon([point(x, y - arm / 2), point(x, y + arm / 2)], false), 'reference')
    }
}
