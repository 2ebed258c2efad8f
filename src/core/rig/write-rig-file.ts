import { type Rig, rowsOf } from './rig'
import { RIG_FORMAT, type TableName, tableNames, tables } from './rows'

const fieldsOf = (table: TableName): string[] => Object.keys((tables[table] as { shape: object }).shape)

/** A value with the fields of its objects in the order of the alphabet, so that the same is always written the same. */
const ordered = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(ordered)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, v]) => v !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([k, v]) => [k, ordered(v)]),
  )
}

/**
 * A rig as a file, in an order that never changes and a line a row: tables as they depend on each other, rows by their
 * ids, fields as the schema has them. Two versions of a rig differ in the lines that are different.
 */
export const writeRigFile = (rig: Rig): string => {
  const written = tableNames.flatMap((table) => {
    const rows = [...rowsOf(rig, table)].sort((a, b) => (a.id < b.id ? -1 : 1))
    if (rows.length === 0) return []
    const fields = fieldsOf(table)
    const lines = rows.map((row) => {
      const own = row as Readonly<Record<string, unknown>>
      return JSON.stringify(
        Object.fromEntries(fields.filter((f) => own[f] !== undefined).map((f) => [f, ordered(own[f])])),
      )
    })
    return [`${JSON.stringify(table)}:[\n${lines.join(',\n')}\n]`]
  })
  return `{"clavik":"rig","format":${RIG_FORMAT},"rows":{\n${written.join(',\n')}\n}}\n`
}
