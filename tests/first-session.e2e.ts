import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, CraftSide, until } from './app'
import type { Bench } from './browser'
import { beginSession, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

beforeAll(async () => {
  ;({ app, craft, bench } = await beginSession('/'))
})

afterAll(() => endSession({ app, craft, bench }))

describe('the first session of a builder', () => {
  it('opens on Bench, with what is connected, at what rate, and what is still open', async () => {
    await bench.sees('Skerry 12 home cockpit')
    await bench.sees('Port board', '[aria-label="Connected"]')
    await until('rates are shown', async () =>
      /[1-9]\d\.\d Hz/.test(await bench.text('[aria-label="Connected"]')),
    )
    await until('boards are loaded', async () =>
      (await bench.text('[data-board="stern-board"]')).includes('loaded'),
    )
    await bench.sees('Horn off', '[aria-label="Open ends"]')
    expect(bench.page.url()).toContain('/bench')
    expect(await bench.breaches()).toEqual([])
  })

  it('shows the panel in Mirror, drawn to scale', async () => {
    await bench.clickWords('Mirror')
    await bench.sees('Craft says')
    const panel = await bench.middleOf('svg[aria-label="Panel Wheels & floats"] > path')
    expect(panel.width / panel.height).toBeCloseTo(160 / 110, 1)
    expect(await bench.breaches()).toEqual([])
  })

  it('lets the wheels travel when the lever is pushed: lamps out, blinking in transit, lit', async () => {
    expect(craft.value('gear.lever')).toBe(0)
    expect((await bench.lamp('main-right')).shows).toBe('out')
    await bench.dragLever(0.13, 0.87)
    await until('the craft has its lever down', () => craft.value('gear.lever') === 2)
    await until(
      'the lamp says it blinks',
      async () => (await bench.lamp('main-right')).shows === 'blink 2 Hz',
    )
    const seen = new Set<boolean>()
    await until(
      'the lens is seen both lit and out',
      async () => seen.add((await bench.lamp('main-right')).lit).size === 2,
    )
    expect(craft.value('gear.main.right.position')).toBeLessThan(1)
    await until('the lamp is lit', async () => (await bench.lamp('main-right')).shows === 'lit')
    expect(craft.value('gear.main.right.position')).toBe(1)
    // Each lamp follows its own wheel: the bow wheels were quicker than the main ones.
    expect((await bench.lamp('bow-left')).shows).toBe('lit')
  })

  it('shows the whole path of the lever, live', async () => {
    await bench.click('[data-row="wheel-lever"] button')
    await until('the pin reads low', async () => (await bench.station('pin')).includes('D24 low'))
    expect(await bench.station('part')).toContain('DN')
    expect(await bench.station('board')).toContain('Port board')
    expect(await bench.station('shaping')).toContain('DN → down')
    expect(await bench.station('onlyWhile')).toContain('always')
    expect(await bench.station('simulator')).toContain('gear.lever')
  })

  it('works by keys as well', async () => {
    await bench.page.evaluate(() =>
      document.querySelector<SVGElement>('[data-part="wheel-lever"] .worked')?.focus(),
    )
    await bench.page.keyboard.press('ArrowUp')
    await bench.page.keyboard.press('ArrowUp')
    await until('the craft has its lever up', () => craft.value('gear.lever') === 0)
    await bench.page.keyboard.press('ArrowDown')
    await bench.page.keyboard.press('ArrowDown')
    await until('the craft has its lever down', () => craft.value('gear.lever') === 2)
  })

  it('lets a lamp follow another variable from the moment it is chosen, and undoes it', async () => {
    await bench.click('[data-part="main-right"] .worked')
    await bench.click('[data-station="simulator"]')
    await bench.page.waitForSelector('input[role="combobox"]')
    await bench.page.keyboard.type('flap left')
    await bench.sees('flaps.left.position', '[role="listbox"]')
    expect(await bench.page.$$eval('[role="listbox"] mark', (m) => m.length)).toBeGreaterThan(1)
    await until('live values stand in the list', async () =>
      /\d\.\d\d/.test(await bench.text('[role="option"]')),
    )
    expect(await bench.breaches()).toEqual([])
    await bench.page.keyboard.press('Enter')
    await until('the path starts at the new variable', async () =>
      (await bench.station('simulator')).includes('flaps.left.position'),
    )
    const flaps = craft.value('flaps.left.position')
    await until(
      'the lamp follows it',
      async () => (await bench.lamp('main-right')).shows === (flaps > 0 && flaps < 1 ? 'blink 2 Hz' : 'out'),
    )
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('z')
    await bench.page.keyboard.up('Control')
    await until('the path is as it was', async () =>
      (await bench.station('simulator')).includes('gear.main.right.position'),
    )
  })

  it('says what is wrong with an expression while it is typed, and keeps the one that works', async () => {
    await bench.click('[data-station="shaping"]')
    await bench.typeExpression('Shaping', 'speed.indicated > position.height ')
    await bench.sees('ft (length) and kt (speed) do not measure the same.')
    await bench.page.keyboard.press('Enter')
    await bench.leaveForm()
    expect(await bench.station('shaping')).toContain('input >= 1')
  })

  it('leads from an open end to where it is mended: the horn button is bound and works', async () => {
    await bench.turnTo('b', '/bench')
    await bench.clickWords('Bind it')
    await bench.page.waitForSelector('input[role="combobox"]')
    await bench.page.keyboard.type('horn cancel')
    await bench.sees('gear.horn.cancel', '[role="listbox"]')
    await bench.page.keyboard.press('Enter')
    await bench.seesNo('Horn off', '[aria-label="Open ends"]')
    await bench.sees('Everything drawn is wired and bound', '[aria-label="Open ends"]')
    await bench.turnTo('m', '/mirror')
    await bench.sees('Craft says')
    await bench.dragLever(0.87, 0.5)
    await bench.dragLever(0.5, 0.13)
    await until(
      'the horn sounds while the wheels move low and slow',
      () => craft.value('gear.horn.sounding') === 1 || craft.value('speed.indicated') > 100,
    )
    const horn = await bench.middleOf('[data-part="horn-off"] .worked')
    await bench.page.mouse.move(horn.x, horn.y)
    await bench.page.mouse.down()
    await until('the path shows the contact closed', async () => (await bench.station('pin')).includes('low'))
    await bench.page.mouse.up()
    await until('the horn is silent', () => craft.value('gear.horn.sounding') === 0)
  })

  it('holds everything with one switch, says so, and lets it flow again', async () => {
    await bench.dragLever(0.13, 0.5)
    await until('the craft has its lever in the middle', () => craft.value('gear.lever') === 1)
    await bench.click('button[role="switch"][aria-label="Armed"]')
    await bench.dragLever(0.5, 0.87)
    await bench.sees('stops here: held, so actions do not flow')
    await bench.page.waitForSelector('[data-row="wheel-lever"][data-agrees="false"]')
    expect(craft.value('gear.lever')).toBe(1)
    await bench.click('button[role="switch"][aria-label="Armed"]')
    await bench.dragLever(0.87, 0.5)
    await bench.dragLever(0.5, 0.87)
    await until('the craft has its lever down', () => craft.value('gear.lever') === 2)
  })

  it('tries a lamp by hand, and the trial ends by itself', async () => {
    await bench.click('[data-part="bilge-lamp-right"] .worked')
    await bench.page.keyboard.press('t')
    await until('the lamp is lit', async () => (await bench.lamp('bilge-lamp-right')).lit)
    await bench.sees('being exercised by hand')
    await until('it is out again', async () => !(await bench.lamp('bilge-lamp-right')).lit)
  })

  it('says when a lead has moved and the board is not loaded, and loads it in one action', async () => {
    await bench.click('[data-part="bilge-lamp-left"] .worked')
    await bench.click('[data-station="pin"]')
    await bench.page.waitForSelector('select[aria-label^="Pin of plus"]')
    await bench.page.select('select[aria-label^="Pin of plus"]', 'D11')
    await bench.clickWords('Done')
    await bench.sees('board not loaded')
    await bench.sees('1 to load', 'header')
    await bench.clickWords('1 to load')
    await bench.seesNo('1 to load', 'header')
    await bench.seesNo('board not loaded')
    expect(await bench.station('pin')).toContain('D11')
  })

  it('finds every action and part in the palette', async () => {
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('k')
    await bench.page.keyboard.up('Control')
    await bench.page.waitForSelector('[cmdk-input]')
    await bench.page.keyboard.type('bow right')
    await bench.sees('Bow right', '[cmdk-list]')
    expect(await bench.breaches()).toEqual([])
    await bench.page.keyboard.press('Enter')
    await bench.sees('Bow right', 'aside h2')
    await bench.page.keyboard.type('?')
    await bench.sees('Command palette: every action')
    await bench.page.keyboard.press('Escape')
  })

  it('is legible at night too', async () => {
    await bench.page.keyboard.press('n')
    expect(await bench.breaches()).toEqual([])
    await bench.turnTo('b', '/bench')
    await bench.sees('Last edits')
    expect(await bench.breaches()).toEqual([])
    await bench.page.keyboard.press('n')
  })

  it('keeps other tabs up to date', async () => {
    const other = await bench.browser.newPage()
    await other.goto(`${app.address}/bench`)
    await bench.page.bringToFront()
    await bench.turnTo('m', '/mirror')
    await bench.click('[data-part="bow-left"] .worked')
    await bench.click('[data-station="part"]')
    await bench.page.waitForSelector('[aria-label="Edit lamp"] input')
    await bench.page.click('[aria-label="Edit lamp"] input', { count: 3 })
    await bench.page.keyboard.type('Fore left')
    await bench.page.keyboard.press('Enter')
    await bench.sees('Fore left', 'aside h2')
    await until('the other tab tells of it', () =>
      other.evaluate(() => document.body.innerText.includes('Renamed “Bow left” to “Fore left”')),
    )
    await other.close()
  })

  it('finds the rig as it was left after stopping and starting everything', async () => {
    await app.stop()
    expect(app.exitCode).toBe(0)
    await bench.sees('The hub is away')
    craft.close()
    await app.start()
    expect(app.output).toContain('is ready:')
    expect(app.output).not.toContain('Building')
    craft = await new CraftSide(await app.craftPort()).open()
    // The page recovers by itself.
    await bench.seesNo('The hub is away')
    await bench.sees('Fore left', 'section[aria-label="Craft says"]')
    await until('the lever is where the hand left it', async () =>
      bench.page.evaluate(
        () =>
          document.querySelector('[data-part="wheel-lever"] .worked')?.getAttribute('aria-valuetext') ===
          'DN',
      ),
    )
    await until('undo still knows', async () =>
      bench.page.evaluate(() => document.querySelector('[aria-label^="Undo: Renamed"]') !== null),
    )
    await bench.click('[aria-label^="Undo: Renamed"]')
    await bench.sees('Bow left', 'section[aria-label="Craft says"]')
    expect(bench.errors).toEqual([])
  })
})
