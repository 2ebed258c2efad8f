import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ElementHandle } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, CraftSide, pause, until } from './app'
import type { Bench } from './browser'
import { beginOnMirror, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide
const files = mkdtempSync(join(tmpdir(), 'clavik-files-'))

beforeAll(async () => {
  ;({ app, craft, bench } = await beginOnMirror())
  await bench.savesInto(files)
})

afterAll(async () => {
  await endSession({ app, craft, bench })
  rmSync(files, { recursive: true, force: true })
})

const bar = (label: 'Recording' | 'Replay') => bench.text(`section[aria-label="${label}"]`)
const line = (name: string) => bench.text(`li[aria-label="${name}"]`)
const button = (label: string) => bench.click(`button[aria-label="${label}"]`)
const radio = (words: string) => bench.clickWords(words, '[role="radio"]')
/** Where the wheel lever is drawn. */
const leverAt = () =>
  bench.page.$eval(
    '[data-part="wheel-lever"] [aria-valuetext]',
    (e) => e.getAttribute('aria-valuetext') ?? '',
  )

/** The clock of the replay, in seconds. */
const clock = async (): Promise<number> => {
  const [, minutes, seconds] = /(\d+):(\d\d\.\d) of/.exec(await bar('Replay')) ?? []
  return Number(minutes) * 60 + Number(seconds)
}

const toRecordings = async (): Promise<void> => {
  await bench.turnTo('s', '/scope')
  await radio('Recordings')
  await bench.page.waitForSelector('input[aria-label="Name of the recording"]')
}

/** The line above the views goes, and everything moves up. */
const closeReplay = async (): Promise<void> => {
  await bench.clickWords('Close replay')
  await until('it is closed', async () => (await bar('Replay')) === '')
}

const record = async (name: string): Promise<void> => {
  await toRecordings()
  await bench.click('input[aria-label="Name of the recording"]')
  await bench.page.keyboard.type(name)
  await bench.page.keyboard.press('Enter')
  await until('it is recorded', async () => (await bar('Recording')).includes(name))
}

const endRecording = async (name: string): Promise<void> => {
  await bench.clickWords('End recording')
  await toRecordings()
  await until('it is whole', async () => {
    const said = await line(name)
    return said.includes('Keep as example') && !said.includes('It is being made')
  })
}

describe('a session', () => {
  it('is recorded while the panel is used, from wherever one looks, with marks', async () => {
    await record('Wheels down')
    await bench.turnTo('m', '/mirror')
    await bench.sees('Craft says')
    await pause(1000)
    await bench.click('input[aria-label="Words for a mark"]')
    await bench.page.keyboard.type('Lever down')
    await bench.page.keyboard.press('Enter')
    await bench.dragLever(0.13, 0.87)
    await until('the wheels are down', () => Number(craft.value('gear.main.left.position')) === 1, 40_000)
    await until('the lamp says so', async () => (await bench.lamp('main-left')).shows === 'lit')
    await pause(500)
    await endRecording('Wheels down')
    expect(await line('Wheels down')).toContain('1 mark')
    expect(await bench.breaches()).toEqual([])
  })

  it('is played without the simulator: the panel repeats it, hands and all', async () => {
    await bench.openConnections()
    await bench.click('input[aria-label="Simulated craft on"]')
    await bench.sees('No simulator', 'header')
    await bench.leaveForm()
    await bench.turnTo('m', '/mirror')
    await until('the lamp is out', async () => (await bench.lamp('main-left')).shows === 'out')
    await toRecordings()
    await button('Replay Wheels down')
    await until('it is open', async () => (await bar('Replay')).includes('0:00.0 of'))
    await radio('Recorded')
    await bench.turnTo('m', '/mirror')
    await until(
      'nothing is lit at its beginning',
      async () => (await bench.lamp('main-left')).shows === 'out',
    )
    await bench.page.select('select[aria-label="How fast"]', '4')
    await button('Play')
    await until('the wheels are on their way', async () =>
      (await bench.lamp('main-left')).shows.startsWith('blink'),
    )
    await until('they are down', async () => (await bench.lamp('main-left')).shows === 'lit')
    await until(
      'it has come to its end',
      async () => (await bench.page.$('button[aria-label="Play"]')) !== null,
    )
    // The lever is drawn where the recorded hand has put it, not where the real one stands.
    await until('the lever is down', async () => (await leverAt()) === 'DN')
    // The lens itself shines: the board was told, and not only the page.
    await until('it shines', async () => (await bench.lamp('main-left')).lit)
  })

  it('lets nobody operate what recorded hands operate, and says so', async () => {
    await bench.dragLever(0.87, 0.5)
    await bench.sees('A recording operates the controls now')
  })

  it('is scrubbed, stepped and looped by keys', async () => {
    await bench.focus('[role="slider"][aria-label="Where it is"]')
    await bench.page.keyboard.press('Home')
    await until('it is at its beginning', async () => (await clock()) === 0)
    await until('the lamp is as it was then', async () => (await bench.lamp('main-left')).shows === 'out')
    await bench.page.keyboard.press('End')
    await until('and as it was at the end', async () => (await bench.lamp('main-left')).shows === 'lit')
    await bench.page.keyboard.press('Home')
    await until('it is at its beginning', async () => (await clock()) === 0)
    for (let i = 0; i < 12; i++) await button('A frame on')
    await until('twelve frames on', async () => (await clock()) >= 0.3)
    const there = await clock()
    for (let i = 0; i < 9; i++) await button('A frame back')
    await until('nine back', async () => (await clock()) < there)
    await button('Again from the beginning at its end')
    await bench.page.select('select[aria-label="How fast"]', '16')
    await button('Play')
    await until('it comes near its end', async () => (await clock()) > 5)
    await until('and begins again', async () => (await clock()) < 3)
    // From wherever one looks, by a key.
    await bench.page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await bench.page.keyboard.down('Shift')
    await bench.page.keyboard.press('P')
    await bench.page.keyboard.up('Shift')
    await until('it is paused', async () => (await bench.page.$('button[aria-label="Play"]')) !== null)
  })

  it('is trimmed to what counts, once asked', async () => {
    const before = /of (\d+:\d\d\.\d)/.exec(await bar('Replay'))?.[1]
    await bench.focus('[role="slider"][aria-label="Where it is"]')
    await bench.page.keyboard.press('Home')
    for (let i = 0; i < 12; i++) await bench.page.keyboard.press('ArrowRight')
    await until('it is somewhat on', async () => (await clock()) > 0.5)
    await bench.clickWords('Trim …')
    await bench.clickWords('Cut what is before')
    await bench.clickWords('Remove', '[role="dialog"] button')
    await until('it is shorter', async () => {
      const now = /of (\d+:\d\d\.\d)/.exec(await bar('Replay'))?.[1]
      return now !== undefined && now !== before
    })
    expect(await clock()).toBe(0)
    await closeReplay()
  })

  it('gives way to the simulator when it is closed', async () => {
    await bench.openConnections()
    await bench.click('input[aria-label="Simulated craft on"]')
    await until('all is up again', async () => (await app.health()).body.ok === true)
    await bench.leaveForm()
    await bench.turnTo('m', '/mirror')
    craft.close()
    craft = await new CraftSide(await app.craftPort()).open()
    await until('the lamp follows the craft', async () => {
      const position = Number(craft.value('gear.main.left.position'))
      const { shows } = await bench.lamp('main-left')
      return shows === (position >= 1 ? 'lit' : position > 0 ? 'blink 2 Hz' : 'out')
    })
  })
})

describe('an example', () => {
  it('is played after an edit, and names what the panel shows differently', async () => {
    await toRecordings()
    await button('Keep as example: Wheels down')
    await until('nothing differs', async () =>
      (await line('Wheels down')).includes('shows and tells what it did'),
    )
    await bench.turnTo('p', '/paths')
    await bench.turnTo('m', '/mirror')
    await bench.click('[data-part="main-left"]')
    await bench.sees('Main left', 'aside h2')
    await bench.click('[data-station="shaping"]')
    await bench.page.waitForSelector('[data-expression]')
    const label = await bench.page.$eval('[data-expression]', (e) => e.getAttribute('data-expression') ?? '')
    await bench.typeExpression(label, 'input > 0 ? on : off ')
    await bench.page.keyboard.press('Enter')
    await bench.leaveForm()
    await until('the path says so', async () => (await bench.station('shaping')).includes('input > 0'))
    // Said where the edit was made; the list is a click away.
    await bench.sees('In the example “Wheels down” something else is shown now: Main left.')
    await bench.clickWords('Look')
    await until('what differs is listed', async () => (await line('Wheels down')).includes('1 thing differs'))
    expect(await line('Wheels down')).toMatch(/Main left\s+0:\d\d\.\d\s+[\d.]+ s\s+blink 2 Hz\s+lit/)
    expect(await bench.breaches()).toEqual([])
    await bench.clickWords('As it is now is right')
    await until('nothing differs', async () =>
      (await line('Wheels down')).includes('shows and tells what it did'),
    )
  })
})

describe('a hunt', () => {
  const firstGuess = () =>
    bench.page.evaluate(() => document.querySelector('[data-guess]')?.getAttribute('data-guess') ?? null)

  it('works on a recording: its marks are marks, and the switch that nobody has described comes first', async () => {
    // The craft lies at its mooring: what its own pilot would do just then is no business of this hunt.
    for (const side of ['left', 'right']) craft.set(`engine.${side}.power.lever`, 0.02)
    await record('Wipers')
    await pause(3000)
    for (const level of [9, 4, 0, 9]) {
      await pause(1400)
      craft.set('deck.k7', level)
      await bench.clickWords('Mark')
    }
    await pause(1500)
    await endRecording('Wipers')
    await button('Replay Wipers')
    await until('it is open', async () => (await bar('Replay')).includes('0:00.0 of'))
    await radio('Hunt')
    await bench.page.waitForSelector('[role="application"][aria-label="Hunt"]')
    await pause(1000)
    await button('Play')
    await until(
      'it has come to its end',
      async () => (await bench.page.$('button[aria-label="Play"]')) !== null,
    )
    await until('it is the first guess', async () => (await firstGuess()) === 'deck.k7')
  })

  it('and a chart has the whole of it, from its beginning, and plays from where it is double clicked', async () => {
    await radio('Table')
    await bench.click('input[type="search"]')
    await bench.page.keyboard.type('deck.k7')
    await bench.click('[data-name="deck.k7"]')
    await bench.focus('[role="listbox"]')
    await bench.page.keyboard.press('Space')
    await bench.click('input[type="search"]')
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('a')
    await bench.page.keyboard.up('Control')
    await bench.page.keyboard.press('Backspace')
    await radio('Chart')
    await bench.sees('double click plays from there')
    const { x, y, width } = await bench.middleOf('[role="application"] canvas')
    await bench.page.mouse.move(x - width / 2 + 80, y)
    const [, length] = /of 0:(\d\d\.\d)/.exec(await bar('Replay')) ?? []
    await until('it was nothing yet', async () =>
      (await bench.text('[data-charted="deck.k7"]')).includes('4'),
    )
    expect(await bench.breaches()).toEqual([])
    await bench.page.mouse.click(x, y, { count: 2 })
    await until('it is about half way', async () => Math.abs((await clock()) / Number(length) - 0.5) < 0.1)
    await closeReplay()
    await radio('Recordings')
  })
})

describe('a file', () => {
  const chooseFile = async (path: string): Promise<void> => {
    const input = (await bench.page.waitForSelector(
      'input[aria-label="Recording from a file"]',
    )) as ElementHandle<HTMLInputElement>
    await input.uploadFile(path)
  }
  const saved = async (ending: string): Promise<string> => {
    let name = ''
    await until(`a file .${ending} is there`, () => {
      name = readdirSync(files).find((f) => f.endsWith(`.${ending}`)) ?? ''
      return name !== ''
    })
    return join(files, name)
  }

  it('holds all of a recording, and is one again elsewhere', async () => {
    await bench.page.select('select[aria-label="Save Wheels down as a file"]', 'jsonl')
    const path = await saved('jsonl')
    await until('it is whole', () => readFileSync(path, 'utf8').split('\n').length > 100)
    await chooseFile(path)
    await until(
      'there are two',
      async () => (await bench.page.$$('li[aria-label="Wheels down"]')).length === 2,
    )
    const lengths = await bench.page.$$eval('li[aria-label="Wheels down"] .mono', (e) =>
      e.map((x) => (x as HTMLElement).innerText).filter((w) => /^\d+:\d\d$/.test(w)),
    )
    expect(lengths[0]).toBe(lengths[1])
  })

  it('of another program is taken with what is good in it, and what is not is said', async () => {
    const path = join(files, 'Logger.csv')
    writeFileSync(
      path,
      [
        'Time (ms);Height (ft);Speed (wibbles)',
        '0;100,5;30',
        '100;101,5;31',
        '50;1;1',
        '200;102,5',
        'x;1;2',
        '300;103,5;33',
      ].join('\r\n'),
    )
    await chooseFile(path)
    await bench.sees('“Logger.csv” was taken in.')
    await bench.sees('The unit “wibbles” is not known')
    await bench.sees('A line has a time before that of the line above, the first in line 4')
    await bench.sees('A line has no time that can be read, the first in line 6')
    await until('it is there', async () => (await line('Logger')).includes('2 variables'))
    await button('Replay Logger')
    await until('it is open', async () => (await bar('Replay')).includes('of 0:00.3'))
    await radio('Table')
    await until('its values are told', async () =>
      (await bench.text('[data-name="Height"]')).includes('100.5'),
    )
    // The craft is there, and nobody hears it meanwhile.
    await bench.click('[data-name="sim.time"]')
    await bench.sees('away while a recording is played')
    await closeReplay()
    await radio('Recordings')
  })

  it('that is none is refused, and says why', async () => {
    const path = join(files, 'Shopping.csv')
    writeFileSync(path, 'what,how many\nbolts,4\n')
    await chooseFile(path)
    await bench.sees('names no column of times')
    expect(await line('Shopping')).toBe('')
  })

  it('is deleted once asked', async () => {
    await button('Delete Logger')
    await bench.clickWords('Remove', '[role="dialog"] button')
    await until('it is gone', async () => (await line('Logger')) === '')
  })
})

describe('with the database away', () => {
  it('what is recorded waits, which is said, and is kept once it is back', async () => {
    await record('Without a database')
    app.signalAll('postgres', 'SIGSTOP')
    await until('that is said', async () => (await bar('Recording')).includes('The database is away'), 40_000)
    app.signalAll('postgres', 'SIGCONT')
    await until(
      'nothing waits',
      async () => !(await bar('Recording')).includes('The database is away'),
      40_000,
    )
    await until('the database is back', async () => (await app.health()).body.database === 'up')
    await endRecording('Without a database')
    expect(await line('Without a database')).not.toContain('cut short')
  })

  it('a recording whose hub is killed is cut short, and what was kept of it can be played', async () => {
    await record('Cut')
    await pause(11_000)
    app.signal('hub', 'SIGKILL')
    await until('all is up again', async () => (await app.health()).body.ok === true, 40_000)
    await until('it is said', async () => {
      await bench.page.reload()
      await toRecordings()
      await pause(500)
      return (await line('Cut')).includes('It was cut short: Clavik ended while it was made')
    })
    await button('Replay Cut')
    await until('it is open', async () => (await bar('Replay')).includes('of 0:1'))
  })
})
