import {
  appendBezierCurve,
  clip,
  closePath,
  endPath,
  fill,
  lineTo,
  moveTo,
  type PDFDocument,
  type PDFOperator,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  rgb,
  setFillingColor,
  setLineWidth,
  setStrokingColor,
  stroke,
} from 'pdf-lib'
import { withoutArcs } from '../geometry/arcs'
import { type Contour, type Point, point, polygon } from '../geometry/contour'
import { placedAt, transformed } from '../geometry/matrix'
import type { Lettering } from '../lettering/outlines'
import type { Millimetres } from '../units-of-measure'
import type { LayerName } from './cut-drawing'
import { layerColours } from './write-svg'

const POINTS_PER_MM = 72 / 25.4
/** What home printers leave free. */
export const MARGIN_MM = 12
const FOOT_MM = 14
const SCALE_BAR_MM = 100
const LINE_MM = 0.1

type Size = readonly [Millimetres, Millimetres]

/** What can be printed on of a page, above its foot. */
export const roomOf = ([width, height]: Size): Size => [
  width - 2 * MARGIN_MM,
  height - 2 * MARGIN_MM - FOOT_MM,
]

/** Another page of so many millimetres. */
export const pageOf = (pdf: PDFDocument, [width, height]: Size): Sheet =>
  new Sheet(pdf.addPage([width * POINTS_PER_MM, height * POINTS_PER_MM]), height)

/** A bar of 100 mm to hold a ruler to, and what the sheet is. */
export const foot = (
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
export class Sheet {
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

  /** A line that a tool follows, or that is held against something. */
  draw(contour: Contour, layer: LayerName): void {
    this.page.pushOperators(
      setStrokingColor(colourOf(layerColours[layer])),
      setLineWidth(LINE_MM * POINTS_PER_MM),
      ...this.along(contour),
      stroke(),
    )
  }

  /** What lies within these is printed in a colour; a hole runs the other way round. */
  fill(contours: readonly Contour[], colour: string): void {
    this.page.pushOperators(
      setFillingColor(colourOf(colour)),
      ...contours.flatMap((c) => this.along(c)),
      fill(),
    )
  }

  private along(contour: Contour): PDFOperator[] {
    const curve = withoutArcs(contour)
    return [
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
    ]
  }
}

const colourOf = (hex: string) => {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16) / 255)
  return rgb(r, g, b)
}
