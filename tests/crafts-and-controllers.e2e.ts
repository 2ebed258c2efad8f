import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, type CraftSide, pause, until } from './app'
import type { Bench } from './browser'
import { borrowOnMirror, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

beforeAll(async () => {
  ;({ app, craft, bench } = await borrowOnMirror())
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

  it('what has nothing like it there is copied without its name, and a hunt begins from it', async () => {
    await openSets()
    await bench.clickWords('Copy into it', '[role="dialog"] button')
    const panels = await bench.page.$$eval('select[aria-label="Panel to copy"] option', (all) =>
      all.map((o) => [(o as HTMLOptionElement).value, o.textContent ?? '']),
    )
    const wheels = panels.find(([, name]) => name === 'Wheels & floats')?.[0] ?? ''
    await bench.page.select('select[aria-label="Panel to copy"]', wheels)
    await bench.sees('to be found later', '[aria-label="Names for the new craft"]')
    await bench.sees('for what a hunt finds', '[role="dialog"]')
    await bench.clickWords('Copy ', '[role="dialog"] button[data-strong="true"]')
    await bench.sees('wait for a name', '[role="dialog"]')
    expect(await bench.breaches()).toEqual([])
    await bench.clickWords('Bilge pump left · hunt', '[role="dialog"] button')
    await bench.page.waitForFunction(() => location.pathname === '/scope')
    await until('the hunt is for it', async () =>
      /Bilge pump left/.test(await bench.text('[aria-label="Scope"]')),
    )
    // The copies would stand in place of what the next tests work with.
    for (let i = 0; i < 2; i++) {
      await bench.page.keyboard.down('Control')
      await bench.page.keyboard.press('z')
      await bench.page.keyboard.up('Control')
      await pause(200)
      if ((await bench.page.$('[aria-label^="Undo: Copied"]')) === null) break
    }
  })

  it('the same knob does its other job as soon as another set holds', async () => {
    await bench.page.goto(`${app.address}/mirror`)
    await bench.sees('Craft says')
    const panels = await bench.page.$$eval('select option', (all) =>
      all.map((o) => [(o as HTMLOptionElement).value, o.textContent ?? '']),
    )
    await bench.page.select('select', panels.find(([, n]) => n?.includes('Flight director'))?.[0] ?? '')
    const strip = '[aria-label="Signal path"]'
    const knob = '[data-part="altitude-knob"] .worked'
    const hold = async (set: string, words: string) => {
      await bench.page.keyboard.down('Control')
      await bench.page.keyboard.press('k')
      await bench.page.keyboard.up('Control')
      await bench.page.waitForSelector('[cmdk-input]')
      await bench.page.keyboard.type('Craft sets')
      await bench.page.keyboard.press('Enter')
      await bench.sees('One panel serves several craft', '[role="dialog"]')
      await choose(set)
      await bench.sees(words, '[role="dialog"]')
      await bench.leaveForm()
    }
    await hold('none', 'What is for every craft')
    await bench.focus(knob)
    await bench.sees('ap.altitude.target', strip)
    const chip = `${strip} select[aria-label="For which craft"]`
    const options = await bench.page.$$eval(`${chip} option`, (all) =>
      all.map((o) => [(o as HTMLOptionElement).value, o.textContent ?? '']),
    )
    await bench.page.select(chip, options.find(([, w]) => w === 'a copy for Torsk')?.[0] ?? '')
    await bench.sees('others for Torsk', strip)
    await hold('by craft', 'Torsk holds now')
    await until('the copy is on the path', async () =>
      (await bench.text(strip)).includes('others for every craft'),
    )
    await bench.focus(knob)
    await bench.page.keyboard.press('v')
    await bench.page.waitForSelector('input[role="combobox"]')
    await bench.page.keyboard.type('ap.vertical.target')
    await bench.sees('ap.vertical.target', '[role="option"]')
    await bench.page.keyboard.press('Enter')
    await bench.sees('ap.vertical.target', strip)
    const turn = async () => {
      const before = {
        altitude: craft.value('ap.altitude.target'),
        vertical: craft.value('ap.vertical.target'),
      }
      await bench.focus(knob)
      await bench.page.keyboard.press('ArrowUp')
      await until(
        'something has been turned',
        () =>
          craft.value('ap.altitude.target') !== before.altitude ||
          craft.value('ap.vertical.target') !== before.vertical,
      )
      await pause(300)
      return {
        altitude: craft.value('ap.altitude.target') - before.altitude,
        vertical: craft.value('ap.vertical.target') - before.vertical,
      }
    }
    expect(await turn()).toEqual({ altitude: 0, vertical: 100 })
    await hold('none', 'What is for every craft')
    expect(await turn()).toEqual({ altitude: 100, vertical: 0 })
    await hold('by craft', 'Torsk holds now')
    expect(await turn()).toEqual({ altitude: 0, vertical: 100 })
    await hold('none', 'What is for every craft')
  })
})

describe('a bought controller', () => {
  const sheet = '[role="dialog"]'
  const proposal = '[data-proposal="B1 B2"]'
  const throwTo = async (name: string, words: string) => {
    await bench.clickWords(words, `[role="radiogroup"][aria-label="${name}"] button`)
    await pause(350)
  }

  it('shows what is touched, and its raw value, before anything is a part', async () => {
    await bench.openConnections()
    await bench.clickWords('Simulated throttle quadrant', '[aria-label="Add a connection"] button')
    await bench.sees('6 buttons, 4 axes', sheet)
    await bench.focus('input[aria-label="Power left"]')
    for (let i = 0; i < 10; i++) await bench.page.keyboard.press('ArrowRight')
    await bench.sees('X', '[aria-label="Touched last"]')
    const raw = async () => Number(/X (\d+)/.exec(await bench.text('[data-input="X"]'))?.[1])
    // 0.05 of 65,535, but for the trembling of its track.
    await until('its level is there', async () => Math.abs((await raw()) - 3277) < 8)
    expect(await bench.page.$eval('[data-input="X"]', (e) => (e as HTMLElement).dataset.touched)).toBe('true')
    expect(await bench.breaches()).toEqual([])
    await bench.leaveForm()
  })

  it('a toggle of two buttons is proposed as one switch, with names for its positions', async () => {
    await bench.openConnections()
    await bench.clickWords('Simulated switch box', '[aria-label="Add a connection"] button')
    await bench.sees('16 buttons', sheet)
    for (const words of ['up', 'down', 'up', 'down']) await throwTo('Toggle 1', words)
    await bench.page.waitForSelector(proposal)
    await bench.click(`${proposal} input[aria-label="Name of the switch"]`)
    await bench.page.keyboard.type('Pump of the box')
    await bench.page.keyboard.press('Tab')
    await bench.page.keyboard.press('Tab')
    await bench.page.keyboard.type('pump off')
    await bench.page.keyboard.press('Tab')
    await bench.page.keyboard.type('pump on')
    expect(await bench.breaches()).toEqual([])
    await bench.clickWords('Make it one switch', `${proposal} button`)
    await bench.sees('Pump of the box', '[data-input="B1"]')
    await bench.sees('Pump of the box', '[data-input="B2"]')
    await until('it is proposed no longer', async () => (await bench.page.$(proposal)) === null)
    await bench.clickWords('Take the other 14 as parts', `${sheet} button`)
    await bench.sees('each is a part of the rig', sheet)
    await bench.clickWords('Pump of the box', '[data-input="B1"] button')
    await bench.sees('Pump of the box', 'aside h2')
  })

  it('is bound and follows like any other part, and either end of the switch says its name', async () => {
    await bench.page.keyboard.press('v')
    await bench.page.waitForSelector('input[role="combobox"]')
    const name = 'floats.bilge.left.switch'
    await bench.page.keyboard.type(name)
    await bench.sees(name, '[role="option"]')
    await bench.page.keyboard.press('Enter')
    await bench.sees(name, '[aria-label="Signal path"]')
    expect(await bench.text('[aria-label="Signal path"]')).toContain('B1')
    const work = async (words: string, wanted: number) => {
      await bench.openConnections()
      await bench.clickWords('Simulated switch box', 'ul[aria-label="Connections"] button')
      await bench.clickWords('What can be worked on it', `${sheet} button`)
      await throwTo('Toggle 1', words)
      await until(`the pump is ${words}`, () => craft.value(name) === wanted)
      await bench.leaveForm()
    }
    await work('up', 1)
    await bench.sees('pump on', '[aria-label="Signal path"]')
    await work('down', 0)
    await bench.sees('pump off', '[aria-label="Signal path"]')
    // Left to the simulator, it moves nothing, and its path says why.
    await bench.page.select('select[aria-label="Who acts on it"]', 'simulator')
    await bench.sees('left to the simulator', '[aria-label="Signal path"]')
    await bench.openConnections()
    await bench.clickWords('Simulated switch box', 'ul[aria-label="Connections"] button')
    await bench.clickWords('What can be worked on it', `${sheet} button`)
    await throwTo('Toggle 1', 'up')
    await pause(300)
    expect(craft.value(name)).toBe(0)
    await bench.leaveForm()
  })

  it('its axis is calibrated like any other lever, in all its parts', async () => {
    await bench.page.goto(`${app.address}/mirror`)
    await bench.sees('Craft says')
    await bench.openConnections()
    await bench.clickWords('Simulated throttle quadrant', 'ul[aria-label="Connections"] button')
    await bench.clickWords('What can be worked on it', `${sheet} button`)
    await bench.clickWords('Take all as parts', `${sheet} button`)
    await bench.sees('each is a part of the rig', sheet)
    // What it is now is asked of its line once that has become a part's.
    await until('the sheet has given way to the part', async () => {
      await bench.clickWords('Z', '[data-input="Z"] button')
      await pause(400)
      return (await bench.page.$(sheet)) === null
    })
    await bench.sees('SLIDE POT', 'aside')
    await bench.turnTo('k', '/calibrate')
    await bench.sees('Push it all the way forward.')
    // The hand is on the axis itself, through the device's own events.
    const { x, y, height } = await bench.middleOf('.worked')
    const to = async (share: number) =>
      bench.page.mouse.move(x, y + height * (0.43 - 0.86 * share), { steps: 8 })
    await to(0)
    await bench.page.mouse.down()
    await to(1.06)
    await bench.seesNo('Push it all the way forward.')
    await to(-0.06)
    await bench.sees('To its middle, and hands off.')
    await bench.page.mouse.up()
    // From it to a lever of the panel and back: only the panel's own can be made like another.
    const itself = 'section[aria-label="The part itself"]'
    const list = 'ul[aria-label="Parts"] button'
    const name = await bench.text('[data-selected="true"] h2, aside h2')
    await bench.clickWords('Power lever left', list)
    await bench.sees('Simulated. It is really', itself)
    await bench.clickWords(name, list)
    await bench.seesNo('Simulated. It is really', itself)
    await bench.sees(name, 'section[aria-label="Calibrate"] > div')
    expect(bench.errors).toEqual([])
    await bench.turnTo('m', '/mirror')
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
      'the display tells of the course and the run',
      async () => (await shown()).includes('Brant Ridge') && /RUN \d OF 3/.test(await shown()),
      30_000,
    )
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
