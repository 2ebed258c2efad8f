import { type Rig, rowsOf } from './rig'
import { type TableName, tableNames, tableWords } from './rows'

/** Which field of a row points at a row of which table; the database holds the same. */
export const references: Partial<Record<TableName, Readonly<Record<string, TableName>>>> = {
  board: { supplyId: 'supply' },
  expander: { boardId: 'board' },
  part: { panelId: 'panel' },
  legend: { panelId: 'panel', partId: 'part' },
  lead: {
    partId: 'part',
    boardId: 'board',
    expanderId: 'expander',
    supplyId: 'supply',
    fromExpanderId: 'expander',
  },
  layer: { layerSet: 'layerSet' },
  binding: { partId: 'part' },
  page: { screenId: 'screen' },
  picture: { screenId: 'screen' },
  element: { screenId: 'screen', pageId: 'page' },
}

/** The first row that points at one that is not there, as a sentence; null where all stand. */
export const pointsNowhere = (rig: Rig): string | null => {
  for (const table of tableNames) {
    const fields = Object.entries(references[table] ?? {})
    for (const row of rowsOf(rig, table) as readonly Readonly<Record<string, unknown>>[]) {
      for (const [field, to] of fields) {
        const id = row[field]
        if (typeof id !== 'string' || rig[to][id] !== undefined) continue
        return `The ${tableWords[table]} “${row.name ?? row.id}” belongs to the ${tableWords[to]} “${id}” (${field}), which is not there.`
      }
    }
  }
  return null
}
