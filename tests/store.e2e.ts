import { cpSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { BoardModel } from '../src/core/catalogue/board-model'
import { boardModel } from '../src/core/catalogue/boards'
import { addRow, apply, changeRow, type Diff, removeRow, rigAsDiff } from '../src/core/rig/edit'
import { type Database, openDatabase } from '../src/store/database'
import { applyEdit, createRig, EDITS, editsSince, stepHistory, summary } from '../src/store/edit-store'
import { migrate } from '../src/store/migrate'
import { loadRig } from '../src/store/rig-store'
import { type Postgres, startPostgres } from '../src/supervise/postgres'
import { freePort } from './app'
import { demoRig } from './rigs'

const migrations = fileURLToPath(new URL('../db/migrations', import.meta.url))
const rigId = 'skerry-12'
let dataDir: string
let postgres: Postgres
/** The server’s own database, from which those are made that are tried. */
let server: Database
let db: Database
const urlOf = (name: string) => postgres.url.replace(/postgres$/, name)

beforeAll(async () => {
  dataDir = mkdtempSync(join(tmpdir(), 'clavik-store-'))
  mkdirSync(join(dataDir, 'logs'))
  postgres = await startPostgres(dataDir, await freePort(), true)
  server = openDatabase(postgres.url)
  await server.query('CREATE DATABASE begun')
  const begun = openDatabase(urlOf('begun'))
  await migrate(begun, migrations)
  await createRig(begun, rigId, rigAsDiff(demoRig()))
  await begun.end()
})

afterAll(async () => {
  await db?.end()
  await server?.end()
  await postgres?.kept.stop()
  rmSync(dataDir, { recursive: true, force: true })
})

/** Each begins with a database of its own, in which the demo has just been made. */
beforeEach(async () => {
  await db?.end()
  await server.query('DROP DATABASE IF EXISTS tried WITH (FORCE)')
  await server.query('CREATE DATABASE tried TEMPLATE begun')
  db = openDatabase(urlOf('tried'))
})

let edits = 0
const edit = (sentence: string, diff: Diff, editId = `edit-${++edits}`) =>
  applyEdit(db, rigId, { editId, who: 'test', sentence, diff })
const undo = () => stepHistory(db, rigId, 'undo', 'test', `undo-${++edits}`)
const redo = () => stepHistory(db, rigId, 'redo', 'test', `redo-${++edits}`)
const stored = async () => {
  const loaded = await loadRig(db)
  if (!loaded) throw new Error('no rig')
  return loaded
}
const rename = (name: string): Diff => {
  const row = demoRig().part['horn-off']
  if (!row) throw new Error('the demo has changed')
  const change = changeRow('part', row, { ...row, name })
  return change ? [change] : []
}
const lead = (id: string) => {
  const row = demoRig().lead[id]
  if (!row) throw new Error(`no ${id}`)
  return row
}
const leadTo = (id: string, to: Partial<ReturnType<typeof lead>>): Diff[number] =>
  changeRow('lead', lead(id), { ...lead(id), ...to }) as Diff[number]

describe('the store', () => {
  it('gives back the rig that was put in', async () => {
    const { rig, setAside } = await stored()
    expect(rig).toEqual(demoRig())
    expect(setAside).toEqual([])
  })

  it('migrates once, and refuses a database of a newer Clavik', async () => {
    expect(await migrate(db, migrations)).toEqual([])
    await db.query("INSERT INTO migration (name) VALUES ('999_future.sql')")
    await expect(migrate(db, migrations)).rejects.toThrow('used by a newer Clavik (999_future.sql)')
  })

  it('applies an edit whole and announces it', async () => {
    const listener = await db.connect()
    const heard: string[] = []
    listener.on('notification', (n) => heard.push(n.payload ?? ''))
    await listener.query(`LISTEN ${EDITS}`)
    const result = await edit('Renamed', rename('Hush'))
    expect(result.ok).toBe(true)
    expect((await stored()).rig.part['horn-off']?.name).toBe('Hush')
    await listener.query('SELECT 1')
    expect(heard).toEqual([String(result.ok && result.revision)])
    listener.release(true)
  })

  it('counts an edit sent twice once', async () => {
    const first = await edit('Renamed', rename('Hush'), 'same')
    const second = await edit('Renamed', rename('Hush'), 'same')
    expect(second).toEqual(first)
    expect(await editsSince(db, rigId, 0)).toHaveLength(1)
  })

  it('undoes and redoes one after the other, exactly', async () => {
    const row = demoRig().binding['wheel-lever-1']
    if (!row) throw new Error('the demo has changed')
    await edit('Renamed', rename('Hush'))
    await edit('Removed a binding', [removeRow('binding', row)])
    const after = (await stored()).rig
    expect((await undo()).ok).toBe(true)
    expect((await undo()).ok).toBe(true)
    expect((await stored()).rig).toEqual(demoRig())
    expect(await undo()).toEqual({ ok: false, reasons: ['There is nothing to undo.'] })
    expect((await redo()).ok).toBe(true)
    expect((await redo()).ok).toBe(true)
    expect((await stored()).rig).toEqual(after)
    expect(await redo()).toEqual({ ok: false, reasons: ['There is nothing to redo.'] })
  })

  it('passes over what was undone once something new is done', async () => {
    await edit('First', rename('One'))
    await undo()
    await edit('Second', rename('Two'))
    expect(await summary(db, rigId)).toMatchObject({ undo: 'Second', redo: null })
    await undo()
    expect(await summary(db, rigId)).toMatchObject({ undo: null, redo: 'Second' })
  })

  it('tells the later of two tabs what changed under it, and changes nothing', async () => {
    await edit('Mine', rename('Mine'))
    const late = await edit('Yours', rename('Yours'))
    expect(late).toEqual({ ok: false, reasons: ['The part “Mine” was changed meanwhile (name).'] })
    expect((await stored()).rig.part['horn-off']?.name).toBe('Mine')
    expect(await editsSince(db, rigId, 0)).toHaveLength(1)
  })

  it('orders edits that come at the same moment', async () => {
    const results = await Promise.all(['a', 'b', 'c', 'd'].map((name) => edit(name, rename(name))))
    expect(results.filter((r) => r.ok)).toHaveLength(1)
  })

  describe('keeps a rig whole', () => {
    it.each([
      [
        'a lead on a taken pin',
        () => [leadTo('lead-2', { pin: 'D24' })],
        'Port board D24 already holds lead 3 of “Wheel lever”.',
      ],
      [
        'a pin the board does not have',
        () => [leadTo('lead-2', { pin: 'D99' })],
        'Lead 2: Port board (ATmega2560 board) has no pin D99.',
      ],
      ['a lead with two ends', () => [leadTo('lead-2', { ground: true })], 'ends at exactly one of'],
      [
        'a lead to a board that is not there',
        () => [leadTo('lead-2', { boardId: 'nowhere' })],
        'hangs on something that is gone',
      ],
      [
        'a part removed under its leads',
        () => [removeRow('part', demoRig().part['horn-off'] as never)],
        'Something still hangs on it',
      ],
      [
        'a second lead at one terminal',
        () => [addRow('lead', { ...lead('lead-2'), id: 'x', number: 900, pin: 'D50' })],
        'That terminal has a lead already.',
      ],
      [
        'a panel without a name',
        () =>
          [
            {
              op: 'change',
              table: 'panel',
              id: 'wheels-floats',
              before: { name: 'Wheels & floats' },
              after: { name: '' },
            },
          ] as Diff,
        'a name is needed',
      ],
      [
        'a binding of a kind nobody knows',
        () => [
          addRow('binding', {
            id: 'b',
            partId: 'horn-off',
            position: 1,
            on: true,
            settings: { kind: 'hologram' } as never,
          }),
        ],
        'The binding “b” is not valid',
      ],
    ])('refuses %s', async (_, diff, words) => {
      const result = await edit('No', diff() as Diff)
      expect(result.ok).toBe(false)
      expect(!result.ok && result.reasons.join(' ')).toContain(words)
      expect((await stored()).rig).toEqual(demoRig())
    })

    it('refuses a lead on a pin that an expander’s own wire has, and names that', async () => {
      const line = Object.values(demoRig().lead).find(
        (l) => l.fromExpanderId === 'motors-1' && l.pin !== null,
      )
      const result = await edit('No', [
        leadTo('lead-2', { boardId: line?.boardId ?? '', pin: line?.pin ?? '' }),
      ])
      expect(!result.ok && result.reasons[0]).toMatch(/already holds lead \d+ of “Motors 1”\.$/)
    })

    it('refuses a lead on a taken channel, and says whose it is', async () => {
      const on = Object.values(demoRig().lead).find(
        (l) => l.expanderId === 'overhead-lamps' && l.channel === 3,
      )
      const other = Object.values(demoRig().lead).find(
        (l) => l.expanderId === 'overhead-lamps' && l.channel === 4,
      )
      const part = demoRig().part[on?.partId ?? '']
      const result = await edit('No', [leadTo(other?.id ?? '', { channel: 3 })])
      expect(result).toEqual({
        ok: false,
        reasons: [
          `Channel 3 of ${demoRig().expander['overhead-lamps']?.name} already holds lead ${on?.number} of “${part?.name}”.`,
        ],
      })
    })

    it('but lets leads of one shared line have a channel in common', async () => {
      const part = (id: string) =>
        addRow('part', {
          ...{
            id,
            panelId: 'wheels-floats',
            name: id,
            kind: 'digits-4-max7219',
            xMm: 0,
            yMm: 0,
            rotationDeg: 0,
          },
          settings: {},
        })
      const shifter = addRow('expander', {
        ...{ id: 'shifter', boardId: 'port-board', name: 'Shifter', kind: '74hct245', chips: 1 },
        ...{ jumpers: 0, position: 9 },
      })
      const along = (id: string, number: number, shared: boolean) =>
        addRow('lead', {
          ...lead('lead-2'),
          ...{ id: `${id}-clock`, partId: id, terminal: 'clock', number, shared },
          ...{ boardId: null, pin: null, expanderId: 'shifter', channel: 0 },
        })
      const parts = [part('one'), part('two'), shifter]
      const unshared = await edit('No', [...parts, along('one', 900, false), along('two', 901, false)])
      expect(unshared).toMatchObject({ ok: false })
      const shared = await edit('Yes', [...parts, along('one', 900, true), along('two', 901, true)])
      expect(shared).toMatchObject({ ok: true })
    })

    it('but lets two leads exchange their pins in one edit', async () => {
      expect(
        await edit('Exchanged', [leadTo('lead-2', { pin: 'D24' }), leadTo('lead-3', { pin: 'D22' })]),
      ).toMatchObject({ ok: true })
      expect((await stored()).rig.lead['lead-2']?.pin).toBe('D24')
    })
  })

  it('keeps a board of a model of one’s own, and takes its wires to pins that only that has, in one edit', async () => {
    const like = boardModel('atmega2560') as BoardModel
    const [first, ...others] = like.headers
    const own: BoardModel = {
      ...{ ...like, id: 'workshop', name: 'Workshop board' },
      headers: [{ ...(first as BoardModel['headers'][number]), contacts: ['X1', 'GND'] }, ...others],
      pins: [
        { name: 'X1', number: 200, abilities: ['digital', 'pull-up'] },
        ...like.pins.filter((p) => !first?.contacts.includes(p.name)),
      ],
      groups: [],
    }
    expect(await edit('No', [leadTo('lead-2', { pin: 'X1' })])).toMatchObject({ ok: false })
    const board = demoRig().board['port-board']
    const becomes = board && changeRow('board', board, { ...board, model: own.id, own })
    if (!becomes) throw new Error('the demo has changed')
    expect(await edit('Yes', [becomes, leadTo('lead-2', { pin: 'X1' })])).toMatchObject({ ok: true })
    const { rig, setAside } = await stored()
    expect(setAside).toEqual([])
    expect(rig.board['port-board']?.own).toEqual(own)
    expect(rig.lead['lead-2']?.pin).toBe('X1')
    expect(await undo()).toMatchObject({ ok: true })
    expect((await stored()).rig).toEqual(demoRig())
    // What it cannot read, it leaves out and keeps.
    await db.query(
      `UPDATE board SET model = 'later', own = '{"id": "later", "antenna": true}' WHERE id = 'port-board'`,
    )
    const [message] = (await stored()).setAside.map((s) => s.message)
    expect(message).toMatch(/^The board “Port board” is left out: own/)
    const { rows } = await db.query(`SELECT own FROM board WHERE id = 'port-board'`)
    expect(rows[0]).toEqual({ own: { id: 'later', antenna: true } })
  })

  it('leaves out a row from a newer Clavik, says which, and keeps it as it is', async () => {
    await db.query(`UPDATE binding SET settings = '{"kind": "hologram", "depth": 3}' WHERE id = 'bow-left-1'`)
    await db.query(`UPDATE part SET settings = '{"smell": "pine"}' WHERE id = 'horn-off'`)
    const { rig, setAside } = await stored()
    expect(rig.binding['bow-left-1']).toBeUndefined()
    expect(rig.binding['bow-right-1']).toBeDefined()
    expect(setAside.map((s) => s.message)).toEqual([
      'The part “Horn off” is left out: settings: it seems to come from a newer Clavik. It is kept as it is.',
      'The binding “bow-left-1” is left out: settings.kind: it seems to come from a newer Clavik. It is kept as it is.',
    ])
    const { rows } = await db.query('SELECT settings FROM binding WHERE id = $1', ['bow-left-1'])
    expect(rows[0]).toEqual({ settings: { kind: 'hologram', depth: 3 } })
  })

  it('squashes to the same rig as the edits did one by one', async () => {
    await edit('One', rename('One'))
    await edit('Two', [leadTo('lead-2', { pin: 'D40' })])
    const all = (await editsSince(db, rigId, 0)).map((e) => e.diff)
    expect(all.reduce(apply, demoRig())).toEqual((await stored()).rig)
  })
})

describe('layer sets in the store', () => {
  const set = (id: string, name: string) =>
    addRow('layerSet', { id, name, position: 9, settings: { chosenBy: null, timeoutMs: 4000 } })
  const layer = (id: string, layerSet: string, name: string) =>
    addRow('layer', { id, layerSet, name, position: 1 })

  it('are kept with their layers, and undone with them', async () => {
    expect(await edit('Added', [layer('l', 's', 'A'), set('s', 'Set')])).toMatchObject({ ok: true })
    expect((await stored()).rig.layerSet.s?.settings.timeoutMs).toBe(4000)
    expect(await undo()).toMatchObject({ ok: true })
    expect((await stored()).rig).toEqual(demoRig())
  })
  it('have names of their own, and so have their layers', async () => {
    expect(await edit('Twice', [set('s', 'Radio line')])).toMatchObject({
      ok: false,
      reasons: ['There is a layer set of that name already.'],
    })
    expect(await edit('Twice', [layer('l', 'radio-line', 'CODE')])).toMatchObject({
      ok: false,
      reasons: ['There is a layer of that name in this set already.'],
    })
  })
  it('cannot go while layers belong to them', async () => {
    const row = demoRig().layerSet['radio-line']
    const gone = await edit('Removed', row ? [removeRow('layerSet', row)] : [])
    expect(gone).toMatchObject({
      ok: false,
      reasons: [expect.stringContaining('Something still hangs on it')],
    })
  })
  it('are made for the layers of a database from before there were sets', async () => {
    await db.query('DROP SCHEMA public CASCADE; CREATE SCHEMA public')
    const first = mkdtempSync(join(tmpdir(), 'clavik-migrations-'))
    cpSync(join(migrations, '001_rig.sql'), join(first, '001_rig.sql'))
    await migrate(db, first)
    rmSync(first, { recursive: true })
    await db.query("INSERT INTO rig (id, name, format) VALUES ('old', 'Old rig', 1)")
    await db.query(
      "INSERT INTO layer (rig_id, id, layer_set, name, position) VALUES ('old', 'l', 'Line', 'A', 1)",
    )
    await migrate(db, migrations)
    const { rig, setAside } = await stored()
    expect(setAside).toEqual([])
    expect(rig.layerSet.Line).toEqual({
      id: 'Line',
      name: 'Line',
      position: 1,
      settings: { chosenBy: null, timeoutMs: null },
    })
    expect(rig.layer.l?.layerSet).toBe('Line')
  })
})

describe('what no store can keep', () => {
  const part = () => {
    const row = demoRig().part['horn-off']
    if (!row) throw new Error('the demo has changed')
    return row
  }
  const changed = (after: Record<string, unknown>): Diff => {
    const row = part() as Record<string, unknown>
    const before = Object.fromEntries(Object.keys(after).map((k) => [k, row[k]]))
    return [{ op: 'change', table: 'part', id: 'horn-off', before, after }]
  }

  it.each<[string, Diff]>([
    ['a NUL in a name', changed({ name: 'Horn\0off' })],
    ['half of a surrogate pair', changed({ name: 'Horn \ud83d' })],
    ['a NUL deep in the settings', changed({ settings: { labels: { up: 'a\0' } } })],
    [
      'a whole number beyond 32 bits',
      [{ op: 'change', table: 'lead', id: 'lead-1', before: { number: 1 }, after: { number: 2 ** 31 } }],
    ],
  ])('is refused with a sentence, and nothing is changed: %s', async (_, diff) => {
    const result = await edit('Broke it', diff)
    expect(result).toMatchObject({ ok: false, reasons: [expect.stringMatching(/\w/)] })
    expect((await stored()).rig).toEqual(demoRig())
  })

  it('is nothing that the database keeps to itself: an error of its own is a refusal, too', async () => {
    await db.query(`ALTER TABLE part ADD CONSTRAINT odd CHECK (name <> 'Odd')`)
    const odd = await edit('Named it oddly', rename('Odd'))
    expect(odd).toMatchObject({ ok: false, reasons: [expect.stringContaining('would not be whole')] })
    await db.query('ALTER TABLE panel ALTER COLUMN name TYPE varchar(24)')
    const row = Object.values(demoRig().panel)[0]
    if (!row) throw new Error('the demo has no panel')
    const change = changeRow('panel', row, { ...row, name: 'A panel with a name of more than that' })
    const refused = await edit('Named it at length', change ? [change] : [])
    expect(refused).toMatchObject({ ok: false, reasons: [expect.stringContaining('does not take it')] })
  })

  it('is not the same step of history sent twice: it counts once', async () => {
    await edit('First', rename('One'))
    await edit('Second', [
      { op: 'change', table: 'part', id: 'horn-off', before: { name: 'One' }, after: { name: 'Two' } },
    ])
    const first = await stepHistory(db, rigId, 'undo', 'test', 'the same')
    const again = await stepHistory(db, rigId, 'undo', 'test', 'the same')
    expect(again).toEqual(first)
    expect((await stored()).rig.part['horn-off']?.name).toBe('One')
  })

  it('opens the rig that is chosen, whatever others are called', async () => {
    await createRig(db, 'a-rig', [addRow('rig', { id: 'a-rig', name: 'First by name', format: 1 })])
    expect((await stored()).id).toBe(rigId)
    await db.query(`UPDATE store_setting SET value = 'a-rig' WHERE name = 'open rig'`)
    expect((await stored()).id).toBe('a-rig')
  })

  it('takes twenty thousand rows in one edit, changes them and takes them back', async () => {
    const panelId = Object.keys(demoRig().panel)[0] ?? ''
    const like = part()
    const many: Diff = Array.from({ length: 20_000 }, (_, i) =>
      addRow('part', { ...like, id: `many-${i}`, name: `Many ${i}`, panelId, settings: {} }),
    )
    const began = performance.now()
    expect(await edit('Put very many', many)).toMatchObject({ ok: true })
    const added = performance.now()
    const moved: Diff = many.map((c) => ({
      op: 'change',
      table: 'part',
      id: c.id,
      before: { xMm: like.xMm },
      after: { xMm: 1.25 },
    }))
    expect(await edit('Moved them all', moved)).toMatchObject({ ok: true })
    const done = performance.now()
    process.stdout.write(`20,000 rows: added ${added - began} ms, changed ${done - added} ms\n`)
    expect(await undo()).toMatchObject({ ok: true })
    expect(await undo()).toMatchObject({ ok: true })
    expect(Object.keys((await stored()).rig.part).length).toBe(Object.keys(demoRig().part).length)
  })
})
