import { execFile } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ElementHandle } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readRigFile } from '../src/core/rig/rig-file'
import type { ListedRig } from '../src/core/rig/rig-list'
import { type App, CraftSide, until } from './app'
import type { Bench } from './browser'
import { followToLight, LIGHT, LIT_BY } from './first-light'
import { beginOnMirror, endSession } from './session'

const DEMO = 'Skerry 12 home cockpit'
const demoText = readFileSync('demo/skerry-12.rig.json', 'utf8')

let app: App
let bench: Bench
let craft: CraftSide
const folder = mkdtempSync(join(tmpdir(), 'clavik-rigs-'))

beforeAll(async () => {
  ;({ app, craft, bench } = await beginOnMirror())
})

afterAll(async () => {
  await endSession({ app, craft, bench })
  rmSync(folder, { recursive: true, force: true })
})

const sheet = '[role="dialog"]'
const openSheet = async (): Promise<void> => {
  if (await bench.page.$(sheet)) return
  await bench.click('header h1 button')
  await bench.page.waitForSelector(`${sheet} ul[aria-label="Rigs"]`)
}
const inSheet = async (label: string): Promise<void> => {
  await openSheet()
  await bench.click(`${sheet} [aria-label="${label}"]`)
}
const openNow = async (name: string): Promise<void> =>
  until(`“${name}” is open`, async () => (await bench.text('header h1')).startsWith(name))
const ask = (door: string, body: unknown): Promise<Response> =>
  fetch(`${app.address}/api/${door}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  })
const ARM = 'button[role="switch"][aria-label="Armed"]'
const armed = () => bench.page.$eval(ARM, (b) => b.getAttribute('aria-checked') === 'true')
const stays = (name: string) => bench.page.$(`${sheet} li[aria-label="${name}"]`)
const status = async () => (await app.health()).body as { boards: { id: string | null; loaded: boolean }[] }
const giveFile = async (path: string): Promise<void> => {
  await openSheet()
  const input = await bench.page.waitForSelector(`${sheet} input[type="file"]`)
  await (input as ElementHandle<HTMLInputElement>).uploadFile(path)
}
const rigCommand = (...args: string[]): Promise<{ code: number; out: string }> =>
  new Promise((resolve) => {
    execFile('bin/rig', args, (error, stdout, stderr) =>
      resolve({ code: error ? Number(error.code) : 0, out: stdout + stderr }),
    )
  })

describe('several rigs', () => {
  it('a new one is begun in flight: what was armed is let go, the boards rest, another page follows', async () => {
    const other = await bench.browser.newPage()
    await other.goto(`${app.address}/bench`)
    await other.waitForSelector('header h1 button')
    await bench.page.bringToFront()
    if (!(await armed())) await bench.click(ARM)
    await until('it is armed', armed)
    // The wheels go down, and their lamps blink and light.
    await bench.dragLever(0.1, 0.9)
    await until(
      'a lamp is lit',
      async () => (await bench.page.$$('[data-part] [data-lit="true"]')).length > 0,
    )
    await openSheet()
    await bench.clickWords('Begin a new one')
    await openNow('My cockpit')
    await until('the other page follows', () =>
      other.evaluate(
        () => document.querySelector('header h1')?.textContent?.startsWith('My cockpit') ?? false,
      ),
    )
    await other.close()
    expect(await armed()).toBe(false)
    expect((await status()).boards.every((b) => b.id === null)).toBe(true)
    for (const [key, view, words] of [
      ['b', '/bench', 'Nothing is drawn yet'],
      ['d', '/panel', 'This rig has no panel yet'],
      ['h', '/harness', 'This rig has no board yet'],
      ['p', '/paths', 'This rig has no parts yet'],
      ['m', '/mirror', 'This rig has no panel yet'],
    ] as const) {
      await bench.turnTo(key, view)
      await bench.sees(words)
    }
  })

  it('what is drawn in it stays in it, and undo takes back only what was done in it', async () => {
    await bench.clickWords('New panel')
    await until('Panel is open', () => new URL(bench.page.url()).pathname === '/panel')
    await bench.page.waitForSelector('section[aria-label="Panel"] svg')
    await inSheet(`Open ${DEMO}`)
    await openNow(DEMO)
    await until('all of it is loaded', async () => (await app.health()).body.ok === true)
    expect(await bench.page.$eval('select[aria-label="Panel"]', (s) => (s as HTMLSelectElement).length)).toBe(
      7,
    )
    await bench.page.waitForSelector('button[aria-label="Nothing to undo"]')
    await inSheet('Open My cockpit')
    await openNow('My cockpit')
    await bench.click('button[aria-label^="Undo:"]')
    await bench.sees('This rig has no panel yet')
  })

  it('one is copied, named, put aside and brought back; the open one cannot be put aside', async () => {
    await inSheet(`Copy ${DEMO}`)
    const copy = `Copy of ${DEMO}`
    await until('the copy is there', async () => Boolean(await stays(copy)))
    await bench.click(`${sheet} [aria-label="Name of ${copy}"]`)
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('a')
    await bench.page.keyboard.up('Control')
    await bench.page.keyboard.type('Second try')
    await bench.page.keyboard.press('Enter')
    await until('it has its name', async () => Boolean(await stays('Second try')))
    await inSheet('Put aside Second try')
    await until('it is aside', async () => !(await stays('Second try')))
    await inSheet('Bring back Second try')
    await until('it is back', async () => Boolean(await stays('Second try')))
    expect(
      await bench.page.$eval(
        `${sheet} [aria-label="Put aside My cockpit"]`,
        (b) => (b as HTMLButtonElement).disabled,
      ),
    ).toBe(true)
    expect(await bench.breaches()).toEqual([])
  })

  it('one is saved as a file and opened from it; a file that is none is refused and nothing changes', async () => {
    await bench.savesInto(folder)
    await inSheet(`Save ${DEMO} as a file`)
    const saved = join(folder, `${DEMO}.rig.json`)
    await until('the file is there', () => readdirSync(folder).includes(`${DEMO}.rig.json`))
    expect(readFileSync(saved, 'utf8')).toBe(demoText)
    const cut = join(folder, 'cut.rig.json')
    writeFileSync(cut, demoText.slice(0, 5000))
    await giveFile(cut)
    await bench.sees('not a rig file, or it is cut off')
    const lost = join(folder, 'lost.rig.json')
    writeFileSync(lost, demoText.replace('"panelId":"engines"', '"panelId":"nowhere"'))
    await giveFile(lost)
    await bench.sees('which is not there')
    await openNow('My cockpit')
    const named = join(folder, 'named.rig.json')
    writeFileSync(named, demoText.replace(DEMO, 'From a file'))
    await giveFile(named)
    await openNow('From a file')
    await until('all of it is loaded', async () => (await app.health()).body.ok === true)
  })

  it('an edit that was made for another rig than the open one is refused', async () => {
    const before = { name: 'Engines' }
    const change = { op: 'change', table: 'panel', id: 'engines', before, after: { name: 'Motors' } }
    const meant = { editId: crypto.randomUUID(), rigId: 'skerry-12' }
    for (const [door, body] of [
      ['edits', { ...meant, sentence: 'Renamed a panel', diff: [change] }],
      ['history', { ...meant, way: 'undo' }],
    ] as const) {
      const response = await ask(door, body)
      expect(response.ok).toBe(false)
      expect(JSON.stringify(await response.json())).toContain('another rig')
    }
  })

  it('one that a second page opens at the same moment is not put aside', async () => {
    const { rigs } = (await (await fetch(`${app.address}/api/rigs`)).json()) as { rigs: ListedRig[] }
    const kept = rigs.filter((r) => !r.removed)
    for (let turn = 0; turn < 12; turn++) {
      const id = kept[turn % kept.length]?.id
      const both = await Promise.all([ask('rigs', { do: 'open', id }), ask('rigs', { do: 'remove', id })])
      await ask('rigs', { do: 'bring back', id })
      // The one that is open already cannot be put aside, and is opened again.
      expect(both.filter((r) => r.ok)).toHaveLength(1)
    }
    await ask('rigs', { do: 'open', id: 'skerry-12' })
    await openNow(DEMO)
  })

  it('a file of a million rows that are none is given up aside, and everybody else goes on', async () => {
    const rows = '{"id":"a"},'.repeat(1_600_000)
    const response = await ask('rigs', {
      do: 'take',
      text: `{"clavik":"rig","format":1,"rows":{"part":[${rows.slice(0, -1)}]}}`,
    })
    expect(response.ok).toBe(false)
    expect(JSON.stringify(await response.json())).toMatch(/not valid|is there twice|takes (more|longer) than/)
    expect((await app.health()).status).toBe(200)
  })

  it('the command does the same without a browser', async () => {
    const port = String(app.port)
    expect((await rigCommand('check', 'demo/skerry-12.rig.json')).out).toContain('7 panels, 144 parts')
    const out = join(folder, 'by-command.json')
    expect((await rigCommand('export', out, '--rig', DEMO, '--port', port)).code).toBe(0)
    expect(readFileSync(out, 'utf8')).toBe(demoText)
    const cut = await rigCommand('import', join(folder, 'cut.rig.json'), '--port', port)
    expect(cut).toMatchObject({ code: 1, out: expect.stringContaining('cut off') })
    const taken = await rigCommand('import', out, '--open', '--port', port)
    expect(taken.out).toContain(`“${DEMO} 2” is kept and open`)
    await openNow(`${DEMO} 2`)
    const again = join(folder, 'again.json')
    await rigCommand('export', again, '--port', port)
    expect('diff' in readRigFile(readFileSync(again, 'utf8'))).toBe(true)
  })

  it('a board that answers is drawn as what it says it is, stands for it, and is loaded', async () => {
    await openSheet()
    await bench.clickWords('Begin a new one')
    await openNow('My cockpit 2')
    await bench.openConnections()
    await bench.clickWords('Simulated board', '[aria-label="Add a connection"] button')
    await bench.sees('not drawn yet', '[role="dialog"]')
    await bench.page.keyboard.press('Escape')
    await bench.turnTo('h', '/harness')
    await bench.clickWords('Boards', '[role="tab"]')
    await bench.sees('stands for no board here')
    const before = (await status()).boards.length
    await bench.clickWords('Draw it')
    await bench.sees('Boards 1 / 1')
    await bench.sees('holds the drawing')
    const { boards } = await status()
    expect(boards).toHaveLength(before)
    expect(boards.filter((b) => b.id !== null && b.loaded)).toHaveLength(1)
  })

  it('an empty rig is led to its first light in at most 15 clicks and keys', async () => {
    await openSheet()
    await bench.clickWords('Begin a new one')
    await openNow('My cockpit 3')
    craft.close()
    craft = await new CraftSide(await app.craftPort()).open()
    await bench.turnTo('b', '/bench')
    const { page } = bench
    await page.evaluate(() => {
      const w = window as unknown as { acts: number }
      w.acts = 0
      for (const kind of ['pointerdown', 'keydown'])
        window.addEventListener(
          kind,
          () => {
            w.acts++
          },
          true,
        )
    })
    await followToLight(bench, async (next) => {
      await next('A simulated board')
      await bench.sees('Boards 1 / 1')
    })
    await until('it is armed', armed)
    const lit = () =>
      page.evaluate(
        () => document.querySelector('[data-part] [data-lit]')?.getAttribute('data-lit') === 'true',
      )
    await until(
      'the lamp shows the battery switch',
      async () => (await lit()) === (craft.value(LIT_BY) === 1),
    )
    const before = craft.value(LIT_BY)
    await bench.click('[data-part] .worked[data-aspect="press"]')
    await until('the craft has heard', () => craft.value(LIT_BY) !== before)
    await until('the lamp follows', async () => (await lit()) === (craft.value(LIT_BY) === 1))
    await bench.sees('10 OF 10', LIGHT)
    const acts = await page.evaluate(() => (window as unknown as { acts: number }).acts)
    expect(acts).toBeGreaterThan(8)
    expect(acts).toBeLessThan(16)
    expect(await bench.breaches()).toEqual([])
    await bench.clickWords('Done', `${LIGHT} button`)
    await until('nobody is led any more', async () => !(await page.$(LIGHT)))
    expect(bench.errors).toEqual([])
  }, 120_000)
})
