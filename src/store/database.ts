import pg from 'pg'

export type Database = pg.Pool
export type Connection = pg.PoolClient

/** bigint revisions stay far below 2^53. */
pg.types.setTypeParser(pg.types.builtins.INT8, Number)

/** A pool of connections to the rig's own PostgreSQL, in which nothing may take longer than `mostMs`. It never throws by itself when the server goes away. */
export const openDatabase = (url: string, mostMs = 10_000): Database => {
  const pool = new pg.Pool({
    connectionString: url,
    max: 6,
    connectionTimeoutMillis: 1500,
    query_timeout: mostMs,
  })
  pool.on('error', () => {})
  return pool
}

/** Runs work in one transaction; whatever it throws undoes all of it. */
export const inTransaction = async <T>(db: Database, work: (c: Connection) => Promise<T>): Promise<T> => {
  const client = await db.connect()
  let broken: Error | undefined
  try {
    await client.query('BEGIN')
    const result = await work(client)
    await client.query('COMMIT')
    return result
  } catch (error) {
    await client.query('ROLLBACK').catch((e: Error) => {
      broken = e
    })
    throw error
  } finally {
    client.release(broken)
  }
}

/** Whether an error means that the database cannot be reached, rather than that it refused. */
export const isAway = (error: unknown): boolean => {
  const { code, message } = error as { code?: string; message?: string }
  if (code !== undefined && /^(ECONN|EPIPE|ENOTFOUND|ETIMEDOUT|57P0|08|53)/.test(code)) return true
  return /timeout|terminated|Connection ended|not queryable/i.test(message ?? '')
}

const DISK_FULL = '53100'

/** Why the database cannot do anything just now, in a sentence; null where it did, and refused. */
export const databaseTrouble = (error: unknown): string | null => {
  if ((error as { code?: string }).code === DISK_FULL) return 'The disk of the database is full'
  return isAway(error) ? 'The database is away' : null
}
