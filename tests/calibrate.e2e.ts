import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, type CraftSide, pause, until } from './app'
import { Bench } from './browser'
import { borrowOnMirror, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

beforeAll(async () => {
  ;({ app, craft, bench } = await borrowOnMirror())
  await bench.turnTo('k', '/calibrate')
})
afterAll(() => endSession({ app, craft, bench }))

const ITSELF = 'section[aria-label="The part itself"]'
const says = () => bench.text('section[aria-label="Calibrate"] [role="status"]')
const asks = (words: string) => until(`it asks: ${words}`, async () => (await says()).includes(words), 25_000)
const measure = async (kind: string, name: string): Promise<void> => {
  await bench.clickWords(kind, '[role="radio"]')
  await bench.clickWords(name, 'ul[aria-label="Parts"] button')
  await bench.sees(name, 'section[aria-label="Calibrate"] > div')
}
/** Makes the simulated part like one of those that are offered. */
const beLike = async (words: string): Promise<void> => {
  const select = 'select[aria-label="What the simulated part is like"]'
  const value = await bench.page.$$eval(
    `${select} option`,
    (list, w) => list.find((o) => o.textContent === w)?.getAttribute('value') ?? '',
    words,
  )
  await bench.page.select(select, value)
  // Hands move another part once hub and stand-ins have the edit.
  await until('it is kept', () => bench.page.$('[data-edits-under-way="0"]'))
  await bench.sees('Simulated. It is really', ITSELF)
  await pause(250)
}
const hand = (role: string) =>
  bench.page.$eval(`${ITSELF} [role="${role}"]`, (e) => (e as unknown as HTMLElement).focus())
const keys = async (key: string, times = 1, ms = 40): Promise<void> => {
  for (let i = 0; i < times; i++) {
    await bench.page.keyboard.press(key as 'End')
    await pause(ms)
  }
}
const leverAt = () =>
  bench.page.$eval(`${ITSELF} [role="slider"]`, (e) => Number(e.getAttribute('aria-valuenow')))
const nearTo = async (percent: number) => Math.abs(percent - (await leverAt())) < 1
/** The lever to a place of its travel, in percent, by its keys: all at once, so that it rests nowhere on the way, or one by one. */
const leverTo = async (percent: number, quick = true): Promise<void> => {
  await hand('slider')
  const { keyboard } = bench.page
  // A slow machine may take long for a whole travel.
  for (let tries = 0; tries < 20; tries++) {
    if (await nearTo(percent)) {
      // What was pressed last may be on its way yet: a hand looks whether it rests.
      if (quick) await pause(150)
      if (await nearTo(percent)) return
    }
    const by = percent - (await leverAt())
    const steps = Math.abs(Math.round(by / 2))
    const way = by > 0 ? 'Up' : 'Down'
    if (!quick) {
      // Step by step, each once the one before is done: a page that stood still meanwhile would make a leap of several.
      for (let i = 0; i < steps; i++) {
        const was = await leverAt()
        await keys(`Arrow${way}`)
        await until('it has moved', async () => (await leverAt()) !== was, 1500).catch(() => {})
      }
      continue
    }
    const pages = Math.floor(steps / 5)
    const pressed = Array.from({ length: steps - 4 * pages }, (_, i) =>
      keyboard.press(i < pages ? `Page${way}` : `Arrow${way}`),
    )
    await Promise.all(pressed)
    await until('it is there', () => nearTo(percent), 1500).catch(() => {})
  }
  throw new Error(`the lever does not come to ${percent} %, but stays at ${await leverAt()} %`)
}

describe('a power lever with reverse, noisy and with uneven ends', () => {
  const given = () => craft.value('engine.left.power.lever')

  it('gives neither full power nor full reverse before it is measured', async () => {
    await measure('Levers', 'Power lever left')
    await bench.sees('now 2', 'section[aria-label="Calibrate"]')
    // Whoever makes it like another may be slow.
    app.signal('standins', 'SIGSTOP')
    const made = beLike('Noisy, with uneven ends')
    await bench.sees('Simulated. It is being made', ITSELF)
    await pause(600)
    app.signal('standins', 'SIGCONT')
    await made
    // It gives something else now, and trembles; no hand has moved it.
    await pause(1800)
    expect(await says()).toContain('Push it all the way forward')
    await hand('slider')
    await keys('End')
    await until('it gives less than all', () => given() > 0.8 && given() < 0.95)
  })

  it('is led through ends, noise, the edges of its bands and its whole travel, each taken by itself', async () => {
    // It was pushed forward above, and rests there.
    await asks('Pull it all the way back')
    await hand('slider')
    await keys('Home')
    await asks('To its middle')
    await leverTo(50)
    await asks('Rest it where reverse ends')
    await leverTo(20)
    await asks('Rest it where idle ends')
    // Standing where it was taken is no second place.
    await bench.sees('once it has moved and')
    await leverTo(30)
    await asks('Slowly from end to end')
    await leverTo(0, false)
    await leverTo(100, false)
    await leverTo(0, false)
    await asks('It is measured')
    await bench.sees('whole', 'dl')
    await bench.sees('Measured a moment ago on Pedestal board A0')
  })

  it('then gives all from end to end, and reverse and idle where the hand showed them', async () => {
    await bench.clickWords('Load Pedestal board')
    await until('the board is loaded', async () => (await app.health()).body.ok === true)
    await hand('slider')
    await keys('Home')
    await until('full reverse', () => Math.abs(given() + 0.3) < 0.006)
    await keys('End')
    await until('full power', () => Math.abs(given() - 1) < 0.006)
    // Each press counts, however quickly they follow each other.
    await Promise.all(Array.from({ length: 10 }, () => bench.page.keyboard.press('ArrowDown')))
    await until('ten steps of 2 %', async () => Math.abs((await leverAt()) - 80) <= 1)
    await leverTo(26)
    await until('idle', () => given() === 0)
    await leverTo(10)
    await until('half reverse', () => Math.abs(given() + 0.15) < 0.02)
  })

  it('has edges that are dragged, moved by keys and taken where the lever stands', async () => {
    const edge = 'g[role="slider"][aria-label="Where reverse ends and idle begins"]'
    const at = () => bench.page.$eval(edge, (e) => Number(e.getAttribute('aria-valuenow')))
    const before = await at()
    await bench.page.$eval(edge, (e) => (e as unknown as HTMLElement).focus())
    await keys('ArrowUp', 2)
    await until('it has moved by two percent', async () => Math.abs((await at()) - before - 2) < 0.02)
    await leverTo(14)
    // A hand rests before it takes an edge: what the lever tells is on its way to the page for a moment.
    await pause(300)
    await bench.page.$eval(edge, (e) => (e as unknown as HTMLElement).focus())
    await keys('Enter')
    // Though the lever trembles by two percent: it is taken in the middle of that.
    await until('it is where the lever stands', async () => Math.abs((await at()) - 14) < 1)
    // It is held by its neighbour, however far it is dragged.
    const from = await bench.middleOf(edge)
    await bench.dragWhileBusy(from, { x: from.x + 300, y: from.y })
    await until('it stops at its neighbour', async () => Math.abs((await at()) - 30) < 1.6)
  })
})

describe('two levers that are moved together', () => {
  it('are matched, and give the same from then on', async () => {
    await measure('Levers', 'Propeller lever left')
    await beLike('Exchanged ends, bent')
    // By hand: a lever that goes the other way is turned round first.
    await bench.click('dl input[type="checkbox"]')
    await until('it is kept', () => bench.page.$('[data-edits-under-way="0"]'))
    await bench.page.select('section[aria-label="Its twin"] select', 'propeller-lever-right')
    await bench.sees('Move both together', 'section[aria-label="Its twin"]')
    // The other hand is on its twin, in a browser of its own: keys come late to a window that is not in front.
    const elsewhere = await Bench.open(`${app.address}/mirror`)
    const other = elsewhere.page
    const twin = '[data-part="propeller-lever-right"] [role="slider"]'
    await other.waitForSelector('select[aria-label="Panel"]')
    await other.select('select[aria-label="Panel"]', 'power-levers')
    await other.waitForSelector(twin)
    const push = async (key: 'Home' | 'ArrowUp', times: number): Promise<void> => {
      await other.$eval(twin, (e) => (e as unknown as HTMLElement).focus())
      for (let i = 0; i < times; i++) {
        await other.keyboard.press(key)
        await pause(40)
      }
    }
    await push('Home', 1)
    for (let percent = 0; percent <= 100; percent += 6) {
      await leverTo(percent)
      if (percent > 0) await push('ArrowUp', 3)
    }
    await elsewhere.close()
    await bench.sees('% apart at the same place', 'section[aria-label="Its twin"]')
    const [, apart] = /Up to ([\d.]+) %/.exec(await bench.text('section[aria-label="Its twin"]')) ?? []
    expect(Number(apart)).toBeGreaterThan(5)
    await bench.clickWords('Match it to Propeller lever right')
    await bench.sees('Match it no more')
  })
})

describe('a knob of an unusual kind', () => {
  const target = () => craft.value('ap.heading.target')
  const counter = () => bench.text('[data-counter]')
  const turn = async (clicks: number, ms = 70): Promise<void> => {
    await hand('spinbutton')
    await keys(clicks > 0 ? 'ArrowUp' : 'ArrowDown', Math.abs(clicks), ms)
  }

  it('counts a quarter, and the wrong way, before it is measured', async () => {
    await measure('Encoders', 'Heading knob')
    await beLike('One change a click, turned round')
    craft.set('ap.heading.target', 100)
    await until('the craft has it', () => target() === 100)
    await turn(4)
    await until('four clicks were one, to the left', () => target() === 99)
  })

  it('is found out by ten clicks there and ten back, and a counter that reads zero', async () => {
    await asks('Turn it ten clicks clockwise')
    // What it was turned to be felt is no part of the ten.
    await bench.sees('Slowly, one click after the other')
    await turn(10)
    await asks('Now ten clicks back')
    await turn(-10)
    await asks('There and back')
    await bench.sees('10 and 10', 'dl')
    await turn(5)
    await until('it counts five', async () => (await counter()) === '5')
    await turn(-5)
    await asks('it counts')
  })

  it('then counts as it is turned', async () => {
    const before = target()
    // Slowly: quick turning is coarse.
    await turn(3, 250)
    await until('three clicks are three', () => (target() - before + 360) % 360 === 3)
    await turn(-3, 250)
    await until('and back', () => target() === before)
  })
})

describe('a button whose contacts have worn', () => {
  const press = async (times: number): Promise<void> => {
    await hand('button')
    for (let i = 0; i < times; i++) {
      await bench.page.keyboard.down('Space')
      await pause(90)
      await bench.page.keyboard.up('Space')
      await pause(90)
    }
  }

  it('is pressed ten times: its bounces are seen, and its debounce outlasts them', async () => {
    await measure('Buttons', 'Horn off')
    await beLike('Contacts that bounce long')
    await press(11)
    await asks('It is measured')
    const figure = await bench.text('dl')
    const [, longest] = /Bounces for up to ([\d.]+) ms/.exec(figure) ?? []
    const [, still] = /Has to be still for (\d+) ms/.exec(figure) ?? []
    expect(Number(longest)).toBeGreaterThan(5)
    expect(Number(longest)).toBeLessThan(14)
    expect(Number(still)).toBeGreaterThan(Number(longest))
    await bench.clickWords('Load Stern board')
    await until('the board is loaded', async () => (await app.health()).body.ok === true)
  })

  it('is one step of undo', async () => {
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('z')
    await bench.page.keyboard.up('Control')
    await bench.sees('Has to be still for 6 ms', 'dl')
    await bench.sees('Not measured yet')
    await bench.clickWords('Load Stern board')
    await until('the board is loaded', async () => (await app.health()).body.ok === true)
  })
})

describe('a torque needle', () => {
  const needle = () =>
    bench.page.$eval('svg g[data-needle="needle"]', (e) => Number(e.getAttribute('data-deg')))
  const load = async () => {
    await bench.clickWords('Load Pedestal board')
    await bench.seesNo('Load Pedestal board', 'section[aria-label="Calibrate"]')
  }
  /** Its motor has found its stop, has gone to where it is told, and rests there. */
  const standsAt = (deg: number, within = 1) =>
    until(`it stands at ${deg}°`, async () => {
      const now = await needle()
      await pause(300)
      return Math.abs(now - deg) < within && (await needle()) === now
    })

  it('whose motor turns the other way is cured in settings, by what is seen of it', async () => {
    await measure('Needles', 'Torque left')
    await beLike('One coil turned round')
    await asks('It is told to turn forwards')
    await bench.clickWords('It turns the other way')
    await load()
    await bench.sees('turned', 'dl')
    await asks('It is told to turn forwards')
    await until('it is seen to go forwards', async () => (await needle()) > 10)
    await asks('It is told to turn back')
    await until('and back', async () => (await needle()) < -10)
  })

  it('that was pressed on askew is brought onto its marks', async () => {
    await beLike('Needle pressed on askew')
    await bench.clickWords('It turns the other way')
    await load()
    await bench.clickWords('It does as told')
    await asks('Bring it onto the mark of 0')
    await standsAt(-121, 1.6)
    await keys('ArrowDown', 1)
    await standsAt(-126, 1.6)
    // A step, and a look at where it stands then.
    for (let tries = 0; tries < 30 && (await needle()) > -129.6; tries++) await keys('ArrowLeft', 1, 220)
    await standsAt(-130)
    await bench.page.keyboard.press('Enter')
    await asks('Bring it onto the mark of 120')
    // Its play: it hangs behind on the way up.
    await standsAt(134, 2)
    await bench.page.keyboard.press('Enter')
  })

  it('has a face of its own points, that says what finds no room and is printed as it is seen', async () => {
    await bench.clickWords('Dial face', '[role="radio"]')
    const face = 'section[aria-label="Dial face"]'
    await bench.page.type(`${face} input[placeholder="auto"]`, '5')
    await bench.page.keyboard.press('Enter')
    await bench.sees('Not all numbers find room at every 5: every 20 does it.', face)
    await bench.page.click(`${face} input`, { count: 3 })
    await bench.page.keyboard.press('Backspace')
    await bench.page.keyboard.press('Enter')
    await bench.seesNo('Not all numbers', face)
    await bench.clickWords('More words', `${face} button`)
    await bench.sees('WORDS', 'section[aria-label="Calibrate"]')
    expect(await bench.breaches()).toEqual([])
    await until('it is kept', () => bench.page.$('[data-edits-under-way="0"]'))
    const links = await bench.page.$$eval(`${face} a`, (list) =>
      list.map((a) => a.getAttribute('href') ?? ''),
    )
    expect(links).toHaveLength(5)
    const answers = await Promise.all(links.map((l) => fetch(`${app.address}${l}`)))
    const files = await Promise.all(answers.map((a) => a.text()))
    const begins = files.map((f, i) => (answers[i]?.ok ? f.slice(0, 5) : f))
    expect(begins).toEqual(['%PDF-', '%PDF-', '<?xml', '<?xml', '0\nSEC'])
    expect(files[2]).toContain('width="36mm"')
  })

  it('then shows what the craft has', async () => {
    await bench.clickWords('Begin anew')
    await bench.turnTo('m', '/mirror')
    await bench.page.waitForSelector('select[aria-label="Panel"]')
    await bench.page.select('select[aria-label="Panel"]', 'engines')
    await bench.page.waitForSelector('[data-part="torque-left"] g[data-needle]')
    await until('the needle stands where the torque is', async () => {
      const deg = await bench.page.$eval('[data-part="torque-left"] g[data-needle]', (e) =>
        Number(e.getAttribute('data-deg')),
      )
      return Math.abs(deg - (-130 + 2.2 * craft.value('engine.left.torque'))) < 2
    })
  })
})

describe('a strip that takes red first', () => {
  const shows = () => bench.page.$eval(`${ITSELF} [data-shows]`, (e) => e.getAttribute('data-shows') ?? '')

  it('is told which colours it showed, and shows the right ones from then on', async () => {
    await bench.turnTo('k', '/calibrate')
    await measure('Lights', 'Torque split')
    await asks('It is told to be red. What is it?')
    await beLike('Red before green')
    await until('it is green', async () => (await shows()).startsWith('#00ff00'))
    await bench.clickWords('Green')
    await asks('Now it is told to be green')
    await until('it is red', async () => (await shows()).startsWith('#ff0000'))
    await bench.clickWords('Red')
    await until('it is red now', async () => (await shows()).startsWith('#ff0000'))
    await bench.clickWords('Red')
    await asks('Now it is told to be green')
    await until('it is green now', async () => (await shows()).startsWith('#00ff00'))
    await bench.clickWords('Green')
    await asks('Until the last lamp is lit')
  })

  it('is dimmed until it is just seen, by keys, and never below that by its group', async () => {
    await bench.clickWords('These are all')
    await asks('just seen')
    const brightest = async () =>
      Math.max(...[...(await shows()).matchAll(/[0-9a-f]{2}/g)].map(([h]) => Number.parseInt(h, 16)))
    await until('it has begun', async () => (await brightest()) === 51)
    await keys('ArrowDown', 2)
    await keys('ArrowRight', 3)
    await until('it is darker', async () => (await brightest()) === 51 - 32 + 3)
    await bench.page.keyboard.press('Enter')
    await bench.sees('9 %', 'dl')
    await asks('As bright as you want it')
    expect(await bench.breaches()).toEqual([])
    await bench.clickWords('Take it')
    await asks('Half as bright')
    await bench.clickWords('Take it')
    await asks('as your eye has it')
    await bench.clickWords('Groups of lights')
    await bench.clickWords('New group')
    const sheet = '[data-lighting]:last-of-type'
    expect(await bench.breaches()).toEqual([])
    await bench.page.select(
      `${sheet} select[aria-label="Dimmed by the time"]`,
      'clock.sun.height > 0 ? 1 : 0.25',
    )
    await bench.page.keyboard.press('Escape')
    const dimmedWith = 'select[aria-label="Dimmed with"]'
    const group = await bench.page.$$eval(
      `${dimmedWith} option`,
      (list) => list.find((o) => o.textContent === 'Lights 1')?.getAttribute('value') ?? '',
    )
    await bench.page.select(dimmedWith, group)
    await until('it is kept', () => bench.page.$('[data-edits-under-way="0"]'))
    await bench.sees('dimmed to 100 %')
    await bench.sees('by its own curve')
  })
})

describe('the view', () => {
  it('breaks no rule of access, and goes along with what is selected elsewhere', async () => {
    await bench.turnTo('m', '/mirror')
    await bench.page.waitForSelector('select[aria-label="Panel"]')
    await bench.page.select('select[aria-label="Panel"]', 'engines')
    await bench.clickWords('Torque right', '[aria-label="Craft says"] button')
    await bench.turnTo('k', '/calibrate')
    await bench.sees('Torque right', 'section[aria-label="Calibrate"] > div')
    expect(await bench.breaches()).toEqual([])
    await measure('Levers', 'Power lever right')
    expect(await bench.breaches()).toEqual([])
  })
})
