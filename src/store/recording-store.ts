import { deflateRawSync, inflateRawSync } from 'node:zlib'
import { type Block, decodeBlock, encodeBlock } from '../core/recording/block'
import type { BundledRecording } from '../core/recording/bundled'
import type { ExampleShown } from '../core/recording/example'
import type { TakenFile } from '../core/recording/files/taken-file'
import type { ListedRecording } from '../core/recording/listed'
import type { RecordedMark, RecordingHead } from '../core/recording/moment'
import type { Source } from '../core/rig/sources'
import type { Micros } from '../core/units-of-measure'
import { type Connection, type Database, inTransaction } from './database'
import { openRigId } from './rig-store'

/** Announces that recordings were added, changed or deleted. */
export const RECORDINGS = 'clavik_recordings'

/** JSON as bytes, compressed. */
const packed = (json: unknown): Buffer => deflateRawSync(JSON.stringify(json))
const unpacked = <T>(bytes: Buffer): T => JSON.parse(inflateRawSync(bytes).toString('utf8')) as T

export interface NewRecording {
  readonly id: string
  readonly rigId: string
  readonly name: string
  readonly sources: readonly Source[]
}

/** A block as it is kept: encoded and compressed. */
export interface KeptBlock {
  readonly n: number
  readonly from: Micros
  readonly until: Micros
  readonly bytes: Uint8Array
  readonly marks: readonly RecordedMark[]
}

const changed = (db: Database, id: string) => db.query('SELECT pg_notify($1, $2)', [RECORDINGS, id])

export const beginRecording = async (db: Database, r: NewRecording): Promise<void> => {
  await putRecording(db, r)
  await changed(db, r.id)
}

const putRecording = async (c: Database | Connection, r: NewRecording): Promise<void> => {
  const { sources } = r
  const variables = sources.reduce((sum, s) => sum + (s.catalogue?.variables.length ?? 0), 0)
  const crafts = sources.flatMap((s) => s.catalogue?.craft || [])
  await c.query(
    'INSERT INTO recording (id, rig_id, name, craft, variables, head) VALUES ($1, $2, $3, $4, $5, $6)',
    [r.id, r.rigId, r.name, crafts.join(', '), variables, packed(sources)],
  )
}

/** Keeps a block; one that is there already is left. */
export const addBlock = (db: Database, id: string, b: KeptBlock): Promise<void> =>
  inTransaction(db, (c) => putBlock(c, id, b))

const putBlock = async (c: Connection, id: string, b: KeptBlock): Promise<void> => {
  const { rowCount } = await c.query(
    `INSERT INTO recording_block (recording_id, n, from_us, until_us, bytes) VALUES ($1, $2, $3, $4, $5)
       ON CONFLICT DO NOTHING`,
    [id, b.n, Math.round(b.from), Math.round(b.until), b.bytes],
  )
  if (rowCount === 0) return
  await c.query(
    `UPDATE recording SET length_us = $2, bytes = bytes + $3, marks = marks || $4::jsonb WHERE id = $1`,
    [id, Math.round(b.until), b.bytes.length, JSON.stringify(b.marks)],
  )
}

/** Keeps a recording that came from a file: all of it, or nothing. */
export const importRecording = (
  db: Database,
  r: NewRecording,
  { head, blocks, marks }: TakenFile,
): Promise<void> => {
  function* kept(): Iterable<KeptBlock> {
    let n = 0
    for (const block of blocks) {
      const bytes = deflateRawSync(encodeBlock(block))
      yield { n, from: block.from, until: block.until, bytes, marks: n++ === 0 ? marks : [] }
    }
  }
  return addWhole(db, r, head.armed, kept())
}

/** A recording that comes with Clavik. */
export const addBundled = (db: Database, id: string, rigId: string, b: BundledRecording): Promise<void> => {
  const blocks = b.blocks.map((block, i) => ({
    ...block,
    bytes: Buffer.from(block.bytes, 'base64'),
    marks: i === 0 ? b.marks : [],
  }))
  return addWhole(db, { id, rigId, name: b.name, sources: b.sources }, b.armed, blocks)
}

const addWhole = (
  db: Database,
  r: NewRecording,
  armed: boolean,
  blocks: Iterable<KeptBlock>,
): Promise<void> =>
  inTransaction(db, async (c) => {
    await putRecording(c, r)
    for (const block of blocks) await putBlock(c, r.id, block)
    await c.query(`UPDATE recording SET state = 'whole', armed = $2 WHERE id = $1`, [r.id, armed])
    await c.query('SELECT pg_notify($1, $2)', [RECORDINGS, r.id])
  })

/** It is over; `why` where nobody ended it. `armed` where it was armed at any time. */
export const endRecording = async (
  db: Database,
  id: string,
  { why, armed }: { readonly why: string | null; readonly armed: boolean },
): Promise<void> => {
  await db.query(`UPDATE recording SET state = $2, why = $3, armed = $4 WHERE id = $1`, [
    id,
    why === null ? 'whole' : 'cut short',
    why,
    armed,
  ])
  await changed(db, id)
}

/** Recordings that nobody goes on with: whoever made them ended without a word. */
export const closeForgotten = async (db: Database): Promise<void> => {
  await db.query(
    `UPDATE recording SET state = 'cut short', why = 'Clavik ended while it was made' WHERE state = 'going on'`,
  )
}

type Row = Omit<ListedRecording, 'begunAt' | 'otherRig'> & { begunAt: Date; rigName: string }

/** All recordings, the newest first. */
export const listRecordings = async (db: Database): Promise<ListedRecording[]> => {
  const open = await openRigId(db)
  const { rows } = await db.query<Row>(
    `SELECT r.id, r.rig_id AS "rigId", rig.name AS "rigName", r.name, r.begun_at AS "begunAt", r.state, r.why, r.craft,
            r.variables, r.from_us AS "from", coalesce(r.until_us, r.length_us) AS "until", r.bytes, r.marks,
            r.expected_revision AS "exampleOf"
     FROM recording r JOIN rig ON rig.id = r.rig_id ORDER BY r.begun_at DESC, r.id`,
  )
  return rows.map(({ rigName, ...r }) => ({
    ...r,
    begunAt: r.begunAt.toISOString(),
    otherRig: r.rigId === open ? null : rigName,
  }))
}

/** A recording as it is opened. */
export interface OpenedRecording {
  readonly id: string
  readonly rigId: string
  readonly name: string
  readonly head: RecordingHead
  readonly from: Micros
  readonly until: Micros
  readonly marks: readonly RecordedMark[]
  readonly blocks: readonly { readonly n: number; readonly from: Micros; readonly until: Micros }[]
  readonly expected: ExampleShown | null
}

export const openRecording = async (db: Database, id: string): Promise<OpenedRecording | null> => {
  const { rows } = await db.query<{
    id: string
    rigId: string
    name: string
    head: Buffer
    armed: boolean
    from: Micros
    until: Micros
    marks: RecordedMark[]
    expected: Buffer | null
  }>(
    `SELECT id, rig_id AS "rigId", name, head, armed, from_us AS "from", coalesce(until_us, length_us) AS "until", marks, expected
     FROM recording WHERE id = $1`,
    [id],
  )
  const [row] = rows
  if (!row) return null
  const { armed, ...rest } = row
  const { rows: blocks } = await db.query<OpenedRecording['blocks'][number]>(
    `SELECT n, from_us AS "from", until_us AS "until" FROM recording_block WHERE recording_id = $1 ORDER BY n`,
    [id],
  )
  return {
    ...rest,
    head: { sources: unpacked(row.head), armed },
    blocks,
    expected: row.expected && unpacked<ExampleShown>(row.expected),
  }
}

/** One block, or null where there is none of that number any more. */
export const readBlock = async (db: Database, id: string, n: number): Promise<Block | null> => {
  const { rows } = await db.query<{ bytes: Buffer }>(
    'SELECT bytes FROM recording_block WHERE recording_id = $1 AND n = $2',
    [id, n],
  )
  const [row] = rows
  return row ? decodeBlock(inflateRawSync(row.bytes)) : null
}

/** Its blocks that have something of what counts, one after the other. */
export async function* blocksOf(db: Database, r: OpenedRecording): AsyncIterable<Block> {
  for (const { n, from, until } of r.blocks) {
    if (until < r.from || from > r.until) continue
    const block = await readBlock(db, r.id, n)
    if (block) yield block
  }
}

export const renameRecording = async (db: Database, id: string, name: string): Promise<boolean> => {
  const { rowCount } = await db.query('UPDATE recording SET name = $2 WHERE id = $1', [id, name])
  await changed(db, id)
  return rowCount === 1
}

/** Deletes it with all its blocks. */
export const deleteRecording = async (db: Database, id: string): Promise<boolean> => {
  const { rowCount } = await db.query('DELETE FROM recording WHERE id = $1', [id])
  await changed(db, id)
  return rowCount === 1
}

/** From here on only what lies between counts; blocks that lie outside are deleted. An example is one no longer. */
export const trimRecording = (db: Database, id: string, from: Micros, until: Micros): Promise<boolean> =>
  inTransaction(db, async (c) => {
    const { rowCount } = await c.query(
      `UPDATE recording SET from_us = $2, until_us = $3, expected = NULL, expected_revision = NULL
       WHERE id = $1 AND state <> 'going on' AND $2 >= from_us AND $3 <= coalesce(until_us, length_us) AND $2 < $3`,
      [id, Math.round(from), Math.round(until)],
    )
    if (rowCount !== 1) return false
    await c.query(
      'DELETE FROM recording_block WHERE recording_id = $1 AND (until_us <= $2 OR from_us >= $3)',
      [id, Math.round(from), Math.round(until)],
    )
    await c.query(
      `UPDATE recording SET
         bytes = (SELECT coalesce(sum(length(bytes)), 0) FROM recording_block WHERE recording_id = $1),
         marks = (SELECT coalesce(jsonb_agg(m ORDER BY (m->>'at')::float8), '[]') FROM jsonb_array_elements(marks) m
                  WHERE (m->>'at')::float8 BETWEEN $2 AND $3)
       WHERE id = $1`,
      [id, Math.round(from), Math.round(until)],
    )
    await c.query('SELECT pg_notify($1, $2)', [RECORDINGS, id])
    return true
  })

/** What the panel showed with it, at a revision of the rig; null takes it back. */
export const keepExpected = async (
  db: Database,
  id: string,
  expected: { readonly shown: ExampleShown; readonly revision: number } | null,
): Promise<void> => {
  await db.query('UPDATE recording SET expected = $2, expected_revision = $3 WHERE id = $1', [
    id,
    expected && packed(expected.shown),
    expected?.revision ?? null,
  ])
  await changed(db, id)
}
