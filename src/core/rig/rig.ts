import { type RowOf, type TableName, tableNames } from './rows'

/** A whole rig as plain data: each table's rows by id. Never mutated; edits make a new one that shares rows. */
export type Rig = { readonly [T in TableName]: Readonly<Record<string, RowOf<T>>> }

/** A table without anything in it, and with nothing behind it: no name from outside is ever found in `Object`. */
export const copyOfTable = <T>(rows: Readonly<Record<string, T>> = {}): Record<string, T> =>
  Object.assign(Object.create(null) as Record<string, T>, rows)

/** A rig of these tables, as they came out of JSON; those that are not there are empty. */
export const rigOf = (found: Partial<Rig>): Rig =>
  Object.fromEntries(
    tableNames.map((t) => [t, copyOfTable<unknown>(found[t] as Record<string, unknown> | undefined)]),
  ) as unknown as Rig

export const emptyRig = (): Rig => rigOf({})

export const rowsOf = <T extends TableName>(rig: Rig, table: T): RowOf<T>[] => Object.values(rig[table])

/** The one rig row there is, or null in an empty store. */
export const rigRow = (rig: Rig): RowOf<'rig'> | null => rowsOf(rig, 'rig')[0] ?? null

export const byPosition = (a: { position: number; id: string }, b: { position: number; id: string }) =>
  a.position - b.position || (a.id < b.id ? -1 : 1)

export const panelsOf = (rig: Rig) => rowsOf(rig, 'panel').sort(byPosition)
export const boardsOf = (rig: Rig) => rowsOf(rig, 'board').sort(byPosition)
export const connectionsOf = (rig: Rig) => rowsOf(rig, 'connection').sort(byPosition)

/** Rows of a table by the row they belong to, found once per version of the table: rigs are never mutated. */
const grouped = <T extends TableName>(
  owner: (row: RowOf<T>) => string | null,
  order: (a: RowOf<T>, b: RowOf<T>) => number,
) => {
  const known = new WeakMap<object, Map<string, RowOf<T>[]>>()
  // Always the same, so that who looks again sees that nothing has changed.
  const none: readonly RowOf<T>[] = []
  return (rows: Readonly<Record<string, RowOf<T>>>, id: string): readonly RowOf<T>[] => {
    let groups = known.get(rows)
    if (!groups) {
      groups = new Map()
      for (const row of Object.values(rows)) {
        const key = owner(row)
        if (key === null) continue
        const group = groups.get(key)
        if (group) group.push(row)
        else groups.set(key, [row])
      }
      for (const group of groups.values()) group.sort(order)
      known.set(rows, groups)
    }
    return groups.get(id) ?? none
  }
}

const partsByPanel = grouped<'part'>(
  (p) => p.panelId,
  (a, b) => Math.round(a.yMm / 10) - Math.round(b.yMm / 10) || a.xMm - b.xMm,
)
const byNumber = (a: RowOf<'lead'>, b: RowOf<'lead'>) => a.number - b.number
const leadsByPart = grouped<'lead'>((l) => l.partId, byNumber)
const leadsByExpander = grouped<'lead'>((l) => l.fromExpanderId, byNumber)
const leadsByBoard = grouped<'lead'>((l) => l.boardId, byNumber)
const leadsByChannel = grouped<'lead'>((l) => l.expanderId, byNumber)
const expandersByBoard = grouped<'expander'>((e) => e.boardId, byPosition)
const layersBySet = grouped<'layer'>((l) => l.layerSet, byPosition)
const bindingsByPart = grouped<'binding'>((b) => b.partId, byPosition)
const pagesByScreen = grouped<'page'>((p) => p.screenId, byPosition)
const elementsByScreen = grouped<'element'>((e) => e.screenId, byPosition)

/** The parts of a panel in reading order: top to bottom in rows of 10 mm, then left to right. */
export const partsOf = (rig: Rig, panelId: string) => partsByPanel(rig.part, panelId)
export const leadsOf = (rig: Rig, partId: string) => leadsByPart(rig.lead, partId)
/** The leads of an expander's own terminals. */
export const linesOf = (rig: Rig, expanderId: string) => leadsByExpander(rig.lead, expanderId)
/** What hangs on the contacts of a board, and on the channels of an expander. */
export const leadsOnBoard = (rig: Rig, boardId: string) => leadsByBoard(rig.lead, boardId)
export const leadsOnExpander = (rig: Rig, expanderId: string) => leadsByChannel(rig.lead, expanderId)
/** The board that a lead ends on, at a contact or on a channel of one of its expanders. */
export const boardOfLead = (rig: Rig, lead: RowOf<'lead'>): string | null =>
  lead.boardId ?? rig.expander[lead.expanderId ?? '']?.boardId ?? null
export const expandersOf = (rig: Rig, boardId: string) => expandersByBoard(rig.expander, boardId)
export const bindingsOf = (rig: Rig, partId: string) => bindingsByPart(rig.binding, partId)
export const layerSetsOf = (rig: Rig) => rowsOf(rig, 'layerSet').sort(byPosition)
export const lightingsOf = (rig: Rig) => rowsOf(rig, 'lighting').sort(byPosition)
export const layersOf = (rig: Rig, setId: string) => layersBySet(rig.layer, setId)

export const screensOf = (rig: Rig) => rowsOf(rig, 'screen').sort(byPosition)
export const pagesOf = (rig: Rig, screenId: string) => pagesByScreen(rig.page, screenId)
/** The elements of a screen, the lowest first. */
export const elementsOf = (rig: Rig, screenId: string) => elementsByScreen(rig.element, screenId)
