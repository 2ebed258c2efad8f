import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, type CraftSide, pause, until } from './app'
import type { Bench } from './browser'
import { borrowSession, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

beforeAll(async () => {
  ;({ app, craft, bench } = await borrowSession('/scope'))
  await bench.page.waitForSelector('[data-name="sim.time"]')
  await until('all is up and loaded', async () => (await app.health()).body.ok === true)
})

afterAll(() => endSession({ app, craft, bench }))

const names = () =>
  bench.page.$$eval('[role="option"][data-name]', (rows) =>
    rows
      .map((r) => ({ y: r.getBoundingClientRect().y, name: r.getAttribute('data-name') ?? '' }))
      .sort((a, b) => a.y - b.y)
      .map((r) => r.name),
  )
const row = (name: string) => bench.text(`[data-name="${name}"]`)
const radio = (words: string) => bench.clickWords(words, '[role="radio"]')
const search = async (words: string): Promise<void> => {
  await bench.click('input[type="search"]')
  await bench.page.keyboard.down('Control')
  await bench.page.keyboard.press('a')
  await bench.page.keyboard.up('Control')
  await bench.page.keyboard.press('Backspace')
  if (words !== '') await bench.page.keyboard.type(words)
}
const chosen = () => bench.text('aside[aria-label="Chosen row"]')

describe('the table', () => {
  it('shows all that the craft says, live, and breaks no rule of access', async () => {
    await bench.sees('OF 589')
    const before = await row('sim.time')
    await until('time goes on', async () => (await row('sim.time')) !== before)
    await until('it has a trace', () =>
      bench.page.evaluate(() =>
        [...document.querySelectorAll('[data-name="sim.time"] svg path[stroke="var(--accent)"]')].some(
          (p) => (p.getAttribute('d') ?? '').length > 20,
        ),
      ),
    )
    expect(await bench.breaches()).toEqual([])
  })

  it('finds by name, unit, words and value, in any order', async () => {
    await search('deg target heading hold')
    await until('one is left', async () => (await names()).join() === 'ap.heading.target')
    craft.set('ap.heading.target', 123)
    await search('123 deg')
    await until('it is found by its value', async () => (await names()).includes('ap.heading.target'))
    await search('zzz')
    await bench.sees('Nothing there has “zzz” in it')
    await bench.clickWords('Show all')
    await bench.sees('589 OF 589')
  })

  it('sorts by what changes most, and its rows stand still while they are read', async () => {
    await bench.clickWords('TIMES')
    await until('what moves is on top', async () => {
      const counts = await bench.page.$$eval('[role="option"]', (rows) =>
        rows.slice(0, 5).map((r) => Number((r.children[6] as HTMLElement).innerText)),
      )
      return counts.every((c) => c > 0)
    })
    const before = await names()
    await pause(1500)
    expect(await names()).toEqual(before)
    await bench.clickWords('TIMES')
    await bench.clickWords('TIMES')
    await until('it is in the order of the craft again', async () => (await names())[0] === 'sim.time')
  })

  it('is written by hand in the row, with what is wrong said there, and the craft has it', async () => {
    await search('heading target')
    await bench.click('[data-name="ap.heading.target"]')
    await bench.focus('[role="listbox"]')
    await bench.page.keyboard.press('Enter')
    await bench.page.keyboard.type('400')
    await bench.page.keyboard.press('Enter')
    await bench.sees('Not sent: it goes from 0 to 360 deg.')
    expect(await bench.beyondWindow()).toEqual([])
    await bench.page.keyboard.press('Backspace')
    await bench.page.keyboard.press('Backspace')
    await bench.page.keyboard.press('Backspace')
    await bench.page.keyboard.type('77')
    await bench.page.keyboard.press('Enter')
    await until('the craft has it', () => craft.value('ap.heading.target') === 77)
    await bench.sees('The simulator has taken 77 deg.', 'aside[aria-label="Chosen row"]')
    expect(await chosen()).toContain('Heading knob')
  })

  it('sends an event by hand', async () => {
    await search('beacon toggle')
    await until('an event is found', async () => (await names())[0]?.startsWith('lights.') === true)
    const events = await names()
    const before = craft.value('lights.beacon.switch')
    await bench.click(`[data-name="${events[0]}"]`)
    await bench.clickWords('Send', 'aside[aria-label="Chosen row"] button')
    await until('the craft has done it', () => craft.value('lights.beacon.switch') !== before)
  })

  it('mutes what moves by itself, and shows it again', async () => {
    await search('')
    await bench.sees('589 OF 589')
    await bench.clickWords('Mute movers')
    await bench.sees('MUTED', '[role="status"]')
    await until('it is out of the list', async () => !(await names()).includes('sim.time'))
    await radio('Muted')
    await until('they are listed', async () => (await names()).includes('sim.time'))
    await bench.clickWords('Show all again')
    await radio('All')
    await until('it is there again', async () => (await names()).includes('sim.time'))
  })

  it('shows what is pinned in a window of its own, at once and live', async () => {
    await search('heading target')
    await bench.click('[data-name="ap.heading.target"]')
    await bench.focus('[role="listbox"]')
    await bench.page.keyboard.press('Space')
    await until('it is pinned', () => bench.page.$('[data-name="ap.heading.target"] [data-pin="true"]'))
    const other: Page = await bench.browser.newPage()
    await other.goto(`${app.address}/scope/pinned`)
    const says = () => other.evaluate(() => document.body.innerText)
    await until('the window has it', async () => (await says()).includes('77 deg'))
    craft.set('ap.heading.target', 90)
    await until('it follows', async () => (await says()).includes('90 deg'))
    await bench.page.bringToFront()
    await bench.click('[data-name="ap.heading.target"] [data-pin]')
    await until('it is gone there', async () => (await says()).includes('Nothing is pinned'))
    await other.close()
  })
})

describe('the hunt', () => {
  const guesses = () =>
    bench.page.$$eval('[data-guess]', (rows) => rows.map((r) => r.getAttribute('data-guess')))
  /** The craft lies at its mooring: what its own pilot would do just then is none of a hunt's business here. */
  beforeAll(() => {
    for (const side of ['left', 'right']) craft.set(`engine.${side}.power.lever`, 0.02)
  })
  /** Somebody works the wiper in the simulator. */
  const work = async (value: number, mark: boolean): Promise<void> => {
    craft.set('deck.k7', value)
    await pause(250)
    if (mark) await bench.page.keyboard.press('Space')
    await pause(2600)
  }

  it('finds a switch that nobody has described, and binds the wheel lever to it', async () => {
    await radio('Hunt')
    await bench.sees('Touch a control on the panel')
    expect(await bench.breaches()).toEqual([])
    await pause(5000)
    for (const value of [0, 9, 4]) await work(value, true)
    await until('it is the first guess', async () => (await guesses())[0] === 'deck.k7')
    await bench.sees('moved at all 3 marks, never otherwise; 3 levels')
    await bench.page.select('select[aria-label="Part"]', 'wheel-lever')
    await bench.sees('Turn round')
    await bench.clickWords('Make the path')
    await bench.sees('Wheel lever now sets deck.k7.')
    await until('its path is in the strip', async () =>
      (await bench.text('section[aria-label="Signal path"]')).includes('deck.k7'),
    )
    await bench.page.goto(`${app.address}/mirror`)
    await bench.sees('Craft says')
    await bench.dragLever(0.2, 0.9)
    await until('the craft has the value of the position', () => craft.value('deck.k7') === 9)
    await bench.dragLever(0.9, 0.2)
    await until('and of the other', () => craft.value('deck.k7') === 0)
  })

  it('takes two touches: a control on the panel, then the same in the simulator, and Enter', async () => {
    await bench.page.goto(`${app.address}/scope`)
    await bench.page.waitForSelector('[role="radio"]')
    // Somebody else stands at the panel.
    const panel = await bench.browser.newPage()
    await panel.setViewport({ width: 1280, height: 800 })
    await panel.goto(`${app.address}/mirror`)
    const part = '[data-part="water-rudder"] .worked'
    await panel.waitForSelector(part)
    await bench.page.bringToFront()
    await radio('Hunt')
    await pause(4000)
    await panel.$eval(part, (e) => (e as SVGElement).focus())
    await panel.keyboard.press('ArrowUp')
    await bench.sees('Now work the same control in the simulator')
    // A hand takes as long from the one to the other, at least.
    await pause(800)
    await work(9, false)
    await work(0, false)
    await until('it is the first guess', async () => (await guesses())[0] === 'deck.k7')
    await bench.focus('[aria-label="Hunt"]')
    await bench.page.keyboard.press('Enter')
    await bench.sees('now sets deck.k7.')
    await panel.close()
  })
})

describe('the chart', () => {
  const canvas = '[role="application"] canvas'
  /** How many of the chart's dots are of a colour that is not the sheet's. */
  const inked = () =>
    bench.page.$eval(canvas, (c) => {
      const there = c as HTMLCanvasElement
      const g = there.getContext('2d') as CanvasRenderingContext2D
      const { data } = g.getImageData(0, 0, there.width, there.height)
      let count = 0
      for (let i = 3; i < data.length; i += 4) if ((data[i] as number) > 128) count++
      return count
    })

  it('draws what is pinned, with what each was under the cursor, and stands still where it is dragged to', async () => {
    await bench.page.goto(`${app.address}/scope`)
    await bench.page.waitForSelector('[data-name="sim.time"]')
    await radio('Chart')
    await bench.sees('Nothing to draw yet')
    await bench.clickWords('To the table')
    for (const name of ['ap.heading.target', 'sim.time']) {
      await search(name)
      await bench.click(`[data-name="${name}"] [data-pin]`)
      await until(`${name} is pinned`, () => bench.page.$(`[data-name="${name}"] [data-pin="true"]`))
    }
    craft.set('ap.heading.target', 50)
    await pause(1500)
    craft.set('ap.heading.target', 250)
    await pause(1000)
    await radio('Chart')
    await bench.sees('250 deg')
    expect(await bench.breaches()).toEqual([])
    await bench.clickWords('10 s')
    await until('it is drawn', async () => (await inked()) > 3000)
    const box = await bench.middleOf(canvas)
    await bench.page.mouse.move(box.x, box.y)
    await bench.page.mouse.down()
    await bench.page.mouse.move(box.x + 60, box.y, { steps: 4 })
    await bench.page.mouse.up()
    await bench.sees('stands still')
    // Some way back, before it was turned to 250.
    const edge = box.x - box.width / 2
    await until('it was 50 there', async () => {
      for (let x = edge + 70; x < edge + box.width; x += 12) {
        await bench.page.mouse.move(x, box.y)
        if ((await bench.text('[data-charted="ap.heading.target"]')).includes('50 deg')) return true
      }
      return false
    })
    await bench.page.keyboard.press('Home')
    await bench.focus('[role="application"]')
    await bench.page.keyboard.press('Home')
    await bench.sees('runs with the time')
  })

  it('gives away what is shown', async () => {
    const text = await bench.page.evaluate(async () => {
      const made: Blob[] = []
      const keep = URL.createObjectURL
      URL.createObjectURL = (b) => {
        made.push(b as Blob)
        return keep(b as Blob)
      }
      for (const b of document.querySelectorAll('button')) if (b.innerText === 'Save what is shown') b.click()
      URL.createObjectURL = keep
      return made[0]?.text() ?? ''
    })
    const lines = text.trim().split(/\r?\n/)
    expect(lines[0]).toBe('time,ap.heading.target,sim.time')
    expect(lines.length).toBeGreaterThan(20)
    expect(lines.at(-1)).toMatch(/^\d{4}-\d\d-\d\dT.*Z,250,\d+(\.\d+)?$/)
  })
})

describe('words of one’s own', () => {
  const field = async (label: string, words: string): Promise<void> => {
    await bench.page.evaluate((l) => {
      const labels = [...document.querySelectorAll<HTMLElement>('form label')]
      labels
        .find((e) => e.innerText.startsWith(l))
        ?.querySelector('input')
        ?.focus()
    }, label)
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('a')
    await bench.page.keyboard.up('Control')
    await bench.page.keyboard.type(words)
  }

  it('are said of what nobody describes, found by search, and kept for the craft', async () => {
    await radio('Table')
    await search('deck.k7')
    await bench.click('[data-name="deck.k7"]')
    await bench.clickWords('Say what it is …')
    await field('Called', 'Wiper switch')
    await field('Unit', 'wibbles')
    await bench.sees('“wibbles” is not known')
    await field('Unit', '%')
    await field('It is', 'Where the wipers stand')
    expect(await bench.breaches()).toEqual([])
    await bench.page.keyboard.press('Enter')
    await until('it is shown', async () => (await chosen()).includes('Where the wipers stand'))
    await search('wiper switch')
    await until('it is found', async () => (await names()).includes('deck.k7'))
    expect(await row('deck.k7')).toContain('Wiper switch')
    // Still there in another tab, and after the hub was begun anew.
    app.signal('hub', 'SIGKILL')
    await until('all is up again', async () => (await app.health()).body.ok === true, 40_000)
    await bench.page.reload()
    await bench.page.waitForSelector('input[type="search"]')
    await search('wiper switch')
    await until('it is found', async () => (await names()).includes('deck.k7'))
  })

  it('are shared as a file, and what others know is taken from theirs', async () => {
    const saved = await bench.page.evaluate(async () => {
      const link = document.querySelector<HTMLAnchorElement>('a[href^="/api/words/file"]')
      return (await fetch(link?.href ?? '')).text()
    })
    expect(saved).toContain('deck.k7,Wiper switch,%,Where the wipers stand')
    const folder = mkdtempSync(join(tmpdir(), 'clavik-words-'))
    const path = join(folder, 'Theirs.csv')
    writeFileSync(
      path,
      'Variable;Units;Comment\ndeck.k7;;Theirs\nice.wing.thickness;mm;Ice on the wing\n;ft;nobody\n',
    )
    const input = (await bench.page.$(
      'input[aria-label="Words for Skerry 12 from a file"]',
    )) as ElementHandle<HTMLInputElement>
    await input.uploadFile(path)
    await bench.sees('What “Theirs.csv” says of 2 names of Skerry 12 is kept.')
    await bench.sees('No name that can be taken stands in line 4')
    rmSync(folder, { recursive: true })
    await search('ice on the wing')
    await until('what this craft does not tell is shown', async () =>
      (await names()).includes('ice.wing.thickness'),
    )
    await bench.click('[data-name="ice.wing.thickness"]')
    expect(await chosen()).toContain('absent on this craft')
  })
})
