import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, type CraftSide, until } from './app'
import type { Bench } from './browser'
import { beginOnMirror, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

beforeAll(async () => {
  ;({ app, craft, bench } = await beginOnMirror())
})

afterAll(() => endSession({ app, craft, bench }))

const fill = async (label: string, text: string): Promise<void> => {
  await bench.click(`[role="dialog"] input[aria-label="${label}"]`)
  await bench.page.keyboard.down('Control')
  await bench.page.keyboard.press('a')
  await bench.page.keyboard.up('Control')
  await bench.page.keyboard.type(text)
  await bench.page.keyboard.press('Enter')
}

const openSets = async (): Promise<void> => {
  await bench.page.goto(`${app.address}/paths`)
  await bench.page.waitForSelector('[data-entry]')
  await bench.clickWords('Craft sets', '[aria-label="Paths"] button')
  await bench.sees('One panel serves several craft', '[role="dialog"]')
}

const choose = (value: string) => bench.page.select('select[aria-label="How the set is chosen"]', value)

describe('several craft on one panel', () => {
  it('a set is begun by copying what is for every craft, with names that are alike', async () => {
    await bench.openConnections()
    await bench.clickWords('Simulated truck', '[aria-label="Add a connection"] button')
    await bench.sees('Torsk R4', 'ul[aria-label="Connections"]')
    await bench.leaveForm()
    await openSets()
    await bench.clickWords('New craft set', '[role="dialog"] button')
    await fill('Name of the craft set', 'Torsk')
    await fill('Crafts of Torsk', 'torsk *')
    await bench.sees('Torsk holds now', '[role="dialog"]')
    await bench.clickWords('Copy into it', '[role="dialog"] button')
    const panels = await bench.page.$$eval('select[aria-label="Panel to copy"] option', (all) =>
      all.map((o) => [(o as HTMLOptionElement).value, o.textContent ?? '']),
    )
    await bench.page.select(
      'select[aria-label="Panel to copy"]',
      panels.find(([, name]) => name === 'Engines')?.[0] ?? '',
    )
    const proposed = 'select[aria-label="Name for engine.left.propeller.speed"]'
    await until(
      'the engine’s speed is proposed',
      async () =>
        (await bench.page.$eval(proposed, (e) => (e as HTMLSelectElement).value)) === 'truck.engine.speed',
    )
    expect(
      await bench.page.$eval(
        'select[aria-label="Name for elec.bus.main.live"]',
        (e) => (e as HTMLSelectElement).value,
      ),
    ).toBe('-')
    expect(await bench.breaches()).toEqual([])
    await bench.clickWords('Copy ', '[role="dialog"] button[data-strong="true"]')
    await bench.sees('≠', '[aria-label="Two sets side by side"]')
    await bench.sees('← truck.engine.speed', '[aria-label="Two sets side by side"]')
    await bench.sees('← engine.left.propeller.speed', '[aria-label="Two sets side by side"]')
  })

  it('the same needle shows the one craft and then the other, and its path says for which it holds', async () => {
    const part = await bench.page.evaluate(
      () =>
        [...document.querySelectorAll<HTMLElement>('[data-compared]')].find((e) =>
          e.innerText.includes('truck.engine.speed'),
        )?.dataset.compared,
    )
    await choose('none')
    await bench.sees('What is for every craft', '[role="dialog"]')
    await bench.clickWords('≠', `[data-compared="${part}"] button`)
    const _path = `[data-path^="${part}"], [data-path]`
    await until('it reads the propeller', async () =>
      (await bench.text('[aria-label="Signal path"]')).includes('engine.left.propeller.speed'),
    )
    await bench.sees('others for Torsk', '[aria-label="Signal path"]')
    expect(
      await bench.page.$eval(
        '[aria-label="Signal path"] select[aria-label="For which craft"]',
        (e) => (e as HTMLSelectElement).value,
      ),
    ).toBe('every')
    await bench.clickWords('others for Torsk', '[aria-label="Signal path"] button')
    await choose('by craft')
    await bench.sees('Torsk holds now', '[role="dialog"]')
    await bench.leaveForm()
    await until('it reads the truck', async () =>
      (await bench.text('[aria-label="Signal path"]')).includes('truck.engine.speed'),
    )
    await until(
      'its value moves',
      async () =>
        Number(
          /([\d.,]+) rpm/.exec(await bench.text('[aria-label="Signal path"]'))?.[1]?.replace(/\D/g, ''),
        ) > 0,
    )
    expect(
      await bench.page.$eval(
        'select[aria-label="For which craft"]',
        (e) => (e as HTMLSelectElement).selectedOptions[0]?.textContent,
      ),
    ).toBe('only Torsk')
  })

  it('a button does its other job as soon as another set holds, and is seen doing it', async () => {
    // The horn button has nothing yet; for the truck it is bound to something of the craft that is easily seen.
    await bench.page.goto(`${app.address}/paths`)
    await bench.page.waitForSelector('[data-entry]')
    await bench.click('input[aria-label="Search paths"]')
    await bench.page.keyboard.type('bilge pump left')
    await until('there it is', async () => (await bench.page.$$('[data-entry]')).length > 0)
    const [entry] = await bench.page.$$eval('[data-entry]', (rows) =>
      rows.map((r) => r.getAttribute('data-entry') ?? ''),
    )
    await bench.click(`[data-entry="${entry}"] button`)
    await bench.page.waitForSelector('[aria-label="Signal path"] select[aria-label="For which craft"]')
    const options = await bench.page.$$eval(
      '[aria-label="Signal path"] select[aria-label="For which craft"] option',
      (all) => all.map((o) => [(o as HTMLOptionElement).value, o.textContent ?? '']),
    )
    await bench.page.select(
      '[aria-label="Signal path"] select[aria-label="For which craft"]',
      options.find(([, w]) => w === 'only Torsk')?.[0] ?? '',
    )
    await bench.page.waitForSelector('[aria-label^="Undo: A binding holds only for Torsk"]')
    await openSets()
    await choose('none')
    await bench.sees('What is for every craft', '[role="dialog"]')
    await bench.leaveForm()
    await bench.click('input[aria-label="Search paths"]')
    await bench.page.keyboard.type('bilge pump left')
    await until('it says for which craft it holds', async () =>
      (await bench.text('[aria-label="Paths"]')).includes('only while Torsk is flown'),
    )
  })
})

describe('the truck’s dashboard', () => {
  /** The words of the panel as they are drawn. */
  const shown = () => bench.text('body')

  it('tells the course, the run among its runs and the clock as soon as it is armed', async () => {
    await bench.page.goto(`${app.address}/bench`)
    await bench.openConnections()
    await bench.leaveForm()
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('k')
    await bench.page.keyboard.up('Control')
    await bench.page.waitForSelector('[cmdk-input]')
    await bench.page.keyboard.type('Rigs: begin')
    await bench.page.keyboard.press('Enter')
    await bench.clickWords('The truck, fresh', '[role="dialog"] button')
    await bench.sees('Torsk R4 dashboard', 'body')
    await bench.page.goto(`${app.address}/mirror`)
    await bench.page.waitForSelector('[data-part="revs"]')
    // Another rig begins held.
    const arm = 'button[role="switch"][aria-label="Armed"]'
    const armed = () => bench.page.$eval(arm, (b) => b.getAttribute('aria-checked') === 'true')
    if (!(await armed())) await bench.click(arm)
    await until('it is armed', armed)
    await until(
      'the display tells of the course',
      async () => (await shown()).includes('Brant Ridge'),
      30_000,
    )
    expect(await shown()).toMatch(/RUN \d OF 3/)
    await until('the clock runs', async () => /\d:\d\d\.\d/.test(await shown()), 20_000)
  })

  it('leaves the total out where it makes no sense', async () => {
    await bench.openConnections()
    await bench.clickWords('Simulated truck', 'ul[aria-label="Connections"] button')
    await bench.page.select('select[aria-label="Session"]', 'practice')
    await until('a practice has no number of runs', async () => (await shown()).includes('PRACTICE'))
    expect(await shown()).not.toMatch(/RUN \d OF/)
    await bench.leaveForm()
  })
})
