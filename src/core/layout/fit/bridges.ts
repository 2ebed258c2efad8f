import { type Box, boxAbout, boxOf } from '../../geometry/boxes'
import { asCircle, type Contour, distance, type Point } from '../../geometry/contour'
import { flattened } from '../../geometry/flatten'
import { gapBetween, isInside, overlap } from '../../geometry/rings'
import type { Rig } from '../../rig/rig'
import type { Material, PanelRow } from '../../rig/rows'
import type { Millimetres } from '../../units-of-measure'
import { drilledContour, type plateOf } from '../plate'
import { keyOf } from '../things'
import { backInside, cureBy, mm, wayOff } from './cures'
import { isClearOfEdge } from './edge'
import type { Add } from './finding'
import { common, indexed } from './regions'

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

interface Hole extends Box {
  readonly key: string | null
  readonly name: string
  readonly contour: Contour
  /** Its edge as points, worked out when something is near enough to need it. */
  readonly ring: () => readonly Point[]
}

const gap = (a: Hole, b: Hole): Millimetres => {
  const [c, d] = [asCircle(a.contour), asCircle(b.contour)]
  if (c && d) return Math.max(0, distance(c.centre, d.centre) - c.radius - d.radius)
  return overlap(a.ring(), b.ring()) ? 0 : gapBetween(a.ring(), b.ring())
}

/** Holes that leave too little of the plate between them, or to its edge. */
export const thinBridges = (
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
