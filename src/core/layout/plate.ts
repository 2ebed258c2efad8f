import type { Cutout, Mount } from '../catalogue/mount'
import { kindOf } from '../catalogue/own-kind'
import { type Contour, circle, flatSided, type Point, point, polygon, rectangle } from '../geometry/contour'
import { flattened } from '../geometry/flatten'
import { type Matrix, placedAt, through, transformed } from '../geometry/matrix'
import { offset } from '../geometry/offset'
import { contoursOf } from '../geometry/read-path-data'
import { partsOf, type Rig } from '../rig/rig'
import type { PanelRow, PartRow } from '../rig/rows'
import type { Millimetres } from '../units-of-measure'

/** A hole that is drilled rather than cut along its edge. */
export interface Drilled {
  readonly centre: Point
  readonly diameterMm: Millimetres
}

/** What has to be taken out of a plate: its outline, the holes along which a tool runs, the holes to drill. */
export interface Plate {
  readonly outline: Contour
  /** Of parts, with whose they are; those of the panel itself have none. */
  readonly holes: readonly { readonly partId: string | null; readonly contour: Contour }[]
  readonly drilled: readonly { readonly partId: string | null; readonly hole: Drilled }[]
}

/** A closed contour moved outwards: what is left of it, as fine chords where it is moved at all. */
const grown = (c: Contour, by: Millimetres): readonly Contour[] =>
  by === 0 ? [c] : offset(flattened(c, 0.005), by).map((ring) => polygon(ring))

/** What of a panel says how its plate is cut. */
export type PlateShape = Pick<PanelRow, 'widthMm' | 'heightMm' | 'cornerMm' | 'settings'>

/** The panel's edge: drawn by size and corners, or imported; grown by half of what a tool takes away. */
export const outlineOf = (panel: PlateShape, kerfMm: Millimetres = 0): Contour => {
  const imported = panel.settings.outline === undefined ? [] : contoursOf(panel.settings.outline)
  const { widthMm: w, heightMm: h, cornerMm } = panel
  if (imported[0]) return grown(imported[0], kerfMm / 2)[0] ?? imported[0]
  const corner = cornerMm === 0 ? 0 : cornerMm + kerfMm / 2
  return rectangle(point(w / 2, h / 2), w + kerfMm, h + kerfMm, corner)
}

const cutoutContour = (cutout: Cutout, kerfMm: Millimetres): Contour => {
  switch (cutout.is) {
    case 'round':
      return circle(point(cutout.xMm ?? 0, cutout.yMm ?? 0), (cutout.diameterMm - kerfMm) / 2)
    case 'flat-sided':
      return flatSided(point(0, 0), cutout.diameterMm - kerfMm, cutout.acrossMm - kerfMm)
    case 'window': {
      const { widthMm, heightMm, cornerMm, xMm = 0, yMm = 0 } = cutout
      const corner = Math.max(0, cornerMm - kerfMm / 2)
      return rectangle(point(xMm, yMm), widthMm - kerfMm, heightMm - kerfMm, corner)
    }
  }
}

/** Where a part lies on its panel. */
export const placeOf = (part: PartRow): Matrix => placedAt(part.xMm, part.yMm, part.rotationDeg)

/** The corners of a box round a part's middle, or moved from there, as the part lies on its panel. */
export const boxOnPanel = (
  part: PartRow,
  width: Millimetres,
  height: Millimetres,
  x: Millimetres = 0,
  y: Millimetres = 0,
): readonly Point[] => flattened(transformed(rectangle(point(x, y), width, height), placeOf(part)))

/** The holes a part needs, in millimetres on its panel. */
export const holesOf = (
  mount: Mount,
  place: Matrix,
  kerfMm: Millimetres = 0,
): { contours: Contour[]; drilled: Drilled[] } => ({
  contours: mount.cutouts.map((c) => transformed(cutoutContour(c, kerfMm), place)),
  drilled: mount.screws.map((s) => ({
    centre: through(place, point(s.xMm, s.yMm)),
    diameterMm: s.diameterMm,
  })),
})

/** Everything that is cut and drilled for a panel. Parts of unknown kind have no holes. */
export const plateOf = (rig: Rig, panel: PanelRow, kerfMm: Millimetres = 0): Plate => {
  const holes: Plate['holes'][number][] = []
  const drilled: Plate['drilled'][number][] = panel.settings.holes.map((h) => ({
    partId: null,
    hole: { centre: point(h.xMm, h.yMm), diameterMm: h.diameterMm },
  }))
  for (const d of panel.settings.windows ?? [])
    for (const window of contoursOf(d))
      for (const contour of grown(window, -kerfMm / 2)) holes.push({ partId: null, contour })
  for (const part of partsOf(rig, panel.id)) {
    const mount = kindOf(part)?.mount
    if (!mount) continue
    const made = holesOf(mount, placeOf(part), kerfMm)
    for (const contour of made.contours) holes.push({ partId: part.id, contour })
    for (const hole of made.drilled) drilled.push({ partId: part.id, hole })
  }
  return { outline: outlineOf(panel, kerfMm), holes, drilled }
}

/** A hole as a contour, whichever way it is made. */
export const drilledContour = (hole: Drilled): Contour => circle(hole.centre, hole.diameterMm / 2)
