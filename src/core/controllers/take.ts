import { kindOf } from '../catalogue/own-kind'
import { partKind } from '../catalogue/parts'
import { leadsTo } from '../harness/leads'
import { removed } from '../layout/arrange'
import { surfaceOfPanel, thingsOn } from '../layout/things'
import { addRow, apply, type Change, changeRow, type Diff } from '../rig/edit'
import { numbered } from '../rig/numbered'
import { leadsOnBoard, panelsOf, partsOf, type Rig } from '../rig/rig'
import type { BoardRow, PanelRow, PartRow } from '../rig/rows'
import type { ControllerInput } from './capabilities'

/** What one or several inputs of a controller are to be: a part of the catalogue, and which contact each terminal is. */
export interface Taken {
  readonly kind: string
  readonly name: string
  readonly pins: Readonly<Record<string, string>>
  /** What its positions are called. */
  readonly labels?: Readonly<Record<string, string>>
}

const AXIS_KIND = 'slide-pot-45'
const HAT_SIDE = / (up|right|down|left)$/

/** Every input as a part of its own; the four sides of a hat are one. */
export const plainParts = (inputs: readonly ControllerInput[]): Taken[] => {
  const hats = new Map<string, Record<string, string>>()
  const taken: Taken[] = []
  for (const { name, is } of inputs) {
    if (is === 'button') taken.push({ kind: 'button-10-grey', name, pins: { closed: name } })
    else if (is === 'axis') taken.push({ kind: AXIS_KIND, name, pins: { wiper: name } })
    else {
      const side = HAT_SIDE.exec(name)?.[1]
      const hat = name.replace(HAT_SIDE, '')
      const pins = hats.get(hat) ?? {}
      if (side) pins[side] = name
      hats.set(hat, pins)
    }
  }
  for (const [name, pins] of hats) taken.push({ kind: 'thumb-hat', name, pins })
  // In the order in which they lie well beside each other.
  return [...taken.filter((t) => t.kind !== AXIS_KIND), ...taken.filter((t) => t.kind === AXIS_KIND)]
}

/** The most positions that a selector of the catalogue has. */
export const MOST_POSITIONS = 12

/**
 * Buttons of which one is closed at a time as one switch, in the order of its positions; `none` where it may also rest with
 * none of two closed. Null for what no switch is.
 */
export const oneSwitch = (buttons: readonly string[], none: boolean): Taken | null => {
  const [first = '', second = ''] = buttons
  const name = `${first}–${(buttons.at(-1) ?? '').replace(/^B/, '')}`
  if (buttons.length < 2 || buttons.length > MOST_POSITIONS || new Set(buttons).size !== buttons.length)
    return null
  if (buttons.length === 2) {
    const pins = { down: first, up: second }
    return { kind: none ? 'toggle-3' : 'toggle-2-changeover', name, pins }
  }
  if (none) return null
  const kind = [
    `rotary-${buttons.length}`,
    `rotary-${buttons.length}-36deg`,
    `rotary-${buttons.length}-45deg`,
  ].find((id) => partKind(id))
  return kind ? { kind, name, pins: Object.fromEntries(buttons.map((b, i) => [`${i + 1}`, b])) } : null
}

const BETWEEN_MM = 8
const EDGE_MM = 14
const LEGEND_MM = 7
const WIDEST_MM = 280

interface Place {
  xMm: number
  yMm: number
}

/** Puts things beside each other, row by row, below what is on the panel already; gives the size it takes. */
const laidOut = (rig: Rig, panel: PanelRow, kinds: readonly string[]) => {
  const sizes = kinds.map((id) => {
    const kind = partKind(id)
    const reach = kind?.mount.reach
    return {
      w: Math.max(kind?.frontMm.width ?? 10, kind?.mount.body.widthMm ?? 0, reach?.widthMm ?? 0),
      h: Math.max(kind?.frontMm.height ?? 10, kind?.mount.body.heightMm ?? 0, reach?.heightMm ?? 0),
    }
  })
  let top = Math.max(
    EDGE_MM,
    ...partsOf(rig, panel.id).map((p) => {
      const kind = kindOf(p)
      const half = Math.max(kind?.frontMm.height ?? 0, kind?.mount.body.heightMm ?? 0) / 2
      return p.yMm + half + LEGEND_MM + BETWEEN_MM
    }),
  )
  let left = EDGE_MM
  let deep = 0
  let wide = 0
  const places: Place[] = []
  for (const { w, h } of sizes) {
    // Tall ones begin a row of their own, so that small ones lie close.
    if ((left + w + EDGE_MM > WIDEST_MM || h > deep * 1.5) && left > EDGE_MM) {
      top += deep + LEGEND_MM + BETWEEN_MM
      left = EDGE_MM
      deep = 0
    }
    places.push({ xMm: left + w / 2, yMm: top + h / 2 })
    left += w + BETWEEN_MM
    deep = Math.max(deep, h)
    wide = Math.max(wide, left)
  }
  return { places, widthMm: wide + EDGE_MM - BETWEEN_MM, heightMm: top + deep + LEGEND_MM + EDGE_MM }
}

const round = (mm: number) => Math.round(mm * 2) / 2

/** What was taken as parts before and hangs on some of these contacts. */
const inTheWay = (rig: Rig, board: BoardRow, pins: ReadonlySet<string>): PartRow[] => {
  const ids = new Set(
    leadsOnBoard(rig, board.id).flatMap((l) => (l.pin !== null && pins.has(l.pin) ? (l.partId ?? []) : [])),
  )
  return [...ids].flatMap((id) => rig.part[id] ?? [])
}

/**
 * Takes inputs of a controller as parts: on a panel of the controller's own name, which is made or grows, each on its
 * contacts. Parts that had some of those contacts go, with what was bound to them.
 */
export const takingParts = (rig: Rig, board: BoardRow, taken: readonly Taken[], id: () => string): Diff => {
  const changes: (Change | null)[] = []
  const pins = new Set(taken.flatMap((t) => Object.values(t.pins)))
  const old = new Set(inTheWay(rig, board, pins).map((p) => p.id))
  for (const panel of panelsOf(rig)) {
    const on = surfaceOfPanel(panel)
    const things = thingsOn(rig, on).filter((t) => t.table === 'part' && old.has(t.row.id))
    if (things.length > 0) changes.push(...removed(rig, on, things))
  }
  const cleared = apply(
    rig,
    changes.filter((c) => c !== null),
  )
  const known = panelsOf(cleared).find((p) => p.name === board.name)
  const empty: PanelRow = {
    ...{ id: id(), name: board.name, position: Math.max(0, ...panelsOf(rig).map((p) => p.position)) + 1 },
    ...{ widthMm: 120, heightMm: 60, cornerMm: 3, thicknessMm: 3, settings: { holes: [] } },
  }
  const panel = known ?? empty
  const { places, widthMm, heightMm } = laidOut(
    cleared,
    panel,
    taken.map((t) => t.kind),
  )
  const grown = {
    ...panel,
    widthMm: Math.max(panel.widthMm, round(widthMm)),
    heightMm: Math.max(panel.heightMm, round(heightMm)),
  }
  changes.push(known ? changeRow('panel', panel, grown) : addRow('panel', grown))
  const names = new Set(Object.values(cleared.part).map((p) => p.name))
  const parts = taken.map((t, i): PartRow => {
    const full = `${board.name} ${t.name}`.slice(0, 110)
    const name = !names.has(t.name) ? t.name : names.has(full) ? numbered(full, names, 2) : full
    names.add(name)
    const place = places[i] ?? { xMm: EDGE_MM, yMm: EDGE_MM }
    return {
      ...{ id: id(), panelId: panel.id, name, kind: t.kind },
      ...{ xMm: round(place.xMm), yMm: round(place.yMm), rotationDeg: 0 },
      settings: t.labels ? { labels: { ...t.labels } } : {},
    }
  })
  const added = parts.map((part) => addRow('part', part))
  for (const [i, part] of parts.entries()) {
    const { frontMm } = partKind(part.kind) ?? { frontMm: { height: 10 } }
    added.push(
      addRow('legend', {
        ...{ id: id(), panelId: panel.id, partId: part.id },
        ...{ xMm: part.xMm, yMm: round(part.yMm + frontMm.height / 2 + 4.5) },
        settings: { kind: 'text', text: taken[i]?.name ?? '', sizeMm: 2.8, anchor: 'middle' },
      }),
    )
  }
  changes.push(...added)
  const drawn = apply(cleared, added)
  const wires = parts.flatMap((part, i) =>
    Object.entries(taken[i]?.pins ?? {}).map(([terminal, pin]) => ({
      from: { of: 'part' as const, id: part.id, terminal },
      end: { at: 'contact' as const, boardId: board.id, pin },
    })),
  )
  changes.push(...leadsTo(drawn, wires, id))
  return changes.filter((c) => c !== null)
}

/** By contact, the part that hangs there. */
export const partsByPin = (rig: Rig, board: BoardRow): ReadonlyMap<string, PartRow> =>
  new Map(
    leadsOnBoard(rig, board.id).flatMap((l) => {
      const part = rig.part[l.partId ?? '']
      return part && l.pin !== null ? [[l.pin, part] as const] : []
    }),
  )
