import { kindOf } from '../catalogue/own-kind'
import { type Box, boundsOf } from '../geometry/boxes'
import { type Contour, circle, point, polygon } from '../geometry/contour'
import { placedAt, transformed } from '../geometry/matrix'
import type { Lettering } from '../lettering/outlines'
import { partsOf, type Rig } from '../rig/rig'
import type { PanelRow, PartRow } from '../rig/rows'
import type { Millimetres } from '../units-of-measure'
import { type EngravedMark, legendMarks } from './legend-marks'
import { type Drilled, plateOf } from './plate'
import { frontOutline, legendsOf } from './things'

/** Every format has layers of just these names, in the order of the work: marked first, cut out last. */
export const layerNames = ['reference', 'engrave', 'drill', 'cut'] as const
export type LayerName = (typeof layerNames)[number]

/** Something to be made, in millimetres, ready for any format. */
export interface CutDrawing {
  readonly name: string
  readonly box: Box
  /** Along which a tool runs through the plate; all closed. */
  readonly cut: readonly Contour[]
  /** Lines and outlines of letters that are marked on it. */
  readonly engrave: readonly Contour[]
  readonly drill: readonly Drilled[]
  /** For the eye only: what will be seen from the front. */
  readonly reference: readonly Contour[]
}

/** A mark as curves. */
export const curvesOf = (mark: EngravedMark, lettering: Lettering): Contour[] => {
  if (mark.is === 'lines') return [...mark.contours]
  const { contours, widthMm } = lettering.outlines(mark.text, mark.sizeMm, mark.font)
  const shift = mark.anchor === 'start' ? 0 : mark.anchor === 'middle' ? -widthMm / 2 : -widthMm
  const there = placedAt(mark.at.x, mark.at.y, mark.deg)
  return contours.map((c) => transformed(transformed(c, placedAt(shift, 0)), there))
}

const roundLooks: ReadonlySet<string> = new Set([
  'lamp',
  'colour-lamp',
  'knob',
  'rotary',
  'hat',
  'pot',
  'gauge',
  'connector',
  'screw',
])

const seenFromFront = (part: PartRow): Contour => {
  const kind = kindOf(part)
  return kind && roundLooks.has(kind.front.look) && kind.frontMm.width === kind.frontMm.height
    ? circle(point(part.xMm, part.yMm), kind.frontMm.width / 2)
    : polygon(frontOutline(part))
}

/** A panel as it is made. `kerfMm` is what the tool takes away: outlines grow and holes shrink by half of it. */
export const panelDrawing = (
  rig: Rig,
  panel: PanelRow,
  lettering: Lettering,
  { kerfMm = 0 }: { kerfMm?: Millimetres } = {},
): CutDrawing => {
  const plate = plateOf(rig, panel, kerfMm)
  return {
    name: panel.name,
    box: boundsOf(plate.outline),
    cut: [plate.outline, ...plate.holes.map((h) => h.contour)],
    engrave: legendsOf(rig, panel.id)
      .flatMap((l) => legendMarks(l, rig.part[l.partId ?? '']))
      .flatMap((m) => curvesOf(m, lettering)),
    drill: plate.drilled.map((d) => d.hole),
    reference: partsOf(rig, panel.id).map(seenFromFront),
  }
}
