import { type Point, point } from '../geometry/contour'
import { placedAt, through } from '../geometry/matrix'
import { addRow, type Change, changeRow, removeRow } from '../rig/edit'
import { numbered } from '../rig/numbered'
import { bindingsOf, elementsOf, leadsOf, type Rig, rowsOf } from '../rig/rig'
import type { ElementRow, LegendRow, PartRow, RowOf } from '../rig/rows'
import type { Degrees, Millimetres } from '../units-of-measure'
import {
  canMove,
  isLocked,
  middleOf,
  type Surface,
  type Thing,
  type ThingTable,
  thingsOn,
  touchedPart,
  unionOf,
  withTied,
} from './things'

export type Move = { readonly dx: Millimetres; readonly dy: Millimetres }

/** Thousandths of a millimetre: what is typed comes back as it was typed. */
const tidy = (mm: Millimetres): Millimetres => Math.round(mm * 1000) / 1000

/** Moves things by their keys; the legends of a part go along with it. Locked ones stay, and words round a knob have no place but its. */
export const moved = (rig: Rig, on: Surface, moves: ReadonlyMap<string, Move>): (Change | null)[] => {
  const things = thingsOn(rig, on)
  const byPart = new Map<string, Move>()
  for (const t of things) {
    const move = moves.get(t.key)
    if (t.table === 'part' && move && !isLocked(t)) byPart.set(t.row.id, move)
  }
  return things.map((t) => {
    const own = moves.get(t.key)
    const move = t.table === 'legend' ? (own ?? byPart.get(t.row.partId ?? '')) : own
    return move && canMove(t) ? changed(t, shiftedBy(t, move)) : null
  })
}

/** A thing with other fields; its table is that of its row. */
const changed = (t: Thing, fields: object): Change | null =>
  changeRow(t.table, t.row as RowOf<ThingTable>, { ...t.row, ...fields } as RowOf<ThingTable>)

/** The fields that say where a thing of each table is, moved. */
const shiftedBy = (t: Thing, { dx, dy }: Move): object =>
  t.table === 'element'
    ? { x: tidy(t.row.x + dx), y: tidy(t.row.y + dy) }
    : { xMm: tidy(t.row.xMm + dx), yMm: tidy(t.row.yMm + dy) }

const sameForAll = (things: readonly Thing[], move: (t: Thing) => Move): Map<string, Move> =>
  new Map(things.map((t) => [t.key, move(t)]))

export type Edge = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom'

/** Brings things to a common edge or middle line of their common box. */
export const aligned = (things: readonly Thing[], edge: Edge): Map<string, Move> => {
  const all = unionOf(things.map((t) => t.box))
  const centre = (all.minX + all.maxX) / 2
  const middle = (all.minY + all.maxY) / 2
  return sameForAll(things, (t) => {
    const at = middleOf(t)
    switch (edge) {
      case 'left':
        return { dx: all.minX - t.box.minX, dy: 0 }
      case 'right':
        return { dx: all.maxX - t.box.maxX, dy: 0 }
      case 'centre':
        return { dx: centre - at.x, dy: 0 }
      case 'top':
        return { dx: 0, dy: all.minY - t.box.minY }
      case 'bottom':
        return { dx: 0, dy: all.maxY - t.box.maxY }
      case 'middle':
        return { dx: 0, dy: middle - at.y }
    }
  })
}

/** Evens out the gaps between neighbours; the outermost two stay. */
export const distributed = (things: readonly Thing[], axis: 'x' | 'y'): Map<string, Move> => {
  const [low, high] = axis === 'x' ? (['minX', 'maxX'] as const) : (['minY', 'maxY'] as const)
  const row = [...things].sort((a, b) => a.box[low] - b.box[low])
  const [first, last] = [row[0], row.at(-1)]
  if (!first || !last || row.length < 3) return new Map()
  const taken = row.reduce((sum, t) => sum + t.box[high] - t.box[low], 0)
  const gap = (last.box[high] - first.box[low] - taken) / (row.length - 1)
  let at = first.box[low]
  return new Map(
    row.map((t) => {
      const by = at - t.box[low]
      at += t.box[high] - t.box[low] + gap
      return [t.key, axis === 'x' ? { dx: by, dy: 0 } : { dx: 0, dy: by }]
    }),
  )
}

/** Turns parts and elements on the spot, by so much; the legends of a part stay where they are. */
export const turned = (things: readonly Thing[], deg: Degrees): (Change | null)[] =>
  things.map((t) => {
    if (isLocked(t)) return null
    const by = (now: Degrees) => tidy((now + deg) % 360)
    if (t.table === 'part') return changed(t, { rotationDeg: by(t.row.rotationDeg) })
    if (t.table === 'element') return changed(t, { angle: by(t.row.angle) })
    const { settings } = t.row
    if (settings.kind !== 'text') return null
    return changed(t, { settings: { ...settings, rotationDeg: by(settings.rotationDeg ?? 0) } })
  })

/** Puts what is not locked on the other side of a line through the middle of what is picked; words stay readable. */
export const mirrored = (
  rig: Rig,
  on: Surface,
  picked: readonly Thing[],
  axis: 'x' | 'y',
): (Change | null)[] => {
  const free = picked.filter((t) => !isLocked(t))
  const all = unionOf(picked.map((t) => t.box))
  const moves = sameForAll([...free, ...tiedLegends(rig, on, free)], (t) =>
    axis === 'x'
      ? { dx: all.minX + all.maxX - (t.table === 'part' ? 2 * t.row.xMm : t.box.minX + t.box.maxX), dy: 0 }
      : { dx: 0, dy: all.minY + all.maxY - (t.table === 'part' ? 2 * t.row.yMm : t.box.minY + t.box.maxY) },
  )
  return moved(rig, on, moves)
}

/** Legends of picked parts that are not picked themselves. */
const tiedLegends = (rig: Rig, on: Surface, picked: readonly Thing[]): Thing[] => {
  const keys = new Set(picked.map((t) => t.key))
  return withTied(thingsOn(rig, on), keys).filter((t) => !keys.has(t.key))
}

/**
 * Copies of things, each moved by its place; parts get names of their own, their legends come with them, and neither
 * leads nor bindings do. `newId` makes ids. Returns the changes and the keys of the copies.
 */
export const copied = (
  rig: Rig,
  on: Surface,
  picked: readonly Thing[],
  places: readonly ((middle: Point) => Point)[],
  newId: () => string,
): { changes: Change[]; keys: string[] } => {
  const changes: Change[] = []
  const keys: string[] = []
  const taken = new Set(rowsOf(rig, 'part').map((p) => p.name))
  const all = [...picked, ...tiedLegends(rig, on, picked)]
  const elements = elementsAmong(rig, all)
  for (const place of places) {
    const ids = new Map<string, { id: string; move: Move }>()
    const groups = new Map<string, string>()
    const regroup = (group: string | undefined) => {
      if (group === undefined) return {}
      if (!groups.has(group)) groups.set(group, newId())
      return { group: groups.get(group) as string }
    }
    for (const t of elements.all) {
      const [to, from] = [place(middleOf(t)), middleOf(t)]
      const row: ElementRow = {
        ...t.row,
        id: newId(),
        name: elements.nameLike(t.row.name),
        position: elements.nextPosition(),
        x: tidy(t.row.x + to.x - from.x),
        y: tidy(t.row.y + to.y - from.y),
        settings: clean({
          ...t.row.settings,
          // Two fingers on one control would be one finger: the copy is no part yet.
          ...(t.row.settings.kind === 'touch' ? { part: null } : {}),
          locked: undefined,
          ...regroup(t.row.settings.group),
        }) as ElementRow['settings'],
      }
      changes.push(addRow('element', row))
      keys.push(`element/${row.id}`)
    }
    for (const t of all) {
      if (t.table !== 'part') continue
      const to = place(middleOf(t))
      const id = newId()
      const name = numbered(t.row.name.replace(/ \d+$/, ''), taken, 2)
      taken.add(name)
      ids.set(t.row.id, { id, move: { dx: to.x - t.row.xMm, dy: to.y - t.row.yMm } })
      const row: PartRow = {
        ...t.row,
        id,
        name,
        xMm: tidy(to.x),
        yMm: tidy(to.y),
        settings: clean({ ...t.row.settings, locked: undefined, ...regroup(t.row.settings.group) }),
      }
      changes.push(addRow('part', row))
      keys.push(`part/${id}`)
    }
    for (const t of all) {
      if (t.table !== 'legend') continue
      const owner = ids.get(t.row.partId ?? '')
      const to = place(middleOf(t))
      const from = middleOf(t)
      const move = owner?.move ?? { dx: to.x - from.x, dy: to.y - from.y }
      const id = newId()
      const row: LegendRow = {
        ...t.row,
        id,
        partId: owner?.id ?? t.row.partId,
        xMm: tidy(t.row.xMm + move.dx),
        yMm: tidy(t.row.yMm + move.dy),
        settings: clean({ ...t.row.settings, locked: undefined, ...regroup(t.row.settings.group) }),
      }
      changes.push(addRow('legend', row))
      if (picked.includes(t)) keys.push(`legend/${id}`)
    }
  }
  return { changes, keys }
}

type ElementThing = Extract<Thing, { table: 'element' }>

/** The elements among things, and what copies of them are called and lie above. */
const elementsAmong = (rig: Rig, things: readonly Thing[]) => {
  const all = things.filter((t): t is ElementThing => t.table === 'element')
  const [first] = all
  const others = first ? elementsOf(rig, first.row.screenId) : []
  const taken = new Set(others.map((e) => e.name))
  let top = Math.max(0, ...others.map((e) => e.position))
  return {
    all,
    nameLike: (name: string): string => {
      const made = numbered(name.replace(/ \d+$/, ''), taken, 2)
      taken.add(made)
      return made
    },
    nextPosition: (): number => ++top,
  }
}

/** Puts elements above, or below, all others of their screen; among themselves they stay in order. */
export const reordered = (rig: Rig, picked: readonly Thing[], to: 'front' | 'back'): (Change | null)[] => {
  const { all } = elementsAmong(rig, picked)
  const [first] = all
  if (!first) return []
  const ids = new Set(all.map((t) => t.row.id))
  const rows = elementsOf(rig, first.row.screenId)
  const own = rows.filter((e) => ids.has(e.id))
  const others = rows.filter((e) => !ids.has(e.id))
  const inOrder = to === 'front' ? [...others, ...own] : [...own, ...others]
  return inOrder.map((e, position) => changeRow('element', e, { ...e, position }))
}

/** Places of an array in rows and columns, without the first, which is already there. */
export const gridPlaces = (
  columns: number,
  rows: number,
  xMm: Millimetres,
  yMm: Millimetres,
): ((p: Point) => Point)[] =>
  Array.from({ length: rows * columns - 1 }, (_, i) => {
    const [column, row] = [(i + 1) % columns, Math.floor((i + 1) / columns)]
    return (p: Point) => point(p.x + column * xMm, p.y + row * yMm)
  })

/** Places on a circle round a middle, evenly over so many degrees (a whole turn closes), without the first. */
export const roundPlaces = (middle: Point, count: number, overDeg: Degrees): ((p: Point) => Point)[] => {
  const step = Math.abs(overDeg) >= 360 ? overDeg / count : overDeg / Math.max(1, count - 1)
  return Array.from({ length: count - 1 }, (_, i) => {
    const turn = placedAt(0, 0, (i + 1) * step)
    return (p: Point) => {
      const out = through(turn, point(p.x - middle.x, p.y - middle.y))
      return point(middle.x + out.x, middle.y + out.y)
    }
  })
}

/** Takes things away, with the leads, bindings and legends of parts. */
export const removed = (rig: Rig, on: Surface, picked: readonly Thing[]): Change[] => {
  const free = picked.filter((t) => !isLocked(t))
  const changes: Change[] = []
  for (const t of [...free, ...tiedLegends(rig, on, free)]) {
    if (t.table === 'legend') changes.push(removeRow('legend', t.row))
    else if (t.table === 'part') changes.push(...removedPart(rig, t.row))
    else {
      changes.push(removeRow('element', t.row))
      const own = touchedPart(rig, t.row)
      if (own) changes.push(...removedWithPart(rig, own))
    }
  }
  return changes
}

/** A part with the leads and bindings of it. */
const removedPart = (rig: Rig, part: PartRow): Change[] => [
  ...bindingsOf(rig, part.id).map((b) => removeRow('binding', b)),
  ...leadsOf(rig, part.id).map((l) => removeRow('lead', l)),
  removeRow('part', part),
]

/** The same, with its legends. */
export const removedWithPart = (rig: Rig, part: PartRow): Change[] => [
  ...rowsOf(rig, 'legend')
    .filter((l) => l.partId === part.id)
    .map((l) => removeRow('legend', l)),
  ...removedPart(rig, part),
]

/** Gives things a group, takes them out of theirs, locks or frees them. */
export const marked = (
  things: readonly Thing[],
  marks: { readonly group?: string | undefined; readonly locked?: true | undefined },
): (Change | null)[] => things.map((t) => changed(t, { settings: clean({ ...t.row.settings, ...marks }) }))

/** Without fields that are undefined: they would not survive the way through the database. */
const clean = <T extends object>(settings: T): T =>
  Object.fromEntries(Object.entries(settings).filter(([, v]) => v !== undefined)) as T
