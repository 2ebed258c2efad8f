import { type RowOf, type TableName, tableNames } from './rows'

/** A whole rig as plain data: each table's rows by id. Never mutated; edits make a new one that shares rows. */
export type Rig = { readonly [T in TableName]: Readonly<Record<string, RowOf<T>>> }

export const emptyRig = (): Rig => Object.fromEntries(tableNames.map((t) => [t, {}])) as unknown as Rig

export const rowsOf = <T extends TableName>(rig: Rig, table: T): RowOf<T>[] => Object.values(rig[table])

/** The one rig row there is, or null in an empty store. */
export const rigRow = (rig: Rig): RowOf<'rig'> | null => rowsOf(rig, 'rig')[0] ?? null

export const byPosition = (a: { position: number; id: string }, b: { position: number; id: string }) =>
  a.position - b.position || (a.id < b.id ? -1 : 1)

export const panelsOf = (rig: Rig) => rowsOf(rig, 'panel').sort(byPosition)
export const boardsOf = (rig: Rig) => rowsOf(rig, 'board').sort(byPosition)

/** Rows of a table by the row they belong to, found once per version of the table: rigs are never mutated. */
const grouped = <T extends TableName>(
  owner: (row: RowOf<T>) => string,
  order: (a: RowOf<T>, b: RowOf<T>) => number,
) => {
  const known = new WeakMap<object, Map<string, RowOf<T>[]>>()
  return (rows: Readonly<Record<string, RowOf<T>>>, id: string): readonly RowOf<T>[] => {
    let groups = known.get(rows)
    if (!groups) {
      groups = new Map()
      for (const row of Object.values(rows)) {
        const group = groups.get(owner(row))
        if (group) group.push(row)
        else groups.set(owner(row), [row])
      }
      for (const group of groups.values()) group.sort(order)
      known.set(rows, groups)
    }
    return groups.get(id) ?? []
  }
}

const partsByPanel = grouped<'part'>(
  (p) => p.panelId,
  (a, b) => Math.round(a.yMm / 10) - Math.round(b.yMm / 10) || a.xMm - b.xMm,
)
const leadsByPart = grouped<'lead'>(
  (l) => l.partId,
  (a, b) => a.number - b.number,
)
const layersBySet = grouped<'layer'>((l) => l.layerSet, byPosition)
const bindingsByPart = grouped<'binding'>((b) => b.partId, byPosition)

/** The parts of a panel in reading order: top to bottom in rows of 10 mm, then left to right. */
export const partsOf = (rig: Rig, panelId: string) => partsByPanel(rig.part, panelId)
export const leadsOf = (rig: Rig, partId: string) => leadsByPart(rig.lead, partId)
export const bindingsOf = (rig: Rig, partId: string) => bindingsByPart(rig.binding, partId)
export const layerSetsOf = (rig: Rig) => rowsOf(rig, 'layerSet').sort(byPosition)
export const layersOf = (rig: Rig, setId: string) => layersBySet(rig.layer, setId)
