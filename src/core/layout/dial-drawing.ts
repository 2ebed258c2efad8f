import { kindOf } from '../catalogue/own-kind'
import { type Contour, circle, point, polygon } from '../geometry/contour'
import { placedAt, transformed } from '../geometry/matrix'
import type { Lettering } from '../lettering/outlines'
import type { PartRow } from '../rig/rows'
import type { Millimetres } from '../units-of-measure'
import { type CutDrawing, curvesOf } from './cut-drawing'
import { scalesOf } from './dial'
import { dialFace } from './dial-face'
import { faceColours, faceInks, type Inked, sectors } from './dial-inks'
import { type DialFace, type DialWords, onDial } from './dial-shapes'

/** How much wider than its dial a gauge of the catalogue is. */
const BEZEL_MM = 4
/** A gauge's face as it is made, and how large; null for what is no gauge. */
export const faceOf = (
  part: PartRow,
): { face: DialFace; radius: Millimetres; shaftMm: Millimetres | null } | null => {
  const kind = kindOf(part)
  if (kind?.front.look !== 'gauge') return null
  // The face is as much smaller than its bezel as in the part it works like.
  const radius = (kind.front.dialMm / 2) * (kind.frontMm.width / (kind.front.dialMm + BEZEL_MM))
  const shaft = kind.mount.cutouts[0]
  return {
    face: dialFace(scalesOf(part), radius),
    radius,
    shaftMm: shaft?.is === 'round' ? shaft.diameterMm : null,
  }
}

const lettersOf = ({ text, at, sizeMm }: DialWords, lettering: Lettering): Contour[] =>
  curvesOf({ is: 'text', text, sizeMm, anchor: 'middle', deg: 0, font: 'plain', at }, lettering)

const cutOf = (radius: Millimetres, shaftMm: Millimetres | null): Contour[] => {
  const middle = point(radius, radius)
  return [circle(middle, radius), ...(shaftMm === null ? [] : [circle(middle, shaftMm / 2)])]
}

/** The face of a gauge from its own needle points: what is engraved is where the needle really goes. */
export const dialDrawing = (part: PartRow, lettering: Lettering): CutDrawing | null => {
  const of = faceOf(part)
  if (!of) return null
  const { face, radius, shaftMm } = of
  const home = placedAt(radius, radius)
  const engrave = [
    ...face.ticks.map((t) => polygon([t.from, t.to], false)),
    ...face.bands.flatMap((b) =>
      b.from === b.to
        ? [polygon([onDial(b.from, b.outer), onDial(b.from, b.inner)], false)]
        : sectors(b.inner, b.outer, b.from, b.to),
    ),
    ...[...face.numbers, ...face.captions].flatMap((w) => lettersOf(w, lettering)),
  ]
  return {
    name: `${part.name}, dial`,
    box: { minX: 0, minY: 0, maxX: 2 * radius, maxY: 2 * radius },
    cut: cutOf(radius, shaftMm),
    engrave: engrave.map((c) => transformed(c, home)),
    drill: [],
    reference: [],
  }
}

/** A face as it is printed and cut out, from its top left corner. */
export interface PrintedFace {
  readonly name: string
  readonly radius: Millimetres
  readonly inks: readonly Inked[]
  readonly cut: readonly Contour[]
}

/** The face of a gauge in its colours, to be printed at its real size. */
export const printedFace = (part: PartRow, lettering: Lettering): PrintedFace | null => {
  const of = faceOf(part)
  if (!of) return null
  const { face, radius, shaftMm } = of
  const { ground, ink } = faceColours[face.ground]
  const home = placedAt(radius, radius)
  const letters = [...face.numbers, ...face.captions].flatMap((w) => lettersOf(w, lettering))
  const inks: Inked[] = [
    { colour: ground, contours: [circle(point(0, 0), radius)] },
    ...faceInks(face, radius),
    ...(letters.length > 0 ? [{ colour: ink, contours: letters }] : []),
  ]
  return {
    name: `${part.name}, dial`,
    radius,
    inks: inks.map((i) => ({ ...i, contours: i.contours.map((c) => transformed(c, home)) })),
    cut: cutOf(radius, shaftMm),
  }
}
