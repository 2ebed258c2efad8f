import { type ChildProcess, spawn } from 'node:child_process'
import { createInterface } from 'node:readline'
import { build } from 'esbuild'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { addRow } from '../src/core/rig/edit'
import { rowsOf } from '../src/core/rig/rig'
import { readRigFile } from '../src/core/rig/rig-file'
import type { BindingRow, LeadRow, PartRow } from '../src/core/rig/rows'
import { App, CraftSide, pause, until } from './app'
import { Bench } from './browser'
import { Ports } from './cable'
import { followToLight, LIGHT, LIT_BY } from './first-light'
import { demoRig } from './rigs'

/** Writing and reading back takes some seconds of the chip's own time, which goes slowly on a busy machine. */
const WRITTEN_MS = 90_000
const LONGEST_MS = 300_000
const ports = new Ports()
let app: App
let bench: Bench
let craft: CraftSide
let chip: ChildProcess
const high = new Map<number, boolean>()

beforeAll(async () => {
  const outfile = 'build/chip-on-port.mjs'
  await build({
    entryPoints: ['tests/chip-on-port.ts'],
    ...{ bundle: true, platform: 'node', format: 'esm', packages: 'external', outfile },
  })
  app = await App.make()
  await app.start('--ports', ports.folder)
  bench = await Bench.open(`${app.address}/bench`)
  await bench.sees('Connected')
  const far = await ports.plug('chip')
  chip = spawn(process.execPath, [outfile, far, 'atmega328p', 'blank'], {
    stdio: ['pipe', 'pipe', 'inherit'],
  })
  let running = false
  createInterface({ input: chip.stdout as NodeJS.ReadableStream }).on('line', (line) => {
    if (line === 'running') running = true
    else {
      const told = JSON.parse(line) as { pin: number; high: boolean }
      high.set(told.pin, told.high)
    }
  })
  await until('the chip runs', () => running)
})

afterAll(async () => {
  await bench?.close()
  craft?.close()
  chip?.kill('SIGKILL')
  await app?.remove()
  ports.remove()
})

/** The next bytes that are written to the chip so are written wrongly. */
const spoil = (bytes: number) => chip.stdin?.write(`${JSON.stringify({ spoils: bytes })}\n`)

const tell = (pin: number, closed?: boolean) => chip.stdin?.write(`${JSON.stringify({ pin, closed })}\n`)

/** The rig that is open as it is kept: its id, and all its rows. */
const openRig = async () => {
  const { id, text } = await app.openRig()
  const read = readRigFile(text)
  return { id, rows: 'diff' in read ? read.diff.flatMap((c) => (c.op === 'add' ? [c] : [])) : [] }
}

/** The board's number of the pin that a part's terminal hangs on. */
const pinOf = async (kind: string, terminal: string): Promise<number> => {
  const { rows } = await openRig()
  const part = rows.find((c) => c.table === 'part' && String(c.row.kind).startsWith(kind))
  const lead = rows.find(
    (c) => c.table === 'lead' && c.row.partId === part?.id && c.row.terminal === terminal,
  )
  const name = String(lead?.row.pin)
  return Number(name.slice(1)) + (name.startsWith('A') ? 14 : 0)
}

it(
  'a bare chip gets its program and its name, is wired and loaded; its pin moves the craft, and its lamp follows',
  async () => {
    const asked = (body: object) =>
      fetch(`${app.address}/api/rigs`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', origin: app.address },
        body: JSON.stringify(body),
      }).then((r) => r.json() as Promise<{ id: string }>)
    const { id } = await asked({ do: 'begin', name: 'Bench of one chip', simulated: true })
    await asked({ do: 'open', id })
    await bench.sees('Bench of one chip', 'header')
    craft = await new CraftSide(await app.craftPort()).open()
    const port = '[data-port$="/chip"]'
    // It has nothing on it: what is said to it is not answered.
    await bench.sees('nothing answers', '[aria-label="Plugged in"]')
    spoil(3)
    await bench.clickWords('Load its program', '[aria-label="Plugged in"] button')
    // What was written wrongly is found when it is read back, and can be written again.
    await bench.sees('What was read back is not what was written', port, WRITTEN_MS)
    await bench.clickWords('Try again', `${port} button`)
    await bench.sees('ATmega328P', port)
    await bench.sees('Call it', port, WRITTEN_MS)
    await bench.page.click(`${port} [aria-label="Name of the board"]`, { count: 3 })
    await bench.page.keyboard.type('Lid board')
    await bench.page.keyboard.press('Enter')
    await bench.sees('Lid board by cable', '[role="dialog"]')
    await bench.page.keyboard.press('Escape')
    await followToLight(bench)
    const button = await pinOf('button', 'closed')
    const lamp = await pinOf('lamp', 'plus')
    expect(button).toBeGreaterThan(1)
    expect(lamp).toBeGreaterThan(1)
    const shows = async (on: boolean) => {
      tell(lamp)
      await new Promise((resolve) => setTimeout(resolve, 30))
      return high.get(lamp) === on
    }
    await until('the lamp’s pin is as the craft has it', () => shows(craft.value(LIT_BY) === 1))
    for (let press = 0; press < 2; press++) {
      const before = craft.value(LIT_BY)
      tell(button, true)
      await until('the craft has heard', () => craft.value(LIT_BY) !== before)
      tell(button, false)
      await until('the lamp’s pin follows', () => shows(before === 0))
    }
    await bench.sees('10 OF 10', LIGHT)
  },
  LONGEST_MS,
)

it(
  'a power lever with reverse on the chip, trembling and with uneven ends, is measured from wrong to right',
  async () => {
    const demo = demoRig()
    const { id, rows } = await openRig()
    const first = (table: 'panel' | 'board') => rows.find((c) => c.table === table)?.id ?? ''
    const asDrawn = demo.part['power-left'] as PartRow
    const travel = asDrawn.settings.aspects?.travel
    if (travel?.kind !== 'travel') throw new Error('the demo’s power lever has a travel')
    // Far more smoothing than it needs: whatever noise is measured, there is something to load afterwards.
    const aspects = { ...asDrawn.settings.aspects, travel: { ...travel, smoothing: 5 } }
    const part: PartRow = { ...asDrawn, settings: { ...asDrawn.settings, aspects } }
    const lead = {
      ...rowsOf(demo, 'lead').find((l) => l.partId === part.id && l.terminal === 'wiper'),
    } as LeadRow
    const diff = [
      addRow('part', { ...part, panelId: first('panel'), xMm: 40, yMm: 50 }),
      addRow('lead', { ...lead, number: 900, boardId: first('board'), pin: 'A0' }),
      addRow('binding', demo.binding['power-left-1'] as BindingRow),
    ]
    const answer = await fetch(`${app.address}/api/edits`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: app.address },
      body: JSON.stringify({
        rigId: id,
        editId: crypto.randomUUID(),
        sentence: 'Put a power lever in',
        diff,
      }),
    })
    expect(answer.status, await answer.text()).toBe(200)
    const A0 = 14
    /** The hand: its wiper goes from a fourteenth to nine tenths of the supply. */
    let at = 0
    const lies = (share: number) => {
      at = share
      chip.stdin?.write(`${JSON.stringify({ pin: A0, wiper: 0.07 + 0.84 * share })}\n`)
    }
    const moves = async (to: number, ms: number): Promise<void> => {
      const from = at
      const steps = Math.ceil(ms / 25)
      for (let i = 1; i <= steps; i++) {
        lies(from + ((to - from) * i) / steps)
        await pause(25)
      }
    }
    const given = () => craft.value('engine.left.power.lever')
    const asks = (words: string) =>
      until(
        `it asks: ${words}`,
        async () => (await bench.text('section[aria-label="Calibrate"] [role="status"]')).includes(words),
        25_000,
      )
    lies(0.4)
    await bench.turnTo('k', '/calibrate')
    await bench.clickWords('Levers', '[role="radio"]')
    await bench.clickWords('Power lever left', 'ul[aria-label="Parts"] button')
    const calibrate = 'section[aria-label="Calibrate"]'
    await bench.clickWords('Load Lid board', `${calibrate} button`)
    await bench.seesNo('Load Lid board', calibrate)
    await asks('forward')
    await moves(1, 600)
    await until('it gives less than all before it is measured', () => given() > 0.8 && given() < 0.95)
    await asks('all the way back')
    await moves(0, 800)
    await asks('To its middle')
    await moves(0.5, 600)
    await asks('Rest it where reverse ends')
    await moves(0.2, 600)
    await asks('Rest it where idle ends')
    await moves(0.3, 400)
    await asks('Slowly from end to end')
    await moves(0, 2500)
    await moves(1, 6000)
    await moves(0, 6000)
    await asks('It is measured')
    await bench.sees('on Lid board A0', calibrate)
    await bench.clickWords('Load Lid board', `${calibrate} button`)
    await bench.seesNo('Load Lid board', calibrate)
    await moves(1, 600)
    await until('full power', () => Math.abs(given() - 1) < 0.006)
    await moves(0, 600)
    await until('full reverse', () => Math.abs(given() + 0.3) < 0.006)
    await moves(0.25, 600)
    await until('idle', () => given() === 0)
  },
  LONGEST_MS,
)
