import { type Diff, rigAsDiff } from '../core/rig/edit'
import { numbered } from '../core/rig/numbered'
import { rowsOf } from '../core/rig/rig'
import type { ListedRig } from '../core/rig/rig-list'
import { RIG_FORMAT } from '../core/rig/rows'
import { type Connection, type Database, inTransaction } from './database'
import { applyRows, EDITS } from './edit-store'
import { loadRigOf, openRigId } from './rig-store'

/** What was asked for cannot be done, and why. */
export interface NotDone {
  readonly reason: string
}

type Done = { readonly id: string } | NotDone

/** Every rig there is, the open one first, then by when it was last edited. */
export const listRigs = async (db: Database): Promise<ListedRig[]> => {
  const open = await openRigId(db)
  const { rows } = await db.query<Omit<ListedRig, 'open' | 'changedAt'> & { changedAt: Date }>(
    `SELECT r.id, r.name, r.removed_at IS NOT NULL AS removed,
            (SELECT count(*)::int FROM panel p WHERE p.rig_id = r.id) AS panels,
            (SELECT count(*)::int FROM part p WHERE p.rig_id = r.id) AS parts,
            (SELECT count(*)::int FROM board b WHERE b.rig_id = r.id) AS boards,
            coalesce((SELECT max(h.at) FROM history h WHERE h.rig_id = r.id), r.begun_at) AS "changedAt"
     FROM rig r ORDER BY "changedAt" DESC, r.id`,
  )
  return rows
    .map((r) => ({ ...r, open: r.id === open, changedAt: r.changedAt.toISOString() }))
    .sort((a, b) => Number(b.open) - Number(a.open))
}

/** A name has at most 120 characters, of which a number behind it takes a few. */
const MOST_BARE = 114

const freeName = async (c: Connection, wanted: string): Promise<string> => {
  const name = wanted.slice(0, MOST_BARE).trim()
  const { rows } = await c.query<{ name: string }>('SELECT name FROM rig')
  const taken = new Set(rows.map((r) => r.name))
  return taken.has(name) ? numbered(name, taken, 2) : name
}

/** Keeps the rows of a rig, sound as a file's reader or the store gives them, as one more: under an id of its own and a name that is free. */
export const addRig = (db: Database, id: string, rows: Diff, name?: string): Promise<Done> =>
  inTransaction(db, async (c): Promise<Done> => {
    const own = rows.find((r) => r.op === 'add' && r.table === 'rig')
    const said = own?.op === 'add' ? String(own.row.name ?? '') : ''
    const free = await freeName(c, (name ?? said).trim() || 'My cockpit')
    const rig = { id, name: free, format: RIG_FORMAT }
    await applyRows(c, id, [
      { op: 'add', table: 'rig', id, row: rig },
      ...rows.filter((r) => r.table !== 'rig'),
    ])
    return { id }
  })

/** A rig as it is now once more, with no history of its own yet. */
export const copyRig = async (db: Database, from: string, id: string): Promise<Done> => {
  const loaded = await loadRigOf(db, from)
  if (!loaded) return { reason: 'There is no such rig.' }
  const aside = loaded.setAside[0]
  if (aside)
    return { reason: `It has rows that this Clavik cannot read, so it is not copied: ${aside.message}` }
  const own = rowsOf(loaded.rig, 'rig')[0]?.name ?? 'rig'
  return addRig(db, id, rigAsDiff(loaded.rig), `Copy of ${own}`)
}

/** Opens another rig: the hub and every page follow. */
export const openRig = (db: Database, id: string): Promise<Done> =>
  inTransaction(db, async (c): Promise<Done> => {
    const { rowCount } = await c.query('SELECT 1 FROM rig WHERE id = $1 AND removed_at IS NULL FOR SHARE', [
      id,
    ])
    if (!rowCount) return { reason: 'There is no such rig to open.' }
    await c.query(
      `INSERT INTO store_setting (name, value) VALUES ('open rig', $1)
       ON CONFLICT (name) DO UPDATE SET value = EXCLUDED.value`,
      [id],
    )
    await c.query('SELECT pg_notify($1, $2)', [EDITS, 'another rig'])
    return { id }
  })

/** Changes a rig that is not open. Opening waits for it and it for opening, so that it cannot become the open one meanwhile. */
const changeClosed = (
  db: Database,
  id: string,
  isOpen: string,
  sql: string,
  ...values: readonly unknown[]
): Promise<Done> =>
  inTransaction(db, async (c): Promise<Done> => {
    await c.query('SELECT 1 FROM rig WHERE id = $1 FOR UPDATE', [id])
    if ((await openRigId(c)) === id) return { reason: isOpen }
    const { rowCount } = await c.query(sql, [id, ...values])
    return rowCount ? { id } : { reason: 'There is no such rig.' }
  })

/** Puts a rig aside; the open one stays. */
export const removeRig = (db: Database, id: string): Promise<Done> =>
  changeClosed(
    db,
    id,
    'It is open; open another one first.',
    'UPDATE rig SET removed_at = now() WHERE id = $1 AND removed_at IS NULL',
  )

/** Brings one back that was put aside. */
export const bringRigBack = (db: Database, id: string): Promise<Done> =>
  changeClosed(
    db,
    id,
    'It is open, and was not put aside.',
    'UPDATE rig SET removed_at = NULL WHERE id = $1 AND removed_at IS NOT NULL',
  )

/** Gives a rig that is not open another name; the open one is renamed by an edit, as anything in it. */
export const renameRig = (db: Database, id: string, name: string): Promise<Done> =>
  changeClosed(
    db,
    id,
    'It is open: its name is changed by an edit.',
    'UPDATE rig SET name = $2 WHERE id = $1',
    name,
  )
