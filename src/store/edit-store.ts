import { pinOf, railOf } from '../core/catalogue/boards'
import { modelOf } from '../core/catalogue/own-board'
import {
  apply,
  type Change,
  type Conflict,
  conflicts,
  type Diff,
  inOrder,
  invalidRows,
  invert,
  rebased,
} from '../core/rig/edit'
import type { HistorySummary } from '../core/rig/history-summary'
import { emptyRig, type Rig } from '../core/rig/rig'
import { type BoardRow, type LeadRow, type TableName, tableNames } from '../core/rig/rows'
import { type Connection, type Database, inTransaction } from './database'
import {
  deleteSql,
  fieldsIn,
  insertSql,
  ofRig,
  type Statement,
  selectList,
  tableOf,
  updateSql,
} from './row-sql'

/** The channel on which every edit is announced; the payload is its revision. */
export const EDITS = 'clavik_edits'

export interface Edit {
  readonly editId: string
  readonly who: string
  readonly sentence: string
  readonly diff: Diff
}

export interface HistoryEntry extends Edit {
  readonly revision: number
  readonly at: string
  readonly kind: 'edit' | 'undo' | 'redo'
  readonly ofRevision: number | null
}

export type EditResult =
  | { readonly ok: true; readonly revision: number }
  /** Nothing was changed; each sentence says what stands against it. */
  | { readonly ok: false; readonly reasons: readonly string[] }

class Refused extends Error {
  constructor(readonly reasons: readonly string[]) {
    super(reasons[0])
  }
}

const refuse = (found: readonly Conflict[]): void => {
  if (found.length > 0) throw new Refused([...new Set(found.map((f) => f.message))])
}

/** The rows a diff speaks of, as they stand and locked until the transaction ends. */
const lockedRows = async (c: Connection, rigId: string, diff: Diff): Promise<Rig> => {
  const rig = emptyRig() as Record<TableName, Record<string, unknown>>
  for (const table of tableNames) {
    const ids = diff.filter((d) => d.table === table).map((d) => d.id)
    if (ids.length === 0) continue
    const { rows } = await c.query<{ id: string }>(
      `SELECT ${selectList(table)} FROM ${tableOf(table)} WHERE ${ofRig(table)} AND id = ANY($2) FOR UPDATE`,
      [rigId, ids],
    )
    for (const row of rows) rig[table][row.id] = row
  }
  return rig as unknown as Rig
}

/** Changes of one kind that go into one statement: the same table, the same fields, each of another row. */
interface Group {
  readonly key: string
  readonly changes: Change[]
  readonly ids: Set<string>
}

const keyOf = (c: Change): string => {
  if (c.op === 'remove') return `remove ${c.table}`
  const fields = c.op === 'add' ? fieldsIn(c.table, c.row) : Object.keys(c.after).sort()
  return `${c.op} ${c.table} ${fields.join(' ')}`
}

/** The diff in statements, in an order that never breaks a reference. */
const statements = (rigId: string, diff: Diff): Statement[] => {
  const groups: Group[] = []
  for (const c of inOrder(diff)) {
    const key = keyOf(c)
    const last = groups.at(-1)
    const open =
      last?.key === key && !last.ids.has(c.id) ? last : { key, changes: [], ids: new Set<string>() }
    if (open !== last) groups.push(open)
    open.changes.push(c)
    open.ids.add(c.id)
  }
  return groups.map(({ changes }) => {
    const [first] = changes as [Change, ...Change[]]
    const { table } = first
    if (first.op === 'remove')
      return deleteSql(
        table,
        rigId,
        changes.map((c) => c.id),
      )
    if (first.op === 'add')
      return insertSql(
        table,
        rigId,
        changes.flatMap((c) => (c.op === 'add' ? [c.row] : [])),
      )
    return updateSql(
      table,
      rigId,
      changes.flatMap((c) => (c.op === 'change' ? [{ id: c.id, after: c.after }] : [])),
    )
  })
}

/** What only the catalogue knows: a lead must end at a pin, or at a contact that gives a supply, that its board has. */
const impossiblePins = async (c: Connection, rigId: string, after: Rig, diff: Diff): Promise<Conflict[]> => {
  const leads = diff.flatMap((change) =>
    change.table === 'lead' && change.op !== 'remove' ? (after.lead[change.id] ?? []) : [],
  )
  const boards = await c.query<Pick<BoardRow, 'id' | 'name' | 'model' | 'own'>>(
    'SELECT id, name, model, own FROM board WHERE rig_id = $1 AND id = ANY($2)',
    [rigId, [...new Set(leads.flatMap((l) => l.boardId ?? []))]],
  )
  const known = new Map(boards.rows.map((b) => [b.id, b]))
  return leads.flatMap((lead): Conflict[] => {
    // The same edit may make its board another.
    const board = after.board[lead.boardId ?? ''] ?? known.get(lead.boardId ?? '')
    const model = modelOf(board)
    if (!board || !model || lead.pin === null) return []
    if (pinOf(model, lead.pin) || railOf(model, lead.pin)) return []
    const message = `Lead ${lead.number}: ${board.name} (${model.name}) has no pin ${lead.pin}.`
    return [{ table: 'lead', id: lead.id, message }]
  })
}

/** Turns a broken constraint into a sentence that names the thing and the place. */
const constraintSentence = async (
  db: Database,
  rigId: string,
  error: unknown,
  after: Rig,
): Promise<string | null> => {
  const { code, constraint, detail, message } = error as {
    code?: string
    constraint?: string
    detail?: string
    message?: string
  }
  // Whatever the database refuses is refused, whoever sends it again: only when it is away is that another matter.
  if (code === undefined || !/^(22|23|42|54)/.test(code)) return null
  if (!code.startsWith('23')) return `The database does not take it: ${message ?? code}.`
  if (constraint === 'lead_pin_once' || constraint === 'lead_channel_once') {
    for (const lead of Object.values(after.lead)) {
      const sentence = await placeTaken(db, rigId, lead)
      if (sentence) return sentence
    }
  }
  if (constraint === 'board_identity_once')
    return 'Another board of this rig stands for that real board already.'
  if (constraint === 'layer_set_name_once') return 'There is a layer set of that name already.'
  if (constraint === 'craft_set_name_once') return 'There is a craft set of that name already.'
  if (constraint === 'lighting_name_once') return 'There is a group of lights of that name already.'
  if (constraint === 'layer_name_once') return 'There is a layer of that name in this set already.'
  if (constraint === 'lead_terminal_once') return 'That terminal has a lead already.'
  if (code === '23503')
    return `Something still hangs on it or it hangs on something that is gone: ${detail ?? constraint}.`
  return `The rig would not be whole: ${detail ?? constraint ?? 'a rule is broken'}.`
}

/** Whose the pin or channel is that a lead would end at. */
const placeTaken = async (db: Database, rigId: string, lead: LeadRow): Promise<string | null> => {
  const { rows } = await db.query<{ number: number; owner: string; place: string }>(
    `SELECT lead.number, coalesce(part.name, own.name) AS owner,
            coalesce(board.name || ' ' || lead.pin, 'Channel ' || lead.channel || ' of ' || expander.name) AS place
       FROM lead
       LEFT JOIN part ON part.rig_id = lead.rig_id AND part.id = lead.part_id
       LEFT JOIN expander own ON own.rig_id = lead.rig_id AND own.id = lead.from_expander_id
       LEFT JOIN board ON board.rig_id = lead.rig_id AND board.id = lead.board_id
       LEFT JOIN expander ON expander.rig_id = lead.rig_id AND expander.id = lead.expander_id
      WHERE lead.rig_id = $1 AND lead.id <> $2
        AND ((lead.board_id = $3 AND lead.pin = $4) OR (lead.expander_id = $5 AND lead.channel = $6))`,
    [rigId, lead.id, lead.boardId, lead.pin, lead.expanderId, lead.channel],
  )
  const taken = rows[0]
  return taken ? `${taken.place} already holds lead ${taken.number} of “${taken.owner}”.` : null
}

export const applyRows = async (c: Connection, rigId: string, diff: Diff): Promise<void> => {
  for (const { text, values } of statements(rigId, diff)) await c.query(text, [...values])
}

const record = async (
  c: Connection,
  rigId: string,
  edit: Edit,
  kind: HistoryEntry['kind'],
  ofRevision: number | null,
): Promise<number> => {
  const { rows } = await c.query<{ revision: number }>(
    `INSERT INTO history (rig_id, edit_id, who, sentence, kind, of_revision, state, diff)
     VALUES ($1, $2, $3, $4, $5, $6, 'done', $7) RETURNING revision`,
    [rigId, edit.editId, edit.who, edit.sentence, kind, ofRevision, JSON.stringify(edit.diff)],
  )
  const revision = rows[0]?.revision as number
  await c.query('SELECT pg_notify($1, $2)', [EDITS, String(revision)])
  return revision
}

/** The revision of an edit that has come before, or null. */
const revisionOf = async (c: Connection, editId: string): Promise<number | null> => {
  const { rows } = await c.query<{ revision: number }>('SELECT revision FROM history WHERE edit_id = $1', [
    editId,
  ])
  return rows[0]?.revision ?? null
}

/** One door: edits of a rig queue up behind each other, so that history is one line. */
const throughTheDoor = async (
  db: Database,
  rigId: string,
  touched: { after: Rig },
  work: (c: Connection) => Promise<number>,
): Promise<EditResult> => {
  try {
    const revision = await inTransaction(db, async (c) => {
      await c.query('SELECT pg_advisory_xact_lock(hashtext($1))', [rigId])
      return await work(c)
    })
    return { ok: true, revision }
  } catch (error) {
    if (error instanceof Refused) return { ok: false, reasons: error.reasons }
    const sentence = await constraintSentence(db, rigId, error, touched.after)
    if (sentence !== null) return { ok: false, reasons: [sentence] }
    throw error
  }
}

/** Applies an edit whole or not at all, and appends it to the history. The same edit sent twice counts once. */
export const applyEdit = (db: Database, rigId: string, edit: Edit): Promise<EditResult> => {
  const touched = { after: emptyRig() }
  return throughTheDoor(db, rigId, touched, async (c) => {
    const before = await revisionOf(c, edit.editId)
    if (before !== null) return before
    const rows = await lockedRows(c, rigId, edit.diff)
    refuse(conflicts(rows, edit.diff))
    // What others have changed in other fields meanwhile stays; history has what really changed.
    const diff = rebased(rows, edit.diff)
    touched.after = apply(rows, diff)
    refuse(invalidRows(touched.after, diff))
    refuse(await impossiblePins(c, rigId, touched.after, diff))
    await applyRows(c, rigId, diff)
    await c.query(
      `UPDATE history SET state = 'passed over' WHERE rig_id = $1 AND kind = 'edit' AND state = 'undone'`,
      [rigId],
    )
    return await record(c, rigId, { ...edit, diff }, 'edit', null)
  })
}

interface Step {
  readonly revision: number
  readonly sentence: string
  readonly diff: Diff
}

const nextStep = async (
  c: Connection | Database,
  rigId: string,
  way: 'undo' | 'redo',
): Promise<Step | null> => {
  const { rows } = await c.query<Step>(
    way === 'undo'
      ? `SELECT revision, sentence, diff FROM history
          WHERE rig_id = $1 AND kind = 'edit' AND state = 'done' ORDER BY revision DESC LIMIT 1`
      : `SELECT revision, sentence, diff FROM history
          WHERE rig_id = $1 AND kind = 'edit' AND state = 'undone' ORDER BY revision LIMIT 1`,
    [rigId],
  )
  return rows[0] ?? null
}

const LATEST = 8

/** What undo and redo would do now, and the newest entries of the history. */
export const summary = async (db: Database, rigId: string): Promise<HistorySummary> => {
  const [undo, redo, latest] = await Promise.all([
    nextStep(db, rigId, 'undo'),
    nextStep(db, rigId, 'redo'),
    db.query<HistorySummary['latest'][number]>(
      'SELECT revision, at, sentence FROM history WHERE rig_id = $1 ORDER BY revision DESC LIMIT $2',
      [rigId, LATEST],
    ),
  ])
  return { undo: undo?.sentence ?? null, redo: redo?.sentence ?? null, latest: latest.rows }
}

/** Takes back the newest edit that stands, or does again the one undone last. The same step sent twice counts once. */
export const stepHistory = (
  db: Database,
  rigId: string,
  way: 'undo' | 'redo',
  who: string,
  editId: string,
): Promise<EditResult> => {
  const touched = { after: emptyRig() }
  return throughTheDoor(db, rigId, touched, async (c) => {
    const before = await revisionOf(c, editId)
    if (before !== null) return before
    const step = await nextStep(c, rigId, way)
    if (!step) throw new Refused([way === 'undo' ? 'There is nothing to undo.' : 'There is nothing to redo.'])
    const wanted = way === 'undo' ? invert(step.diff) : step.diff
    const rows = await lockedRows(c, rigId, wanted)
    refuse(conflicts(rows, wanted))
    const diff = rebased(rows, wanted)
    touched.after = apply(rows, diff)
    await applyRows(c, rigId, diff)
    await c.query('UPDATE history SET state = $1 WHERE revision = $2', [
      way === 'undo' ? 'undone' : 'done',
      step.revision,
    ])
    const sentence = way === 'undo' ? `Undid: ${step.sentence}` : `Did again: ${step.sentence}`
    return await record(c, rigId, { editId, who, sentence, diff }, way, step.revision)
  })
}

/** The edits after a revision, oldest first. */
export const editsSince = async (db: Database, rigId: string, revision: number): Promise<HistoryEntry[]> => {
  const { rows } = await db.query<HistoryEntry>(
    `SELECT revision, edit_id AS "editId", at, who, sentence, kind, of_revision AS "ofRevision", diff
       FROM history WHERE rig_id = $1 AND revision > $2 ORDER BY revision LIMIT 1000`,
    [rigId, revision],
  )
  return rows
}

/** Puts a whole new rig into an empty store. The history begins after it. */
export const createRig = (db: Database, rigId: string, rows: Diff): Promise<void> =>
  inTransaction(db, async (c) => {
    const after = apply(emptyRig(), rows)
    refuse(invalidRows(after, rows))
    await applyRows(c, rigId, rows)
    await c.query(
      `INSERT INTO store_setting (name, value) VALUES ('open rig', $1) ON CONFLICT (name) DO NOTHING`,
      [rigId],
    )
  })
