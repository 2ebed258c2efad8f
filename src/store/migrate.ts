import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { type Database, inTransaction } from './database'

/** Brings the database up to the newest migration, each in a transaction of its own. Returns those applied. */
export const migrate = async (db: Database, folder: string): Promise<string[]> => {
  await db.query(
    'CREATE TABLE IF NOT EXISTS migration (name text PRIMARY KEY, at timestamptz NOT NULL DEFAULT now())',
  )
  const done = new Set(
    (await db.query<{ name: string }>('SELECT name FROM migration')).rows.map((r) => r.name),
  )
  const known = readdirSync(folder)
    .filter((f) => f.endsWith('.sql'))
    .sort()
  const unknown = [...done].filter((name) => !known.includes(name))
  if (unknown.length > 0) {
    throw new Error(`this database was used by a newer Clavik (${unknown.join(', ')}); it is left as it is`)
  }
  const applied: string[] = []
  for (const name of known) {
    if (done.has(name)) continue
    await inTransaction(db, async (c) => {
      await c.query(readFileSync(join(folder, name), 'utf8'))
      await c.query('INSERT INTO migration (name) VALUES ($1)', [name])
    })
    applied.push(name)
  }
  return applied
}
