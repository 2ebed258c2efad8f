import { positionsAspect, rotaryDeg } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { type Box, boundsOf, boxAround } from '../geometry/boxes'
import { type Contour, type Point, point, polygon, rectangle } from '../geometry/contour'
import { flattened } from '../geometry/flatten'
import { placedAt, transformed } from '../geometry/matrix'
import { contoursOf } from '../geometry/read-path-data'
import { capHeight, textWidth } from '../lettering/lettering'
import type { LegendFont } from '../rig/legend-fonts'
import type { LegendRow, PartRow } from '../rig/rows'
import type { Degrees, Millimetres } from '../units-of-measure'

/** What is engraved: words, and lines of some width. */
export type EngravedMark =
  | {
      readonly is: 'text'
      readonly text: string
      /** Where its base line begins, is halved or ends. */
      readonly at: Point
      readonly sizeMm: Millimetres
      readonly anchor: 'start' | 'middle' | 'end'
      readonly deg: Degrees
      readonly font: LegendFont
    }
  | { readonly is: 'lines'; readonly contours: readonly Contour[]; readonly widthMm: Millimetres }

const FRAME_MM = 0.35
const TICK_MM = 0.3
const DRAWN_MM = 0.2
/** Free room between a frame's line and its title. */
const TITLE_GAP_MM = 1.5

/** What each position of a part's switch is called. */
export const positionLabel = (part: PartRow, position: string): string =>
  part.settings.labels?.[position] ?? position.toUpperCase()

/** The angles at which a switch really stops, clockwise from straight up; empty for parts that do not turn. */
export const positionAngles = (part: PartRow): { readonly position: string; readonly deg: Degrees }[] => {
  const kind = partKind(part.kind)
  const aspect = kind && positionsAspect(kind)
  if (kind?.front.look !== 'rotary' || !aspect) return []
  const { stepDeg } = kind.front
  return aspect.positions.map((p, i) => ({
    position: p.id,
    deg: rotaryDeg(aspect.positions.length, i, stepDeg) + part.rotationDeg,
  }))
}

/** A point so far from a middle, at an angle clockwise from straight up. */
export const atAngle = (middle: Point, deg: Degrees, radius: Millimetres): Point => {
  const a = (deg * Math.PI) / 180
  return point(middle.x + radius * Math.sin(a), middle.y - radius * Math.cos(a))
}

/** Everything a legend engraves, in millimetres on its panel; one round a knob needs the part it is tied to. */
export const legendMarks = (legend: LegendRow, part: PartRow | undefined): EngravedMark[] => {
  const { xMm: x, yMm: y, settings } = legend
  switch (settings.kind) {
    case 'text': {
      const { text, sizeMm, anchor, rotationDeg = 0, font = 'plain' } = settings
      return [{ is: 'text', text, at: point(x, y), sizeMm, anchor, deg: rotationDeg, font }]
    }
    case 'tick':
      return [stroke([point(x, y), point(x + settings.lengthMm, y)], TICK_MM)]
    case 'line':
      return [
        stroke([point(x, y), point(x + settings.dxMm, y + settings.dyMm)], settings.widthMm ?? FRAME_MM),
      ]
    case 'frame': {
      const { widthMm: w, heightMm: h, title, sizeMm, font = 'plain' } = settings
      const gap = title === '' ? 0 : textWidth(title, sizeMm, font) + 2 * TITLE_GAP_MM
      const shoulder = Math.max(0, (w - gap) / 2)
      const round = [
        point(x + shoulder, y),
        point(x, y),
        point(x, y + h),
        point(x + w, y + h),
        point(x + w, y),
        point(x + w - shoulder, y),
      ]
      const line = stroke(round, FRAME_MM, title === '')
      if (title === '') return [line]
      const at = point(x + w / 2, y + (sizeMm * capHeight(font)) / 2)
      return [line, { is: 'text', text: title, at, sizeMm, anchor: 'middle', deg: 0, font }]
    }
    case 'drawing':
      return [{ is: 'lines', contours: drawnAt(settings.d, x, y), widthMm: settings.widthMm ?? DRAWN_MM }]
    case 'ring':
      return ringMarks(part, settings)
  }
}

/** Words round a knob at its switch's real positions, with a tick to each where asked. */
const ringMarks = (
  part: PartRow | undefined,
  { radiusMm, sizeMm, ticks, font = 'plain' }: Extract<LegendRow['settings'], { kind: 'ring' }>,
): EngravedMark[] => {
  if (!part) return []
  const middle = point(part.xMm, part.yMm)
  return positionAngles(part).flatMap(({ position, deg }): EngravedMark[] => {
    const text = positionLabel(part, position)
    const out = atAngle(point(0, 0), deg, 1)
    // Away from the knob by as much of the word as points towards it.
    const away =
      radiusMm + Math.abs(out.x) * (textWidth(text, sizeMm, font) / 2) + Math.abs(out.y) * sizeMm * 0.4
    const at = atAngle(middle, deg, away)
    const word: EngravedMark = {
      is: 'text',
      text,
      at: point(at.x, at.y + (sizeMm * capHeight(font)) / 2),
      sizeMm,
      anchor: 'middle',
      deg: 0,
      font,
    }
    if (!ticks) return [word]
    return [
      word,
      stroke([atAngle(middle, deg, radiusMm - 2.6), atAngle(middle, deg, radiusMm - 0.8)], TICK_MM),
    ]
  })
}

/** Path data is read once, however often it is drawn. */
const known = new Map<string, readonly Contour[]>()
const MOST_KNOWN = 200

const drawnAt = (d: string, x: Millimetres, y: Millimetres): Contour[] => {
  let contours = known.get(d)
  if (!contours) {
    if (known.size >= MOST_KNOWN) known.clear()
    contours = contoursOf(d)
    known.set(d, contours)
  }
  return contours.map((c) => transformed(c, placedAt(x, y)))
}

const stroke = (points: readonly Point[], widthMm: Millimetres, closed = false): EngravedMark => ({
  is: 'lines',
  contours: [polygon(points, closed)],
  widthMm,
})

/** The room a mark takes, as the ring of its corners. */
export const markOutline = (mark: EngravedMark): readonly Point[] => {
  if (mark.is === 'lines') {
    const { minX, minY, maxX, maxY } = mark.contours.map(boundsOf).reduce(boxAround)
    const half = mark.widthMm / 2
    return corners({ minX: minX - half, minY: minY - half, maxX: maxX + half, maxY: maxY + half })
  }
  const width = textWidth(mark.text, mark.sizeMm, mark.font)
  const left = mark.anchor === 'start' ? 0 : mark.anchor === 'middle' ? -width / 2 : -width
  const high = mark.sizeMm * capHeight(mark.font)
  const box = rectangle(point(left + width / 2, -high / 2), width, high)
  return flattened(transformed(box, placedAt(mark.at.x, mark.at.y, mark.deg)))
}

const corners = (b: Box): Point[] => [
  point(b.minX, b.minY),
  point(b.maxX, b.minY),
  point(b.maxX, b.maxY),
  point(b.minX, b.maxY),
]
