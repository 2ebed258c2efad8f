import { emptyRig, type Rig } from '../core/rig/rig'
import { type TableName, tableNames, tables, tableWords } from '../core/rig/rows'
import { type Connection, type Database, inTransaction } from './database'
import { ofRig, selectList, tableOf } from './row-sql'

/** A row that this Clavik cannot read. It stays in the database as it is, and is left out of the rig. */
export interface SetAside {
  readonly table: TableName
  readonly id: string
  readonly message: string
}

export interface LoadedRig {
  readonly id: string
  readonly rig: Rig
  readonly revision: number
  readonly setAside: readonly SetAside[]
}

const readTable = async (c: Connection, table: TableName, rigId: string) => {
  const { rows } = await c.query<Record<string, unknown> & { id: string }>(
    `SELECT ${selectList(table)} FROM ${tableOf(table)} WHERE ${ofRig(table)}`,
    [rigId],
  )
  return rows
}

const reasonOf = (table: TableName, row: Record<string, unknown>): string | null => {
  const checked = tables[table].safeParse(row)
  if (checked.success) return null
  const issue = checked.error.issues[0]
  const place = issue?.path.join('.') || 'row'
  const label = typeof row.name === 'string' ? `“${row.name}”` : `“${String(row.id)}”`
  const newer =
    issue?.code === 'invalid_union' || issue?.code === 'unrecognized_keys' || issue?.code === 'too_big'
  const why = newer ? 'it seems to come from a newer Clavik' : (issue?.message ?? 'it cannot be read')
  return `The ${tableWords[table]} ${label} is left out: ${place}: ${why}. It is kept as it is.`
}

/** Which rig is open, or null where there is none. */
export const openRigId = async (c: Connection | Database): Promise<string | null> => {
  const { rows } = await c.query<{ id: string }>(
    `SELECT rig.id FROM store_setting JOIN rig ON rig.id = store_setting.value WHERE store_setting.name = 'open rig'`,
  )
  return rows[0]?.id ?? null
}

/** The open rig as it stands, or null where there is none yet. */
export const loadRig = (db: Database): Promise<LoadedRig | null> =>
  inTransaction(db, async (c) => {
    await c.query('SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY')
    const id = await openRigId(c)
    return id === null ? null : readRig(c, id)
  })

/** One rig of those that are kept, or null where there is none of that id. */
export const loadRigOf = (db: Database, id: string): Promise<LoadedRig | null> =>
  inTransaction(db, async (c) => {
    await c.query('SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY')
    const { rowCount } = await c.query('SELECT 1 FROM rig WHERE id = $1', [id])
    return rowCount ? readRig(c, id) : null
  })

const readRig = async (c: Connection, id: string): Promise<LoadedRig> => {
  const rig = emptyRig() as Record<TableName, Record<string, unknown>>
  const setAside: SetAside[] = []
  for (const table of tableNames) {
    for (const row of await readTable(c, table, id)) {
      const message = reasonOf(table, row)
      if (message === null) rig[table][row.id] = row
      else setAside.push({ table, id: row.id, message })
    }
  }
  return { id, rig: rig as unknown as Rig, revision: await latestRevision(c, id), setAside }
}

export const latestRevision = async (c: Connection | Database, rigId: string): Promise<number> => {
  const { rows } = await c.query<{ revision: number | null }>(
    'SELECT max(revision) AS revision FROM history WHERE rig_id = $1',
    [rigId],
  )
  return rows[0]?.revision ?? 0
}
