import { type Box, boxOf } from '../../geometry/boxes'
import type { Point } from '../../geometry/contour'
import { flattened } from '../../geometry/flatten'
import { gapBetween, isInside, toSegment } from '../../geometry/rings'
import type { Rig } from '../../rig/rig'
import type { LegendRow, PanelRow } from '../../rig/rows'
import type { Millimetres } from '../../units-of-measure'
import { type EngravedMark, legendMarks, markOutline } from '../legend-marks'
import { drilledContour, type plateOf } from '../plate'
import { keyOf, legendsOf } from '../things'
import { cureBy, wayOff } from './cures'
import type { Add, FitCure } from './finding'
import { indexed, meet, region } from './regions'

/** A line of a legend keeps so far off a hole's edge. */
const CLEAR_MM: Millimetres = 0.5
/** Where a frame is moved off a hole, it is moved so far. */
const OFF_MM: Millimetres = 1

interface Hole extends Box {
  readonly ring: readonly Point[]
  readonly words: string
}

/** Lines and words that are engraved where there is a hole. */
export const throughHoles = (
  rig: Rig,
  panel: PanelRow,
  plate: ReturnType<typeof plateOf>,
  add: Add,
): void => {
  const holes: Hole[] = [
    ...plate.drilled.map((d) => ({ partId: d.partId, contour: drilledContour(d.hole), kind: 'screw' })),
    ...plate.holes.map((h) => ({ partId: h.partId, contour: h.contour, kind: 'opening' })),
  ].map(({ partId, contour, kind }) => {
    const ring = flattened(contour, 0.05)
    const of = partId === null ? 'the panel' : `“${rig.part[partId]?.name}”`
    return { ring, words: `${kind === 'screw' ? 'a hole' : 'an opening'} of ${of}`, ...boxOf(ring) }
  })
  const tree = indexed(holes)
  for (const legend of legendsOf(rig, panel.id)) {
    const part = rig.part[legend.partId ?? '']
    for (const mark of legendMarks(legend, part)) {
      const outline = markOutline(mark)
      const own = region(keyOf('legend', legend.id), nameOf(legend, mark), outline)
      const grown = {
        ...{ minX: own.minX - CLEAR_MM, minY: own.minY - CLEAR_MM },
        ...{ maxX: own.maxX + CLEAR_MM, maxY: own.maxY + CLEAR_MM },
      }
      const hole = tree.search(grown).find((h) => meet(grown, h) && runsThrough(mark, outline, h))
      if (!hole) continue
      const words = `${own.name} ${mark.is === 'text' ? 'lies on' : 'runs through'} ${hole.words}.`
      add({
        kind: 'through',
        keys: [own.key],
        words: words.charAt(0).toUpperCase() + words.slice(1),
        box: hole,
        cure:
          mark.is === 'text' && legend.settings.kind !== 'frame'
            ? cureBy(own.key, own.name, wayOff(own, hole, OFF_MM))
            : frameOff(legend, hole),
      })
      break
    }
  }
}

const nameOf = ({ settings }: LegendRow, mark: EngravedMark): string => {
  if (mark.is === 'text') return `the legend “${mark.text}”`
  if (settings.kind === 'frame') return settings.title === '' ? 'a frame' : `the frame “${settings.title}”`
  return settings.kind === 'drawing' ? `the lines “${settings.name}”` : 'a line'
}

const runsThrough = (mark: EngravedMark, outline: readonly Point[], hole: Hole): boolean => {
  if (mark.is === 'text')
    return isInside(hole.ring[0] as Point, outline) || gapBetween(outline, hole.ring) === 0
  const near = CLEAR_MM + mark.widthMm / 2
  return mark.contours.some((c) => {
    const points = flattened(c, 0.05)
    const ends = c.closed ? [...points, points[0] as Point] : points
    return ends.slice(1).some((to, i) => {
      const from = ends[i] as Point
      return isInside(from, hole.ring) || hole.ring.some((p) => toSegment(p, from, to) < near)
    })
  })
}

/** A frame drawn in, side by side, until it is clear of a hole; null for other lines. */
const frameOff = (legend: LegendRow, hole: Box): FitCure | null => {
  const { settings } = legend
  if (settings.kind !== 'frame') return null
  const sides = {
    minX: legend.xMm,
    minY: legend.yMm,
    maxX: legend.xMm + settings.widthMm,
    maxY: legend.yMm + settings.heightMm,
  }
  // Whichever side crosses it and has to move least goes inwards past it.
  const ways = [
    { by: hole.maxX + OFF_MM - sides.minX, side: 'minX' as const },
    { by: hole.maxY + OFF_MM - sides.minY, side: 'minY' as const },
    { by: sides.maxX - hole.minX + OFF_MM, side: 'maxX' as const },
    { by: sides.maxY - hole.minY + OFF_MM, side: 'maxY' as const },
  ].filter((w) => w.by > 0)
  const [best] = ways.sort((a, b) => a.by - b.by)
  if (!best) return null
  const next = {
    ...sides,
    [best.side]: sides[best.side] + (best.side.startsWith('min') ? best.by : -best.by),
  }
  const tidy = (mm: Millimetres) => Math.round(mm * 100) / 100
  const [widthMm, heightMm] = [tidy(next.maxX - next.minX), tidy(next.maxY - next.minY)]
  if (widthMm < 5 || heightMm < 5) return null
  return {
    words: 'Draw the frame past the hole',
    legend: {
      ...legend,
      xMm: tidy(next.minX),
      yMm: tidy(next.minY),
      settings: { ...settings, widthMm, heightMm },
    },
  }
}
