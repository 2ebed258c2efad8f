import { type TableName, tables } from '../core/rig/rows'

/** Names in TypeScript are camelCase, in SQL snake_case; nothing else differs. */
export const columnOf = (field: string): string =>
  `"${field.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`)}"`

/** A table's name in SQL. */
export const tableOf = (table: TableName): string => table.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`)

const jsonFields = new Set(['settings', 'points', 'own'])

const fieldsOf = (table: TableName): string[] => Object.keys((tables[table] as { shape: object }).shape)

/** A table's columns, named back to the fields of its rows. */
export const selectList = (table: TableName): string =>
  fieldsOf(table)
    .map((f) => `${columnOf(f)} AS "${f}"`)
    .join(', ')

const toSql = (field: string, value: unknown): unknown =>
  jsonFields.has(field) && value !== null ? JSON.stringify(value) : value

/** The rig row is its own rig; every other row names it. */
const ownerColumns = (table: TableName): string[] => (table === 'rig' ? [] : ['rig_id'])

export const insertSql = (table: TableName, rigId: string, row: Readonly<Record<string, unknown>>) => {
  const fields = fieldsOf(table).filter((f) => row[f] !== undefined)
  const owners = ownerColumns(table)
  const columns = [...owners, ...fields.map(columnOf)]
  const values = [...owners.map(() => rigId), ...fields.map((f) => toSql(f, row[f]))]
  const places = values.map((_, i) => `$${i + 1}`)
  return {
    text: `INSERT INTO ${tableOf(table)} (${columns.join(', ')}) VALUES (${places.join(', ')})`,
    values,
  }
}

export const updateSql = (
  table: TableName,
  rigId: string,
  id: string,
  after: Readonly<Record<string, unknown>>,
) => {
  const fields = fieldsOf(table).filter((f) => f !== 'id' && f in after)
  const sets = fields.map((f, i) => `${columnOf(f)} = $${i + 3}`)
  return {
    text: `UPDATE ${tableOf(table)} SET ${sets.join(', ')} WHERE ${whereRow(table)}`,
    values: [rigId, id, ...fields.map((f) => toSql(f, after[f]))],
  }
}

export const deleteSql = (table: TableName, rigId: string, id: string) => ({
  text: `DELETE FROM ${tableOf(table)} WHERE ${whereRow(table)}`,
  values: [rigId, id],
})

/** Takes the rig's id as $1 and the row's as $2. */
const whereRow = (table: TableName): string =>
  table === 'rig' ? 'id = $2 AND id = $1' : 'rig_id = $1 AND id = $2'

export const ofRig = (table: TableName): string => (table === 'rig' ? 'id = $1' : 'rig_id = $1')
