import { type TableName, tables } from '../core/rig/rows'

/** Names in TypeScript are camelCase, in SQL snake_case; nothing else differs. */
const snake = (name: string): string => name.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`)

export const columnOf = (field: string): string => `"${snake(field)}"`

/** A table's name in SQL. */
export const tableOf = (table: TableName): string => snake(table)

const fieldsOf = (table: TableName): string[] => Object.keys((tables[table] as { shape: object }).shape)

/** A table's columns, named back to the fields of its rows. */
export const selectList = (table: TableName): string =>
  fieldsOf(table)
    .map((f) => `${columnOf(f)} AS "${f}"`)
    .join(', ')

/** The rig row is its own rig; every other row names it. */
const isOwned = (table: TableName): boolean => table !== 'rig'

type Fields = Readonly<Record<string, unknown>>

/** One statement for all changes of a group: so many rows cost little more than one. */
export interface Statement {
  readonly text: string
  readonly values: readonly unknown[]
}

/** Rows as JSON that PostgreSQL reads back by the types of the table's own columns. */
const asRecords = (rows: readonly Fields[]): string =>
  JSON.stringify(rows.map((row) => Object.fromEntries(Object.entries(row).map(([k, v]) => [snake(k), v]))))

const records = (table: TableName, place: number): string =>
  `jsonb_populate_recordset(NULL::${tableOf(table)}, $${place}::jsonb)`

/** The fields of a table that a row has. */
export const fieldsIn = (table: TableName, row: Fields): string[] =>
  fieldsOf(table).filter((f) => row[f] !== undefined)

/** Rows that have the same fields. */
export const insertSql = (table: TableName, rigId: string, rows: readonly Fields[]): Statement => {
  const columns = fieldsIn(table, rows[0] ?? {}).map(columnOf)
  const owner = isOwned(table) ? ['rig_id'] : []
  return {
    text: `INSERT INTO ${tableOf(table)} (${[...owner, ...columns].join(', ')})
           SELECT ${[...owner.map(() => '$1'), ...columns.map((c) => `r.${c}`)].join(', ')} FROM ${records(table, owner.length + 1)} r`,
    values: [...owner.map(() => rigId), asRecords(rows)],
  }
}

/** Changes of the same fields, each of another row. */
export const updateSql = (
  table: TableName,
  rigId: string,
  changes: readonly { readonly id: string; readonly after: Fields }[],
): Statement => {
  const sets = fieldsOf(table)
    .filter((f) => f !== 'id' && f in (changes[0]?.after ?? {}))
    .map((f) => `${columnOf(f)} = r.${columnOf(f)}`)
  return {
    text: `UPDATE ${tableOf(table)} t SET ${sets.join(', ')} FROM ${records(table, 2)} r
            WHERE t.id = r.id AND ${isOwned(table) ? 't.rig_id' : 't.id'} = $1`,
    values: [rigId, asRecords(changes.map(({ id, after }) => ({ ...after, id })))],
  }
}

export const deleteSql = (table: TableName, rigId: string, ids: readonly string[]): Statement => ({
  text: `DELETE FROM ${tableOf(table)} WHERE ${ofRig(table)} AND id = ANY($2)`,
  values: [rigId, ids],
})

/** Takes the rig's id as $1. */
export const ofRig = (table: TableName): string => (isOwned(table) ? 'rig_id = $1' : 'id = $1')
