import { type OwnWord, type OwnWords, saysNothing } from '../core/rig/own-words'
import { type Database, inTransaction } from './database'

/** Announces that something else is said of the names of some craft. */
export const WORDS = 'clavik_words'

/** All that is said of names, by craft. */
export const loadWords = async (db: Database): Promise<OwnWords> => {
  const { rows } = await db.query<OwnWord & { craft: string }>(
    'SELECT craft, name, called, unit, description FROM craft_word ORDER BY craft, name',
  )
  const words: Record<string, OwnWord[]> = {}
  for (const { craft, ...word } of rows) {
    words[craft] ??= []
    words[craft].push(word)
  }
  return words
}

/** Keeps what is said of these names of a craft, all of them or none; of whom nothing is said any more is forgotten. */
export const keepWords = (db: Database, craft: string, words: readonly OwnWord[]): Promise<void> =>
  inTransaction(db, async (c) => {
    const kept = words.filter((w) => !saysNothing(w))
    const gone = words.filter(saysNothing).map((w) => w.name)
    await c.query('DELETE FROM craft_word WHERE craft = $1 AND name = ANY($2)', [craft, gone])
    await c.query(
      `INSERT INTO craft_word (craft, name, called, unit, description)
       SELECT $1, * FROM unnest($2::text[], $3::text[], $4::text[], $5::text[])
       ON CONFLICT (craft, name) DO UPDATE
       SET called = excluded.called, unit = excluded.unit, description = excluded.description`,
      [
        craft,
        kept.map((w) => w.name),
        kept.map((w) => w.called),
        kept.map((w) => w.unit),
        kept.map((w) => w.description),
      ],
    )
    await c.query('SELECT pg_notify($1, $2)', [WORDS, ''])
  })
