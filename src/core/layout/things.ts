import { kindOf } from '../catalogue/own-kind'
import { type Box, boxOf } from '../geometry/boxes'
import { type Point, point } from '../geometry/contour'
import { flattened } from '../geometry/flatten'
import { placedAt, through } from '../geometry/matrix'
import { gapBetween, isInside } from '../geometry/rings'
import { bindingsOf, elementsOf, leadsOf, partsOf, type Rig, rowsOf } from '../rig/rig'
import type { ElementRow, LegendRow, PanelRow, PartRow, ScreenRow } from '../rig/rows'
import type { Millimetres } from '../units-of-measure'
import { legendMarks, markOutline } from './legend-marks'
import { boxOnPanel } from './plate'

/** What things lie on: a panel, measured in millimetres, or a page of a screen, measured in dots. */
export type Surface = SurfaceSize &
  (
    | { readonly of: 'panel'; readonly panel: PanelRow }
    | { readonly of: 'page'; readonly screen: ScreenRow; readonly pageId: string | null }
  )

interface SurfaceSize {
  readonly id: string
  readonly name: string
  readonly width: number
  readonly height: number
  readonly unit: 'mm' | 'px'
  readonly guides: readonly { readonly axis: 'x' | 'y'; readonly at: number }[]
}

export const surfaceOfPanel = (panel: PanelRow): Surface => ({
  ...{ of: 'panel', panel, id: panel.id, name: panel.name, unit: 'mm' },
  ...{ width: panel.widthMm, height: panel.heightMm },
  guides: (panel.settings.guides ?? []).map(({ axis, atMm }) => ({ axis, at: atMm })),
})

/** What lies on one page of a screen, and on all of its pages. */
export const surfaceOfPage = (screen: ScreenRow, pageId: string | null): Surface => ({
  ...{ of: 'page', screen, pageId, id: screen.id, name: screen.name, unit: 'px' },
  ...{ width: screen.widthPx, height: screen.heightPx },
  guides: screen.settings.guides ?? [],
})

/** Anything that lies on a surface and can be picked up: a part or a legend of a panel, an element of a screen. */
export type Thing =
  | { readonly table: 'part'; readonly key: string; readonly row: PartRow; readonly box: Box }
  | { readonly table: 'legend'; readonly key: string; readonly row: LegendRow; readonly box: Box }
  | { readonly table: 'element'; readonly key: string; readonly row: ElementRow; readonly box: Box }

export type ThingTable = Thing['table']

export const keyOf = (table: ThingTable, id: string): string => `${table}/${id}`

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

/** The corners of an element's box, turned about its middle. */
export const elementOutline = ({ x, y, width, height, angle }: ElementRow): readonly Point[] => {
  const turn = placedAt(x + width / 2, y + height / 2, angle)
  const [w, h] = [width / 2, height / 2]
  return [point(-w, -h), point(w, -h), point(w, h), point(-w, h)].map((p) => through(turn, p))
}

const thingOfElement = (row: ElementRow): Thing => ({
  table: 'element',
  key: keyOf('element', row.id),
  row,
  box: boxOf(elementOutline(row)),
})

export const legendsOf = (rig: Rig, panelId: string): LegendRow[] =>
  rowsOf(rig, 'legend').filter((l) => l.panelId === panelId)

/** All that lies on a surface; of a page, the lowest first. */
export const thingsOn = (rig: Rig, on: Surface): Thing[] =>
  on.of === 'page'
    ? elementsOf(rig, on.screen.id)
        .filter((e) => e.pageId === null || e.pageId === on.pageId)
        .map(thingOfElement)
    : [
        ...partsOf(rig, on.panel.id).map(thingOfPart),
        ...legendsOf(rig, on.panel.id).map((l) => thingOfLegend(rig, l)),
      ]

/** Where a thing is held: a part by its middle, anything else by the middle of what it shows. */
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

/** The part that an element for fingers is. */
export const touchedPart = (rig: Rig, { settings }: ElementRow): PartRow | undefined =>
  settings.kind === 'touch' ? rig.part[settings.part ?? ''] : undefined

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
    if (t.table === 'element' && !isOnElement(t.row, p, slopMm)) continue
    const size = (maxX - minX) * (maxY - minY) + (t.table === 'legend' ? 1e6 : 0)
    // Of the same size, the upper one.
    if (size <= least) [best, least] = [t, size]
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

/** What is only drawn round is taken by its line, everything else by its box. */
const isOnElement = (row: ElementRow, p: Point, slop: number): boolean => {
  const ring = [...elementOutline(row)]
  const { settings } = row
  const isLine = settings.kind === 'line' || (settings.kind === 'frame' && settings.fill === null)
  const reach = slop + (isLine ? settings.widthPx / 2 : 0)
  const near = ring.some((a, i) => gapBetween([p], [a, ring[(i + 1) % ring.length] as Point]) <= reach)
  return near || (!isLine && isInside(p, ring))
}
