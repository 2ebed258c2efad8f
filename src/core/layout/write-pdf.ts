import {
  appendBezierCurve,
  clip,
  closePath,
  endPath,
  lineTo,
  moveTo,
  PDFDocument,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  rgb,
  setLineWidth,
  setStrokingColor,
  stroke,
} from 'pdf-lib'
import { withoutArcs } from '../geometry/arcs'
import { type Contour, type Point, point, polygon } from '../geometry/contour'
import { placedAt, transformed } from '../geometry/matrix'
import type { Lettering } from '../lettering/outlines'
import type { Millimetres } from '../units-of-measure'
import { type CutDrawing, type LayerName, layerNames } from './cut-drawing'
import { type Paper, papers } from './papers'
import { contoursOfLayer, layerColours } from './write-svg'

const POINTS_PER_MM = 72 / 25.4
/** What home printers leave free, and how far sheets reach over each other to be joined. */
const MARGIN_MM = 12
const FOOT_MM = 14
const OVERLAP_MM = 10
const SCALE_BAR_MM = 100
const LINE_MM = 0.1

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
    const roomMm = [pageMm[0] - 2 * MARGIN_MM, pageMm[1] - 2 * MARGIN_MM - FOOT_MM] as const
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
    const page = pdf.addPage([pageMm[0] * POINTS_PER_MM, pageMm[1] * POINTS_PER_MM])
    const sheet = new Sheet(page, pageMm[1])
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

/** A bar of 100 mm to hold a ruler to, and what the sheet is. */
const foot = (
  sheet: Sheet,
  lettering: Lettering,
  [, height]: readonly [Millimetres, Millimetres],
  words: string,
): void => {
  const y = height - MARGIN_MM
  const bar = (from: Point, to: Point) => sheet.draw(polygon([from, to], false), 'cut')
  bar(point(MARGIN_MM, y), point(MARGIN_MM + SCALE_BAR_MM, y))
  for (let mm = 0; mm <= SCALE_BAR_MM; mm += 10) {
    const long = mm % 50 === 0 ? 4 : 2
    bar(point(MARGIN_MM + mm, y), point(MARGIN_MM + mm, y - long))
  }
  const write = (text: string, x: Millimetres, size: Millimetres) => {
    for (const c of lettering.outlines(text, size).contours)
      sheet.draw(transformed(c, placedAt(x, y - 5.5)), 'reference')
  }
  write(`100 mm: measure it before you cut      ${words}`, MARGIN_MM, 2.6)
}

/** A page in millimetres with y downwards. */
class Sheet {
  constructor(
    private readonly page: PDFPage,
    private readonly heightMm: Millimetres,
  ) {}

  private x(p: Point): number {
    return p.x * POINTS_PER_MM
  }

  private y(p: Point): number {
    return (this.heightMm - p.y) * POINTS_PER_MM
  }

  clipTo(x: Millimetres, y: Millimetres, width: Millimetres, height: Millimetres): void {
    const corner = point(x, y + height)
    this.page.pushOperators(
      pushGraphicsState(),
      rectangle(this.x(corner), this.y(corner), width * POINTS_PER_MM, height * POINTS_PER_MM),
      clip(),
      endPath(),
    )
  }

  unclip(): void {
    this.page.pushOperators(popGraphicsState())
  }

  draw(contour: Contour, layer: LayerName): void {
    const curve = withoutArcs(contour)
    const [r, g, b] = [1, 3, 5].map((i) => Number.parseInt(layerColours[layer].slice(i, i + 2), 16) / 255)
    this.page.pushOperators(
      setStrokingColor(rgb(r ?? 0, g ?? 0, b ?? 0)),
      setLineWidth(LINE_MM * POINTS_PER_MM),
      moveTo(this.x(curve.start), this.y(curve.start)),
      ...curve.segments.map((s) =>
        s.is === 'cubic'
          ? appendBezierCurve(
              this.x(s.c1),
              this.y(s.c1),
              this.x(s.c2),
              this.y(s.c2),
              this.x(s.to),
              this.y(s.to),
            )
          : lineTo(this.x(s.to), this.y(s.to)),
      ),
      ...(curve.closed ? [closePath()] : []),
      stroke(),
    )
  }
}
