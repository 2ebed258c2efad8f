import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, type CraftSide, until } from './app'
import type { Bench } from './browser'
import { borrowSession, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

beforeAll(async () => {
  ;({ app, craft, bench } = await borrowSession('/paths'))
  await bench.page.waitForSelector('[data-entry]')
})

afterAll(() => endSession({ app, craft, bench }))

const shown = () => bench.page.$$eval('[data-entry]', (rows) => rows.map((r) => r.getAttribute('data-entry')))
const stopOf = (entry: string) =>
  bench.page.$eval(`[data-entry="${entry}"]`, (e) => e.getAttribute('data-stop'))

describe('Paths', () => {
  it('shows every path with its live value and where it stops', async () => {
    // Only the rows in sight are made; the count says how many there are.
    expect((await shown()).length).toBeGreaterThan(15)
    await bench.sees('171 OF 171')
    await until('values are live', async () =>
      (await bench.text('[data-entry="wheel-lever-1"]')).includes('UP → up'),
    )
    expect(await stopOf('none horn-off press')).toBe('nothing bound yet')
    expect(await bench.breaches()).toEqual([])
    craft.set('gear.lever', 2)
    await until('a value follows the craft', async () =>
      (await bench.text('[data-entry="wheel-lever-1"]')).includes('down'),
    )
  })

  it('finds as one types, by part, pin and variable', async () => {
    await bench.click('input[aria-label="Search paths"]')
    await bench.page.keyboard.type('bilge lamp')
    await until('two are left', async () => (await shown()).length === 2)
    expect(await bench.page.$$eval('[data-entry] mark', (m) => m.length)).toBeGreaterThan(0)
  })

  it('turns those marked off and on again in one edit each', async () => {
    await bench.click('input[aria-label="Mark all that are shown"]')
    await bench.clickWords('Turn off')
    await until(
      'both say so',
      async () =>
        (await stopOf('bilge-lamp-left-1')) === 'binding is off' &&
        (await stopOf('bilge-lamp-right-1')) === 'binding is off',
    )
    await bench.page.waitForSelector('[aria-label="Undo: Turned 2 bindings off"]')
    await bench.click('[aria-label="Undo: Turned 2 bindings off"]')
    await until(
      'both flow',
      async () => (await stopOf('bilge-lamp-left-1')) === '' && (await stopOf('bilge-lamp-right-1')) === '',
    )
  })

  it('changes names of many at once, after showing what would become of them', async () => {
    await bench.page.select('select[aria-label="What to change"]', 'names')
    await bench.click('input[aria-label="In names, replace"]')
    await bench.page.keyboard.type('.current')
    await bench.click('input[aria-label="By"]')
    await bench.page.keyboard.type('.amperes')
    await bench.sees('This craft has no “floats.bilge.left.amperes”.')
    await bench.page.click('input[aria-label="By"]', { count: 3 })
    await bench.page.keyboard.type('.flow')
    await bench.sees('2 of 2 would change')
    await bench.clickWords('Change')
    await until('both follow the flow', async () =>
      (await bench.text('[data-entry="bilge-lamp-right-1"]')).includes('floats.bilge.right.flow'),
    )
    await bench.click('[aria-label="Undo: Changed the names of 2 bindings"]')
    await until('both follow the current', async () =>
      (await bench.text('[data-entry="bilge-lamp-right-1"]')).includes('floats.bilge.right.current'),
    )
  })

  it('goes to whatever is operated on the panel, when told to follow it', async () => {
    const other = await bench.browser.newPage()
    await other.goto(`${app.address}/mirror`)
    await other.waitForSelector('[data-part="water-rudder"] .worked')
    const work = async () => {
      await other.bringToFront()
      await other.$eval('[data-part="water-rudder"] .worked', (e) => (e as SVGElement).focus())
      await other.keyboard.press('Space')
      await bench.page.bringToFront()
    }
    await bench.click('button[aria-label="Follow the panel"]')
    await work()
    await bench.sees('Water rudder', 'aside h2')
    await bench.click('button[aria-label="Follow the panel"]')
    await other.close()
  })

  it('selects the part everywhere, and is legible at night', async () => {
    await bench.click('[data-entry="bilge-lamp-left-1"] button')
    await bench.sees('Bilge lamp left', 'aside h2')
    await until('its path is on the strip', async () =>
      (await bench.station('simulator')).includes('floats.bilge.left.current'),
    )
    await bench.page.keyboard.press('n')
    await until('it is night', () =>
      bench.page.evaluate(() => document.documentElement.dataset.theme === 'night'),
    )
    expect(await bench.breaches()).toEqual([])
    expect(bench.errors).toEqual([])
  })
})
