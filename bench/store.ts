import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { addRow, type Diff, rigAsDiff } from '../src/core/rig/edit'
import { diffSchema } from '../src/core/rig/edit-schema'
import { rowsOf } from '../src/core/rig/rig'
import { openDatabase } from '../src/store/database'
import { applyEdit, createRig } from '../src/store/edit-store'
import { migrate } from '../src/store/migrate'
import { startPostgres } from '../src/supervise/postgres'
import { freePort } from '../tests/app'
import { demoRig } from '../tests/rigs'
import { print, quietMs } from './measure'

const ROWS = 20_000
const MOST_MS = 2000

/** One edit of very many rows, from the door's schema to the end of its transaction, against two seconds of work. */
export const benchStore = async (): Promise<void> => {
  const dataDir = mkdtempSync(join(tmpdir(), 'clavik-bench-store-'))
  mkdirSync(join(dataDir, 'logs'))
  const postgres = await startPostgres(dataDir, await freePort(), true)
  const db = openDatabase(postgres.url)
  await migrate(db, 'db/migrations')
  const rig = demoRig()
  const rigId = Object.keys(rig.rig)[0] ?? ''
  await createRig(db, rigId, rigAsDiff(rig))
  const [like] = rowsOf(rig, 'part')
  if (!like) throw new Error('the demo has no part')
  const put: Diff = Array.from({ length: ROWS }, (_, i) =>
    addRow('part', { ...like, id: `many-${i}`, name: `Many ${i}`, settings: {} }),
  )
  const moved: Diff = put.map((c) => ({
    ...{ op: 'change' as const, table: 'part' as const, id: c.id },
    ...{ before: { xMm: like.xMm }, after: { xMm: like.xMm + 1 } },
  }))
  for (const [name, diff] of Object.entries({ added: put, changed: moved })) {
    const began = performance.now()
    const read = diffSchema.parse(JSON.parse(JSON.stringify(diff))) as Diff
    const result = await applyEdit(db, rigId, { editId: name, who: 'bench', sentence: name, diff: read })
    if (!result.ok) throw new Error(result.reasons[0])
    const value = performance.now() - began
    const work = performance.now()
    quietMs(200)
    const reference = ((performance.now() - work) / 200) * MOST_MS
    print({
      name: `an edit of ${ROWS} rows ${name}, against two seconds of work`,
      value,
      unit: 'ms',
      ratio: value / reference,
      limit: 1,
    })
  }
  await db.end()
  await postgres.kept.stop()
  rmSync(dataDir, { recursive: true, force: true })
}
