import RBush from 'rbush'
import { kindOf } from '../catalogue/own-kind'
import { isControl } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { type Box, boxAbout, boxOf } from '../geometry/boxes'
import { asCircle, type Contour, distance, type Point, point } from '../geometry/contour'
import { flattened } from '../geometry/flatten'
import { gapBetween, isInside, overlap } from '../geometry/rings'
import { partsOf, type Rig } from '../rig/rig'
import type { Material, PanelRow, PartRow } from '../rig/rows'
import { formatNumber } from '../signal/format'
import type { Degrees, Millimetres } from '../units-of-measure'
import type { Move } from './arrange'
import { atAngle, legendMarks, markOutline, positionAngles, positionLabel } from './legend-marks'
import { boxOnPanel, drilledContour, plateOf } from './plate'
import { frontOutline, keyOf, legendsOf } from './things'

export type FitKind =
  | 'in front'
  | 'fingers'
  | 'behind'
  | 'bridge'
  | 'edge'
  | 'beyond'
  | 'legend under'
  | 'angle'

/** Something on a panel that will not fit or cannot be made, with a way out where one can be worked out. */
export interface FitFinding {
  readonly id: string
  readonly kind: FitKind
  /** The things it is about; the first is the one that a cure moves. */
  readonly keys: readonly string[]
  readonly words: string
  readonly box: Box
  readonly cure: { readonly words: string; readonly moves: ReadonlyMap<string, Move> } | null
}

/** The thinnest bridge that holds: so many times the thickness, and never below. Rules of thumb of the workshop. */
const bridges: Record<Material, { readonly times: number; readonly leastMm: Millimetres }> = {
  acrylic: { times: 0.7, leastMm: 2 },
  aluminium: { times: 0.5, leastMm: 1 },
  plywood: { times: 1, leastMm: 3 },
  printed: { times: 0.7, leastMm: 1.6 },
  steel: { times: 0.5, leastMm: 1 },
}

export const thinnestBridge = (panel: PanelRow): Millimetres => {
  const { times, leastMm } = bridges[panel.settings.material ?? 'acrylic']
  return Math.max(leastMm, times * panel.thicknessMm)
}

interface Region extends Box {
  readonly key: string
  readonly name: string
  readonly outline: readonly Point[]
}

interface Hole extends Box {
  readonly key: string | null
  readonly name: string
  readonly contour: Contour
  /** Its edge as points, worked out when something is near enough to need it. */
  readonly ring: () => readonly Point[]
}

const mm = (n: Millimetres): string => `${(Math.ceil(n * 10 - 1e-6) / 10).toFixed(1)} mm`
/** A little further than just enough, on the grid of tenths. */
const enough = (n: Millimetres): Millimetres => Math.ceil(n * 10 + 0.5) / 10

const region = (key: string, name: string, outline: readonly Point[]): Region => ({
  key,
  name,
  outline,
  ...boxOf(outline),
})

const meet = (a: Box, b: Box): boolean =>
  a.minX < b.maxX - 1e-6 && b.minX < a.maxX - 1e-6 && a.minY < b.maxY - 1e-6 && b.minY < a.maxY - 1e-6

/** The shortest way that takes the first box off the second. */
const wayOff = (a: Box, b: Box, room = 0): Move => {
  const ways: Move[] = [
    { dx: -enough(a.maxX - b.minX + room), dy: 0 },
    { dx: enough(b.maxX - a.minX + room), dy: 0 },
    { dx: 0, dy: -enough(a.maxY - b.minY + room) },
    { dx: 0, dy: enough(b.maxY - a.minY + room) },
  ]
  return ways.reduce((best, w) => (Math.abs(w.dx + w.dy) < Math.abs(best.dx + best.dy) ? w : best))
}

const moveWords = ({ dx, dy }: Move, name: string): string =>
  `Move ${name} ${mm(Math.abs(dx + dy))} ${dx < 0 ? 'left' : dx > 0 ? 'right' : dy < 0 ? 'up' : 'down'}`

const cureBy = (key: string, name: string, move: Move): FitFinding['cure'] => ({
  words: moveWords(move, name),
  moves: new Map([[key, move]]),
})

/** Everything about a panel's layout that will not work, found by way of a spatial index. */
export const fitFindings = (rig: Rig, panel: PanelRow): FitFinding[] => {
  const parts = partsOf(rig, panel.id)
  const outline = plateOf(rig, panel)
  const edge = flattened(outline.outline)
  const fronts = parts.map((p) => region(keyOf('part', p.id), `“${p.name}”`, frontOutline(p)))
  const findings: FitFinding[] = []
  const add = (f: Omit<FitFinding, 'id'>) => findings.push({ ...f, id: `${f.kind}: ${f.keys.join(' ')}` })

  const front = indexed(fronts)
  pairs(fronts, front, (a, b) => {
    const move = wayOff(b, a)
    add({
      kind: 'in front',
      keys: [b.key, a.key],
      words: `${a.name} and ${b.name} overlap in front.`,
      box: common(a, b),
      cure: cureBy(b.key, b.name, move),
    })
  })
  const clashing = new Set(findings.map((f) => [...f.keys].sort().join(' ')))
  for (const part of parts) fingerRoom(part, front, clashing, add)
  clashesBehind(parts, add)
  thinBridges(outline, edge, panel, rig, add)
  for (const f of fronts) {
    if (isClearOfEdge(panel, f) || f.outline.every((p) => isInside(p, edge)) || touches(f, edge)) continue
    add({
      kind: 'beyond',
      keys: [f.key],
      words: `${f.name} reaches beyond the panel.`,
      box: f,
      cure: backInside(f, boxOf(edge)),
    })
  }
  legendFindings(rig, panel, front, edge, add)
  return findings
}

type Add = (f: Omit<FitFinding, 'id'>) => void

const indexed = <T extends Box>(items: readonly T[]): RBush<T> => new RBush<T>().load([...items])

const common = (a: Box, b: Box): Box => ({
  minX: Math.max(a.minX, b.minX),
  minY: Math.max(a.minY, b.minY),
  maxX: Math.min(a.maxX, b.maxX),
  maxY: Math.min(a.maxY, b.maxY),
})

/** Each pair of regions that share some area, once. */
const pairs = (
  items: readonly Region[],
  tree: RBush<Region>,
  found: (a: Region, b: Region) => void,
): void => {
  const order = new Map(items.map((item, i) => [item, i]))
  for (const [i, a] of items.entries())
    for (const b of tree.search(a))
      if ((order.get(b) ?? 0) > i && meet(a, b) && overlap(a.outline, b.outline)) found(a, b)
}

/** A hand needs room round what it works. */
const fingerRoom = (part: PartRow, front: RBush<Region>, clashing: ReadonlySet<string>, add: Add): void => {
  const kind = kindOf(part)
  if (!kind?.aspects.some(isControl)) return
  const { widthMm, heightMm } = kind.mount.reach
  const own = region(keyOf('part', part.id), `“${part.name}”`, boxOnPanel(part, widthMm, heightMm))
  for (const other of front.search(own)) {
    if (other.key === own.key || !meet(own, other) || !overlap(own.outline, other.outline)) continue
    if (clashing.has([own.key, other.key].sort().join(' '))) continue
    const move = wayOff(own, other)
    add({
      kind: 'fingers',
      keys: [own.key, other.key],
      words: `No room for fingers round ${own.name}: ${other.name} is in the way.`,
      box: common(own, other),
      cure: cureBy(own.key, own.name, move),
    })
  }
}

/** Bodies behind the plate; those that end before the other begins may lie over each other. */
const clashesBehind = (parts: readonly PartRow[], add: Add): void => {
  const depths = new Map<string, { from: Millimetres; to: Millimetres }>()
  const bodies = parts.flatMap((part) => {
    const kind = kindOf(part)
    if (!kind) return []
    const { body, standoffMm } = kind.mount
    const key = keyOf('part', part.id)
    depths.set(key, { from: standoffMm, to: standoffMm + body.depthMm })
    return [region(key, `“${part.name}”`, boxOnPanel(part, body.widthMm, body.heightMm, body.xMm, body.yMm))]
  })
  pairs(bodies, indexed(bodies), (a, b) => {
    const [da, db] = [depths.get(a.key), depths.get(b.key)]
    if (!da || !db || da.to <= db.from || db.to <= da.from) return
    add({
      kind: 'behind',
      keys: [b.key, a.key],
      words: `Behind the panel ${a.name} and ${b.name} are in each other’s way.`,
      box: common(a, b),
      cure: cureBy(b.key, b.name, wayOff(b, a)),
    })
  })
}

const gap = (a: Hole, b: Hole): Millimetres => {
  const [c, d] = [asCircle(a.contour), asCircle(b.contour)]
  if (c && d) return Math.max(0, distance(c.centre, d.centre) - c.radius - d.radius)
  return overlap(a.ring(), b.ring()) ? 0 : gapBetween(a.ring(), b.ring())
}

const thinBridges = (
  plate: ReturnType<typeof plateOf>,
  edge: readonly Point[],
  panel: PanelRow,
  rig: Rig,
  add: Add,
): void => {
  const least = thinnestBridge(panel)
  const make = (partId: string | null, contour: Contour): Hole => {
    const name = partId === null ? 'a hole of the panel' : `“${rig.part[partId]?.name}”`
    let points: readonly Point[] | null = null
    const ring = () => {
      points ??= flattened(contour, 0.02)
      return points
    }
    return { key: partId === null ? null : keyOf('part', partId), name, contour, ring, ...boxAbout(contour) }
  }
  const holes = [
    ...plate.holes.map((h) => make(h.partId, h.contour)),
    ...plate.drilled.map((d) => make(d.partId, drilledContour(d.hole))),
  ]
  const tree = indexed(holes)
  const order = new Map(holes.map((h, i) => [h, i]))
  const said = new Set<string>()
  const plateBox = boxOf(edge)
  for (const [i, a] of holes.entries()) {
    const near = { minX: a.minX - least, minY: a.minY - least, maxX: a.maxX + least, maxY: a.maxY + least }
    for (const b of tree.search(near)) {
      if ((order.get(b) ?? 0) <= i || (a.key !== null && a.key === b.key)) continue
      const width = gap(a, b)
      const [mover, other] = b.key === null ? [a, b] : [b, a]
      const pair = [a.key, b.key].sort().join(' ')
      if (width >= least - 1e-6 || said.has(pair) || mover.key === null) continue
      said.add(pair)
      add({
        kind: 'bridge',
        keys: [mover.key, ...(other.key === null ? [] : [other.key])],
        words:
          width === 0
            ? `The holes of ${other.name} and ${mover.name} run into each other.`
            : `Only ${mm(width)} of plate are left between ${other.name} and ${mover.name}; ${mm(least)} hold.`,
        box: common(near, b),
        cure: cureBy(mover.key, mover.name, wayOff(mover, other, least)),
      })
    }
    if (isClearOfEdge(panel, near)) continue
    const inside = a.ring().every((p) => isInside(p, edge))
    const left = inside ? gapBetween(a.ring(), edge) : 0
    if (left >= least - 1e-6 || a.key === null || said.has(`edge ${a.key}`)) continue
    said.add(`edge ${a.key}`)
    add({
      kind: 'edge',
      keys: [a.key],
      words: inside
        ? `Only ${mm(left)} of plate are left between ${a.name} and the edge; ${mm(least)} hold.`
        : `A hole of ${a.name} breaks through the edge.`,
      box: a,
      cure: backInside({ ...near, key: a.key, name: a.name }, plateBox),
    })
  }
}

/** A quick yes for most: within a plain rectangle, and in none of its round corners. */
const isClearOfEdge = (panel: PanelRow, b: Box): boolean => {
  const { widthMm: w, heightMm: h, cornerMm: r } = panel
  if (panel.settings.outline !== undefined || b.minX < 0 || b.minY < 0 || b.maxX > w || b.maxY > h)
    return false
  return (b.minX >= r && b.maxX <= w - r) || (b.minY >= r && b.maxY <= h - r)
}

const touches = (f: Region, edge: readonly Point[]): boolean =>
  f.outline.every((p) => isInside(p, edge) || gapBetween([p], edge) < 1e-6)

const backInside = (f: Box & { key: string; name: string }, plate: Box): FitFinding['cure'] => {
  const dx = Math.max(0, plate.minX - f.minX) || Math.min(0, plate.maxX - f.maxX)
  const dy = Math.max(0, plate.minY - f.minY) || Math.min(0, plate.maxY - f.maxY)
  const out = (n: number) => Math.sign(n) * (n === 0 ? 0 : enough(Math.abs(n)))
  if (dx === 0 && dy === 0) return null
  return { words: `Move ${f.name} back inside`, moves: new Map([[f.key, { dx: out(dx), dy: out(dy) }]]) }
}

/** A word that is tied to a switch counts as meant for a position when it is at most so far off its knob's edge. */
const RING_REACH_MM = 16
const MOST_OFF_DEG = 8

const angleOf = (middle: Point, p: Point): Degrees =>
  (Math.atan2(p.x - middle.x, middle.y - p.y) * 180) / Math.PI

const degrees = (deg: Degrees): string => `${formatNumber(Math.round(deg))}°`

const apart = (a: Degrees, b: Degrees): Degrees => Math.abs(((a - b + 540) % 360) - 180)

const legendFindings = (
  rig: Rig,
  panel: PanelRow,
  front: RBush<Region>,
  edge: readonly Point[],
  add: Add,
) => {
  for (const legend of legendsOf(rig, panel.id)) {
    const key = keyOf('legend', legend.id)
    const part = rig.part[legend.partId ?? '']
    for (const mark of legendMarks(legend, part)) {
      const own = region(key, mark.is === 'text' ? `“${mark.text}”` : 'a line', markOutline(mark))
      if (!own.outline.every((p) => isInside(p, edge))) {
        add({
          kind: 'beyond',
          keys: [key],
          words: `${mark.is === 'text' ? `The legend ${own.name}` : 'A line'} reaches beyond the panel.`,
          box: own,
          cure: backInside(own, boxOf(edge)),
        })
      }
      if (mark.is !== 'text') continue
      for (const over of front.search(own)) {
        if (!meet(own, over) || !overlap(own.outline, over.outline) || isFace(rig, over.key)) continue
        add({
          kind: 'legend under',
          keys: [key, over.key],
          words: `The legend ${own.name} lies under ${over.name}.`,
          box: own,
          cure: cureBy(key, own.name, wayOff(own, over, 0.5)),
        })
      }
    }
    if (part && legend.settings.kind === 'text') offAngle(rig, legend.id, part, add)
  }
}

/** Fields that carry words themselves: what is engraved there is meant to be there. */
const isFace = (rig: Rig, key: string): boolean => {
  const look = partKind(rig.part[key.slice('part/'.length)]?.kind ?? '')?.front.look
  return look === 'legend-lamp' || look === 'gauge'
}

/** A word beside a switch that stands where the switch does not stop. */
const offAngle = (rig: Rig, legendId: string, part: PartRow, add: Add): void => {
  const angles = positionAngles(part)
  const kind = kindOf(part)
  const legend = rig.legend[legendId]
  if (angles.length === 0 || !kind || !legend || legend.settings.kind !== 'text') return
  const [mark] = legendMarks(legend, part)
  if (!mark) return
  const box = boxOf(markOutline(mark))
  const at = point((box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2)
  const middle = point(part.xMm, part.yMm)
  if (distance(at, middle) > kind.frontMm.width / 2 + RING_REACH_MM) return
  const labels = angles.map((a) => positionLabel(part, a.position))
  const { text } = legend.settings
  const meant = labels.indexOf(text)
  const own = angleOf(middle, at)
  const wanted = meant >= 0 ? angles[meant] : undefined
  if (!wanted || apart(own, wanted.deg) <= MOST_OFF_DEG) return
  const to = atAngle(middle, wanted.deg, distance(at, middle))
  const key = keyOf('legend', legendId)
  add({
    kind: 'angle',
    keys: [key, keyOf('part', part.id)],
    words: `“${text}” stands at ${degrees(own)}, but “${part.name}” stops at ${degrees(wanted.deg)}.`,
    box,
    cure: {
      words: `Put it at ${degrees(wanted.deg)}`,
      moves: new Map([[key, { dx: to.x - at.x, dy: to.y - at.y }]]),
    },
  })
}
