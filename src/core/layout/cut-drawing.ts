import { kindOf } from '../catalogue/own-kind'
import type { NeedleAspect } from '../catalogue/part-kind'
import { type Box, boundsOf } from '../geometry/boxes'
import { type Contour, circle, point, polygon } from '../geometry/contour'
import { placedAt, transformed } from '../geometry/matrix'
import type { LegendFont } from '../rig/legend-fonts'
import { settingsOf } from '../rig/part-settings'
import { partsOf, type Rig } from '../rig/rig'
import type { PanelRow, PartRow } from '../rig/rows'
import { formatNumber } from '../signal/format'
import { needleAngle } from '../signal/needle'
import type { Millimetres } from '../units-of-measure'
import { atAngle, type EngravedMark, legendMarks } from './legend-marks'
import { capHeight } from './lettering'
import { type Drilled, plateOf } from './plate'
import { frontOutline, legendsOf } from './things'

/** Letters as closed curves, so that no font is needed where the drawing goes. */
export interface Lettering {
  /** The curves of a text whose base line begins at the origin. */
  readonly outlines: (
    text: string,
    sizeMm: Millimetres,
    font?: LegendFont,
  ) => { contours: readonly Contour[]; widthMm: Millimetres }
}

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
const curvesOf = (mark: EngravedMark, lettering: Lettering): Contour[] => {
  if (mark.is === 'line') return [mark.contour]
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

const SMALL_TICKS = 4
/** How much wider than its dial a gauge of the catalogue is. */
const BEZEL_MM = 4

/** The face of a gauge from its own needle points: what is printed or engraved is where the needle really goes. */
export const dialDrawing = (part: PartRow, lettering: Lettering): CutDrawing | null => {
  const kind = kindOf(part)
  if (kind?.front.look !== 'gauge') return null
  // The face is as much smaller than its bezel as in the part it works like.
  const radius = (kind.front.dialMm / 2) * (kind.frontMm.width / (kind.front.dialMm + BEZEL_MM))
  const middle = point(radius, radius)
  const needles = kind.aspects.filter((a): a is NeedleAspect => a.kind === 'needle')
  const engrave: Contour[] = []
  for (const [i, needle] of needles.entries()) {
    const settings = settingsOf(part.settings, needle.id, 'needle')
    const outer = radius * (i === 0 ? 0.94 : 0.56)
    const points = settings?.points ?? []
    const angle = needleAngle(points, settings?.smooth)
    for (const [k, p] of points.entries()) {
      const deg = angle(p.value)
      engrave.push(polygon([atAngle(middle, deg, outer), atAngle(middle, deg, outer - radius * 0.12)], false))
      const size = radius * 0.15
      const words: EngravedMark = {
        is: 'text',
        text: formatNumber(p.value),
        at: atAngle(point(middle.x, middle.y + (size * capHeight()) / 2), deg, outer - radius * 0.24),
        sizeMm: size,
        anchor: 'middle',
        deg: 0,
        font: 'plain',
      }
      engrave.push(...curvesOf(words, lettering))
      const next = points[k + 1]
      if (!next) continue
      for (let n = 1; n <= SMALL_TICKS; n++) {
        const value = p.value + ((next.value - p.value) * n) / (SMALL_TICKS + 1)
        const at = angle(value)
        engrave.push(polygon([atAngle(middle, at, outer), atAngle(middle, at, outer - radius * 0.06)], false))
      }
    }
  }
  const shaft = kind.mount.cutouts[0]
  return {
    name: `${part.name}, dial`,
    box: { minX: 0, minY: 0, maxX: 2 * radius, maxY: 2 * radius },
    cut: [circle(middle, radius), ...(shaft?.is === 'round' ? [circle(middle, shaft.diameterMm / 2)] : [])],
    engrave,
    drill: [],
    reference: [],
  }
}
