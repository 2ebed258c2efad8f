import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ElementHandle } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { until } from './app'
import type { Bench } from './browser'
import { borrowSession, endSession, type Session } from './session'

let session: Session
let bench: Bench

beforeAll(async () => {
  session = await borrowSession('/harness')
  bench = session.bench
})
afterAll(() => endSession(session))

const drawer = (word: string) => bench.clickWords(word, '[aria-label="Drawer"] [role="tab"]')
const board = (word: string) => bench.clickWords(word, '[aria-label="Board"] [role="tab"]')

/** What is written at a pin of the board that is looked at. */
const atPin = (pin: string): Promise<string> =>
  bench.page.$$eval(`[data-pin="${pin}"] text`, (list) => list.map((t) => t.textContent ?? '').join(' '))

const pinSays = (pin: string, words: string) =>
  until(`${pin} says ${words}`, async () => (await atPin(pin)).includes(words))

const drag = async (from: string, to: string): Promise<void> => {
  const a = await bench.middleOf(from)
  const b = await bench.middleOf(to)
  await bench.page.mouse.move(a.x, a.y)
  await bench.page.mouse.down()
  await bench.page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 5 })
  await bench.page.mouse.move(b.x, b.y, { steps: 5 })
  await bench.page.mouse.up()
}

/** A pin's own square, without the label that hangs on it. */
const pin = (name: string) => `[data-pin="${name}"] > rect:nth-of-type(2)`

const holds = (boardId: string) => bench.sees('holds the drawing', `[data-board-load="${boardId}"]`)

describe('the harness', () => {
  it('shows what hangs on each pin, live, and nothing that will not work', async () => {
    await board('Port board')
    await pinSays('D22', 'Wheel lever · upper contact')
    await drawer('Findings')
    await bench.sees('Nothing found', '[role="tabpanel"]')
    expect(await bench.breaches()).toEqual([])
  })

  it('has room for every label, as wide as its letters are', async () => {
    for (const name of ['Port board', 'Stern board', 'Glareshield board', 'Pedestal board']) {
      await board(name)
      const drawing = `svg[aria-label^="${name}, "]`
      await bench.page.waitForSelector(drawing)
      // Fonts come a moment later than what is set in them.
      await bench.page.evaluate(async () => {
        await document.fonts.ready
      })
      const beyond = await bench.page.$eval(drawing, (svg) => {
        const sheet = svg.getBoundingClientRect()
        return [...svg.querySelectorAll('text')].flatMap((t) => {
          const r = t.getBoundingClientRect()
          const out = Math.max(
            ...[sheet.left - r.left, sheet.top - r.top, r.right - sheet.right, r.bottom - sheet.bottom],
          )
          return out > 1 ? [`${t.textContent}: by ${Math.round(out)} px`] : []
        })
      })
      expect(beyond).toEqual([])
    }
  })

  it('says where a lever stands, at its pin', async () => {
    await board('Pedestal board')
    await until('A0 tells a number', async () => /[\d.]+ +\d+ Power lever/.test(await atPin('A0')))
    await board('Port board')
  })

  it('selects a part everywhere by its wire, and shows all its wires', async () => {
    await bench.click(pin('D22'))
    await bench.sees('Wheel lever', '[aria-label="Inspector"]')
    await bench.sees('upper contact', '[aria-label="Leads"]')
    await bench.sees('lower contact', '[aria-label="Leads"]')
  })

  it('puts all wires of a part into one ribbon with a click, and takes that back in one step', async () => {
    const field = 'input[aria-label="Ribbon of the wire"]'
    const ribbon = () => bench.page.$eval(field, (e) => (e as HTMLInputElement).value)
    await bench.clickWords('All 2', '[aria-label="Wire"] button')
    await until('the wire is in a ribbon', async () => (await ribbon()) === 'R1')
    await bench.click(pin('D24'))
    await until('so is the other', async () => (await ribbon()) === 'R1')
    await bench.seesNo('All 2', '[aria-label="Wire"]')
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('z')
    await bench.page.keyboard.up('Control')
    await until('neither is', async () => (await ribbon()) === '')
  })

  it('exchanges two pins in one drag, though both are taken, and takes it back in one step', async () => {
    await drag(pin('D22'), pin('D32'))
    await pinSays('D32', 'Wheel lever · upper contact')
    await pinSays('D22', 'Water rudder')
    await drawer('Boards')
    await bench.sees('differs: Water rudder, Wheel lever', '[data-board-load="port-board"]')
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('z')
    await bench.page.keyboard.up('Control')
    await pinSays('D22', 'Wheel lever · upper contact')
    await holds('port-board')
  })

  it('moves a wire by keys alone', async () => {
    await bench.focus('[data-pin="D32"]')
    await bench.page.keyboard.press('Enter')
    await bench.sees('In the hand: Water rudder')
    await bench.focus('[data-pin="D40"]')
    await bench.page.keyboard.press('Enter')
    await pinSays('D40', 'Water rudder')
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('z')
    await bench.page.keyboard.up('Control')
    await pinSays('D32', 'Water rudder')
  })

  it('leads from pin to pin with the arrows, and on with Tab instead of through every pin', async () => {
    const there = () =>
      bench.page.evaluate(() => document.activeElement?.closest('[data-pin]')?.getAttribute('data-pin') ?? '')
    await bench.focus('[data-pin="D22"]')
    await bench.page.keyboard.press('ArrowDown')
    const below = await there()
    expect(below).not.toBe('D22')
    await bench.page.keyboard.press('ArrowUp')
    expect(await there()).toBe('D22')
    await bench.page.keyboard.press('Tab')
    expect(await there()).toBe('')
    const left = await bench.page.evaluate(
      () => document.activeElement?.closest('[aria-label="Board and expanders"]') === null,
    )
    expect(left).toBe(true)
  })

  it('greys the pins that will not do for what is in the hand', async () => {
    await board('Pedestal board')
    await bench.focus('[data-pin="A0"]')
    await bench.page.keyboard.press('Enter')
    const faint = (name: string) =>
      bench.page.$eval(`[data-pin="${name}"]`, (e) => Number(e.getAttribute('opacity')) < 1)
    await until('D32 is grey', () => faint('D32'))
    expect(await faint('A9')).toBe(false)
    await bench.page.keyboard.press('Escape')
    await until('D32 is not grey', async () => !(await faint('D32')))
  })

  it('finds a wrong resistor, says which is right, and puts it in with one click', async () => {
    await board('Port board')
    await bench.click(pin('D26'))
    await bench.page.click('input[aria-label="Series resistor"]', { count: 3 })
    await bench.page.keyboard.type('47')
    await bench.page.keyboard.press('Enter')
    await drawer('Findings')
    await bench.sees('next E12 value: 150 Ω', '[role="tabpanel"]')
    await bench.clickWords('Give it 150 Ω')
    await bench.sees('Nothing found', '[role="tabpanel"]')
  })

  it('turns a coil of a gauge motor round in its settings; what its driver chip cannot be told is not offered', async () => {
    await board('Pedestal board')
    await bench.page.$eval('[data-channel="motors-1 0"]', (e) => e.scrollIntoView({ block: 'center' }))
    await bench.click('[data-channel="motors-1 0"]')
    await bench.sees('Torque left', '[aria-label="Inspector"]')
    const offered = await bench.page.$$eval('select[aria-label="Motor leads"] option', (list) =>
      list.map((o) => o.getAttribute('value')),
    )
    expect(offered).toEqual(['', 'turned'])
    await bench.page.select('select[aria-label="Motor leads"]', 'turned')
    await drawer('Boards')
    await bench.sees('differs: Torque left', '[data-board-load="pedestal-board"]')
    await bench.clickWords('Load', '[data-board-load="pedestal-board"] button')
    await holds('pedestal-board')
  })
})

describe('three new parts on a full board', () => {
  const names = ['rotary-4', 'rotary-4', 'rotary-4']

  it('are drawn, and wait in the tray', async () => {
    await bench.turnTo('d', '/panel')
    await bench.page.select('select[aria-label="Panel"]', 'overhead')
    await bench.clickWords('Parts', '[role="tab"]')
    for (const [i, kind] of names.entries()) {
      await bench.page.click('input[aria-label="Search parts"]', { count: 3 })
      await bench.page.keyboard.type('rotary 4')
      await bench.click(`[data-kind="${kind}"]`)
      const box = await bench.middleOf('[role="application"]')
      await bench.page.mouse.click(box.x + (i - 1) * 60, box.y)
    }
    await bench.turnTo('h', '/harness')
    await drawer('Tray')
    await bench.sees('contact of position 4', '[role="tabpanel"]')
  })

  it('can be wired by hand, from the tray to a pin, and taken off again', async () => {
    await board('Stern board')
    await bench.page.$eval('[aria-label="Board and expanders"]', (e) => e.scrollTo(0, 0))
    await drag('[aria-label="Rotary switch 1: contact of position 1, no wire yet"]', pin('D8'))
    await pinSays('D8', 'Rotary switch 1')
    await bench.clickWords('Take off')
    await until('D8 is free', async () => !(await atPin('D8')).includes('Rotary'))
  })

  it('get an expander proposed, shown as a diff before it is taken', async () => {
    await drawer('Assign')
    await bench.page.select('select[aria-label="To which boards"]', 'stern-board')
    await bench.clickWords('Propose')
    await bench.page.waitForSelector('[aria-label="Proposal"]', { timeout: 30_000 })
    await bench.page.waitForSelector('[data-proposed]')
    const text = await bench.text('[aria-label="Proposal"]')
    expect(text).toMatch(/on Stern board: \d+ wires on \d+ pins/)
    expect(text).toMatch(/\d+ new · 0 move/)
    expect(text).not.toContain('No place')
  })

  it('are drawn as proposed, where nothing can be worked yet', async () => {
    await bench.sees('Drawn as proposed; nothing is taken yet')
    const drawn = await bench.page.$$eval('[aria-label="Board and expanders"] article[inert]', (list) =>
      list.map((e) => e.querySelectorAll('[data-proposed="comes"]').length),
    )
    expect(drawn).toEqual([12])
    // A wire of the list is found on the sheet.
    await bench.page.$eval('[aria-label="Board and expanders"]', (e) => e.scrollTo(0, 0))
    await bench.clickWords('Rotary switch 3 · contact of position 4', '[aria-label="Proposal"] button')
    await until('the wire is in view', () =>
      bench.page.$eval('[aria-label="Board and expanders"]', (sheet) => {
        const wire = [...sheet.querySelectorAll('article[inert] [data-proposed]')].at(-1)
        const [frame, at] = [sheet.getBoundingClientRect(), wire?.getBoundingClientRect()]
        return at !== undefined && at.top > frame.top && at.bottom < frame.bottom
      }),
    )
  })

  it('are taken, loaded and worked in Mirror', async () => {
    await bench.clickWords('Take it')
    await drawer('Tray')
    await bench.sees('Every terminal has its wire', '[role="tabpanel"]')
    await bench.seesNo('Drawn as proposed')
    expect(await bench.page.$('[data-proposed]')).toBeNull()
    await drawer('Boards')
    await bench.clickWords('Load', '[data-board-load="stern-board"] button')
    await holds('stern-board')
    await bench.turnTo('m', '/mirror')
    await bench.page.select('select[aria-label="Panel"]', 'overhead')
    const rows = await bench.page.$$eval('[data-row]', (list) =>
      list.flatMap((r) =>
        (r as HTMLElement).innerText.startsWith('Rotary switch') ? [r.getAttribute('data-row') ?? ''] : [],
      ),
    )
    expect(rows).toHaveLength(3)
    for (const id of rows) {
      await bench.focus(`[data-part="${id}"] .worked`)
      await bench.page.keyboard.press('ArrowRight')
      await bench.page.keyboard.press('ArrowRight')
      // The strip says what the board tells of it, and that its board is loaded.
      await until('the board tells where it stands', async () =>
        /[23]$/.test((await bench.station('part')).trim()),
      )
      expect(await bench.station('board')).toContain('loaded')
    }
  })
})

describe('a board of one’s own', () => {
  const files = mkdtempSync(join(tmpdir(), 'clavik-files-'))
  afterAll(() => rmSync(files, { recursive: true, force: true }))

  const takeIn = async (text: string) => {
    writeFileSync(join(files, 'workshop.board.json'), text)
    const input = await bench.page.waitForSelector('input[aria-label="Board file"]')
    await (input as ElementHandle<HTMLInputElement>).uploadFile(join(files, 'workshop.board.json'))
  }
  let file: { board: Record<string, unknown> & { pins: { name: string; number: number }[] } }

  it('begins as a file of a board that is there', async () => {
    await bench.turnTo('h', '/harness')
    await board('Port board')
    await drawer('Boards')
    const link = await bench.page.waitForSelector('a[download="my-atmega2560.board.json"]')
    const text = await link?.evaluate((a) =>
      decodeURIComponent((a as HTMLAnchorElement).href.split(',').slice(1).join(',')),
    )
    file = JSON.parse(text ?? '')
    expect(file.board.pins).toHaveLength(70)
  })

  it('is refused when its file is damaged, with the place, and nothing is changed', async () => {
    const boards = await bench.text('[aria-label="Board"]')
    const damaged = structuredClone(file)
    Object.assign(damaged.board.pins[22] ?? {}, { number: 23 })
    await takeIn(JSON.stringify(damaged))
    await bench.sees('D23 and D22 both have the number 23')
    await takeIn(JSON.stringify({ ...file, format: 2 }))
    await bench.sees('This board file has format 2; this Clavik reads up to 1. Nothing was changed.')
    expect(await bench.text('[aria-label="Board"]')).toBe(boards)
  })

  it('is drawn before it is taken, and takes the place of one that is wired', async () => {
    Object.assign(file.board, { id: 'workshop', name: 'Workshop board', widthMm: 104 })
    await takeIn(JSON.stringify(file))
    await bench.sees('68 pins to use, 5 V', '[role="dialog"]')
    expect(await bench.breaches()).toEqual([])
    await bench.clickWords('Make Port board one')
    await bench.page.waitForSelector('[aria-label="Proposal"]', { timeout: 30_000 })
    await bench.sees('Port board becomes Workshop board', '[aria-label="Proposal"]')
    await bench.clickWords('Take it')
    await drawer('Boards')
    await bench.page.waitForSelector('[aria-label="Port board, Workshop board"]')
    await pinSays('D22', 'Wheel lever · upper contact')
    await drawer('Findings')
    await bench.sees('Nothing found', '[role="tabpanel"]')
    // It is in the database, not only on this page.
    await bench.page.reload()
    await board('Port board')
    await bench.page.waitForSelector('[aria-label="Port board, Workshop board"]')
    await drawer('Boards')
    await holds('port-board')
  })

  it('can be chosen for another board, as one of the catalogue can', async () => {
    await bench.page.select('select[aria-label="Add a board"]', 'workshop')
    await bench.sees('Board 1', '[aria-label="Board"]')
    await bench.page.waitForSelector('[aria-label="Board 1, Workshop board"]')
    await bench.page.select('select[aria-label="Model of the board"]', 'atmega2560-small')
    await bench.page.waitForSelector('[aria-label="Proposal"]', { timeout: 30_000 })
    await bench.clickWords('Take it')
    await drawer('Boards')
    await bench.sees('Makers order the contacts of this board in different ways')
    await bench.clickWords('Remove it')
    await until('it is gone', async () => !(await bench.text('[aria-label="Board"]')).includes('Board 1'))
  })
})

describe('a load whose connection is cut', () => {
  it('leaves the board as it was, says so, and can be done again', async () => {
    const { app } = session
    await bench.turnTo('h', '/harness')
    await board('Port board')
    await drag(pin('D22'), pin('D40'))
    await pinSays('D40', 'Wheel lever · upper contact')
    await drawer('Boards')
    await bench.sees('differs: Wheel lever', '[data-board-load="port-board"]')
    app.signal('standins', 'SIGSTOP')
    await bench.clickWords('Load', '[data-board-load="port-board"] button')
    await bench.sees('It keeps what it held before', 'body', 15_000)
    app.signal('standins', 'SIGKILL')
    await bench.sees('differs: Wheel lever', '[data-board-load="port-board"]', 30_000)
    await bench.clickWords('Load', '[data-board-load="port-board"] button')
    await holds('port-board')
  })
})

describe('the papers', () => {
  it('come as files', async () => {
    await drawer('Out')
    const links = await bench.page.$$eval('[aria-label="Papers"] a', (list) =>
      list.map((a) => (a as HTMLAnchorElement).href),
    )
    expect(links.length).toBe(7)
    for (const link of links) {
      const { status, start } = await bench.page.evaluate(async (href) => {
        const response = await fetch(href)
        return { status: response.status, start: (await response.text()).slice(0, 40) }
      }, link)
      expect(status).toBe(200)
      if (link.includes('.csv')) expect(start).toMatch(/^(number,colour|count,what)/)
      if (link.includes('.pdf')) expect(start).toMatch(/^%PDF/)
      if (link.includes('.svg')) expect(start).toMatch(/^<svg/)
    }
  })

  /** What another program reads in a PDF that is served. */
  const wordsOf = async (path: string): Promise<string> => {
    const bytes = await bench.page.evaluate(
      async (href) => [...new Uint8Array(await (await fetch(href)).arrayBuffer())],
      path,
    )
    const file = join(folder, 'paper.pdf')
    writeFileSync(file, Buffer.from(bytes))
    return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }).replace(/\s+/g, ' ')
  }
  const folder = mkdtempSync(join(tmpdir(), 'clavik-papers-'))
  afterAll(() => rmSync(folder, { recursive: true, force: true }))

  it('are read by other programs, letters, ohms and all', async () => {
    const wiring = await wordsOf('/api/harness/wiring.pdf?paper=A4')
    expect(wiring).toContain('330 Ω')
    expect(wiring).toMatch(/its channels: sheets? \d+/)
    expect(wiring).toContain('1 of ')
    const labels = await wordsOf('/api/harness/labels.pdf')
    expect(labels).toContain('at Wheel lever · upper contact')
    expect(labels).toMatch(/to Port board D\d+/)
    expect(labels).not.toContain('…')
  })

  it('take notes, links and prices in, which are in the list whenever it is made', async () => {
    const input = (await bench.page.$('input[aria-label="Parts list"]')) as ElementHandle<HTMLInputElement>
    const file = join(folder, 'parts.csv')
    writeFileSync(
      file,
      'what,value,note,link,price\nResistor,330 Ω,"drawer 7",https://shop.invalid/330,"0,10"\nWire,red,,ftp://x,\n',
    )
    await input.uploadFile(file)
    await bench.sees('1 line changed. Left out: line 3')
    const listed = () => bench.page.evaluate(async () => (await fetch('/api/harness/parts.csv')).text())
    await until('the list has it', async () =>
      /Resistor,330 Ω,[^\n]*drawer 7,https:\/\/shop\.invalid\/330,0\.1,/.test(await listed()),
    )
    // Spreadsheets know it for UTF-8 by its first three bytes.
    const first = await bench.page.evaluate(async () => {
      const bytes = await (await fetch('/api/harness/parts.csv')).arrayBuffer()
      return [...new Uint8Array(bytes.slice(0, 3))]
    })
    expect(first).toEqual([0xef, 0xbb, 0xbf])
    writeFileSync(file, 'colour\nred\n')
    await input.uploadFile(file)
    await bench.sees('This is not a parts list')
    expect(bench.errors).toEqual([])
  })
})
