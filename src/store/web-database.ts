import { type Database, openDatabase } from './database'

const held = globalThis as { clavikDatabase?: Database }

/** The web process's one pool. */
export const webDatabase = (): Database => {
  held.clavikDatabase ??= openDatabase(process.env.CLAVIK_DATABASE_URL ?? '')
  return held.clavikDatabase
}
