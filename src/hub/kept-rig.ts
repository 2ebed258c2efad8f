import { type Rig, rigOf } from '../core/rig/rig'
import { type TableName, tableNames, tables, tableWords } from '../core/rig/rows'

/** A rig as the hub had kept it: what of it is sound, and a sentence for each row that is not. */
export const soundRows = (kept: Partial<Rig>): { rig: Rig; left: string[] } => {
  const found = rigOf(kept) as unknown as Record<TableName, Record<string, unknown>>
  const left: string[] = []
  for (const table of tableNames)
    for (const [id, row] of Object.entries(found[table])) {
      if (tables[table].safeParse(row).success) continue
      delete found[table][id]
      left.push(
        `The ${tableWords[table]} ${id.slice(0, 40)} that the hub had kept is not sound; it is left out.`,
      )
    }
  return { rig: found as unknown as Rig, left }
}

/** Tables whose rows hold formulas: what is compiled, and so what can hang. */
export const compiledTables: readonly TableName[] = ['binding', 'layerSet', 'lighting', 'curve']

/** The same rig without some of the rows that are compiled. */
export const without = (rig: Rig, ids: ReadonlySet<string>): Rig => {
  if (ids.size === 0) return rig
  const lessened = rigOf(rig) as unknown as Record<TableName, Record<string, unknown>>
  for (const table of compiledTables) for (const id of ids) delete lessened[table][id]
  return lessened as unknown as Rig
}
