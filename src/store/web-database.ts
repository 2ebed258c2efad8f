import { type Database, openDatabase } from './database'

const held = globalThis as { clavikDatabase?: Database }

/** The web process's one pool. */
export const webDatabase = (): Database => {
  held.clavikDatabase ??= openDatabase(process.env.CLAVIK_DATABASE_URL ?? '')
  return held.clavikDatabase
}

/** The one rig of this store. */
export const rigIdOf = async (db: Database): Promise<string | null> => {
  const { rows } = await db.query<{ id: string }>('SELECT id FROM rig ORDER BY id LIMIT 1')
  return rows[0]?.id ?? null
}
