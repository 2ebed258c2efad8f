import { kindOf } from '../catalogue/own-kind'
import { type Box, boxOf } from '../geometry/boxes'
import { type Point, point } from '../geometry/contour'
import { flattened } from '../geometry/flatten'
import { gapBetween, isInside } from '../geometry/rings'
import { bindingsOf, leadsOf, partsOf, type Rig, rowsOf } from '../rig/rig'
import type { LegendRow, PanelRow, PartRow } from '../rig/rows'
import type { Millimetres } from '../units-of-measure'
import { legendMarks, markOutline } from './legend-marks'
import { boxOnPanel } from './plate'

/** Anything that lies on a panel and can be picked up: a part or a legend. */
export type Thing =
  | { readonly table: 'part'; readonly key: string; readonly row: PartRow; readonly box: Box }
  | { readonly table: 'legend'; readonly key: string; readonly row: LegendRow; readonly box: Box }

export const keyOf = (table: 'part' | 'legend', id: string): string => `${table}/${id}`

const UNKNOWN_MM = 12

/** The corners of what is seen of a part from the front. */
export const frontOutline = (part: PartRow): readonly Point[] => {
  const { width, height } = kindOf(part)?.frontMm ?? { width: UNKNOWN_MM, height: UNKNOWN_MM }
  return boxOnPanel(part, width, height)
}

const thingOfPart = (row: PartRow): Thing => ({
  table: 'part',
  key: keyOf('part', row.id),
  row,
  box: boxOf(frontOutline(row)),
})

const thingOfLegend = (rig: Rig, row: LegendRow): Thing => {
  const outlines = legendMarks(row, rig.part[row.partId ?? '']).flatMap(markOutline)
  const box = boxOf(outlines.length > 0 ? outlines : [point(row.xMm, row.yMm)])
  return { table: 'legend', key: keyOf('legend', row.id), row, box }
}

export const legendsOf = (rig: Rig, panelId: string): LegendRow[] =>
  rowsOf(rig, 'legend').filter((l) => l.panelId === panelId)

export const thingsOf = (rig: Rig, panel: PanelRow): Thing[] => [
  ...partsOf(rig, panel.id).map(thingOfPart),
  ...legendsOf(rig, panel.id).map((l) => thingOfLegend(rig, l)),
]

/** Where a thing is held: a part by its middle, a legend by the middle of what it shows. */
export const middleOf = (t: Thing): Point =>
  t.table === 'part'
    ? point(t.row.xMm, t.row.yMm)
    : point((t.box.minX + t.box.maxX) / 2, (t.box.minY + t.box.maxY) / 2)

export const groupOf = (t: Thing): string | undefined => t.row.settings.group
export const isLocked = (t: Thing): boolean => t.row.settings.locked === true

/** Words round a knob lie where the knob does. */
export const canMove = (t: Thing): boolean =>
  !isLocked(t) && !(t.table === 'legend' && t.row.settings.kind === 'ring')

/** The picked ones, with all that belong to their groups. */
export const withGroups = (things: readonly Thing[], keys: ReadonlySet<string>): Set<string> => {
  const groups = new Set(things.filter((t) => keys.has(t.key)).map(groupOf))
  groups.delete(undefined)
  return new Set(things.filter((t) => keys.has(t.key) || groups.has(groupOf(t))).map((t) => t.key))
}

/** The picked things, with the legends of picked parts; a locked part keeps its legends where they are. */
export const withTied = (things: readonly Thing[], picked: ReadonlySet<string>): Thing[] => {
  const parts = new Set(
    things.filter((t) => t.table === 'part' && picked.has(t.key) && !isLocked(t)).map((t) => t.row.id),
  )
  return things.filter((t) => picked.has(t.key) || (t.table === 'legend' && parts.has(t.row.partId ?? '')))
}

/** How much goes with a part when it is removed. */
export const hangingOn = (rig: Rig, partIds: readonly string[]): { leads: number; bindings: number } => ({
  leads: partIds.reduce((n, id) => n + leadsOf(rig, id).length, 0),
  bindings: partIds.reduce((n, id) => n + bindingsOf(rig, id).length, 0),
})

export const unionOf = (boxes: readonly Box[]): Box =>
  boxOf(boxes.flatMap((b) => [point(b.minX, b.minY), point(b.maxX, b.maxY)]))

/** What lies at a place: parts before legends, the smaller before the larger; frames only by their lines. */
export const thingAt = (things: readonly Thing[], rig: Rig, p: Point, slopMm: Millimetres): Thing | null => {
  let best: Thing | null = null
  let least = Infinity
  for (const t of things) {
    const { minX, minY, maxX, maxY } = t.box
    if (p.x < minX - slopMm || p.x > maxX + slopMm || p.y < minY - slopMm || p.y > maxY + slopMm) continue
    if (t.table === 'legend' && !isOnLegend(rig, t.row, p, slopMm)) continue
    const size = (maxX - minX) * (maxY - minY) + (t.table === 'legend' ? 1e6 : 0)
    if (size < least) [best, least] = [t, size]
  }
  return best
}

const isOnLegend = (rig: Rig, legend: LegendRow, p: Point, slopMm: Millimetres): boolean =>
  legendMarks(legend, rig.part[legend.partId ?? '']).some((mark) => {
    if (mark.is === 'text') {
      const ring = markOutline(mark)
      return isInside(p, ring) || gapBetween([p], ring) <= slopMm
    }
    return mark.contours.some((contour) => {
      const points = flattened(contour)
      return points.some((a, i) => {
        const b = points[i + 1] ?? (contour.closed ? points[0] : undefined)
        return b !== undefined && gapBetween([p], [a, b]) <= slopMm + mark.widthMm / 2
      })
    })
  })
