import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { App, CraftSide, pause, until } from './app'
import type { Bench } from './browser'
import { beginSession, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

/** Marks the page, to see afterwards that it was never loaded anew. */
const mark = () =>
  bench.page.evaluate(() => {
    ;(window as unknown as { marked: boolean }).marked = true
  })
const stillMarked = () =>
  bench.page.evaluate(() => (window as unknown as { marked?: boolean }).marked === true)

/** Kills a process for longer than its keeper would allow: the keeper is stopped meanwhile. */
const whileGone = async (
  name: 'postgres' | 'hub' | 'standins' | 'web',
  work: () => Promise<void>,
): Promise<void> => {
  const pid = app.pid(name)
  const supervisor = app.pid('supervisor')
  process.kill(supervisor, 'SIGSTOP')
  process.kill(pid, 'SIGKILL')
  try {
    await work()
  } finally {
    process.kill(supervisor, 'SIGCONT')
  }
}

beforeAll(async () => {
  ;({ app, craft, bench } = await beginSession('/mirror'))
  await bench.sees('Craft says')
  await until('the boards are up', async () => (await app.health()).body.ok === true)
  await mark()
})

afterAll(() => endSession({ app, craft, bench }))

describe('health', () => {
  it('tells of every process', async () => {
    await until('the lamps are known', async () => (await app.health()).status === 200)
    const { body } = await app.health()
    expect(body).toMatchObject({
      ok: true,
      database: 'up',
      hub: 'up',
      simulator: { state: 'up', craft: 'Skerry 12' },
      boards: [
        { id: 'port-board', name: 'Port board', state: 'up', loaded: true },
        { id: 'stern-board', name: 'Stern board', state: 'up', loaded: true },
        { id: 'glareshield-board', name: 'Glareshield board', state: 'up', loaded: true },
        { id: 'pedestal-board', name: 'Pedestal board', state: 'up', loaded: true },
      ],
    })
    expect((body.simulator as { rateHz: number }).rateHz).toBeGreaterThan(10)
  })
})

describe('with the database gone', () => {
  it('lever and lamps still work, an edit is kept, and arrives when the database is back', async () => {
    await whileGone('postgres', async () => {
      await bench.sees('Database away', 'header')
      const { status, body } = await app.health()
      expect(status).toBe(503)
      expect(body).toMatchObject({ ok: false, database: 'down', hub: 'up' })

      await bench.dragLever(0.13, 0.87)
      await until('the craft has its lever down', () => craft.value('gear.lever') === 2)
      await until('the lamp blinks', async () => (await bench.lamp('main-left')).shows === 'blink 2 Hz')

      await bench.click('[data-part="horn-off"] .worked')
      await bench.click('[data-station="simulator"]')
      await bench.page.waitForSelector('input[role="combobox"]')
      await bench.page.keyboard.type('horn cancel')
      await bench.sees('gear.horn.cancel', '[role="listbox"]')
      await bench.page.keyboard.press('Enter')
      await bench.sees('1 edit waits to be kept', 'header')
      await bench.sees('Open ends 0', 'header')
      // A new page is served all the same: the hub holds the rig.
      const other = await bench.browser.newPage()
      await other.goto(`${app.address}/mirror`)
      await until('the other page shows the panel', () =>
        other.evaluate(() => document.body.innerText.includes('Wheel lever')),
      )
      await other.close()
      await bench.page.bringToFront()
    })
    await bench.seesNo('Database away', 'header')
    await bench.seesNo('edit waits', 'header')
    await until('the path runs to the event', async () =>
      (await bench.station('simulator')).includes('gear.horn.cancel'),
    )
    await bench.sees('Horn off', 'aside h2')
    expect(await stillMarked()).toBe(true)
  })
})

describe('with the hub gone', () => {
  it('says so, keeps the last values, and recovers by itself with nothing lost', async () => {
    await whileGone('hub', async () => {
      await bench.sees('The hub is away; values are the last ones seen', 'header')
      await bench.sees('Wheel lever', 'section[aria-label="Craft says"]')
      expect((await app.health()).body).toMatchObject({
        ok: false,
        hub: 'down',
        simulator: { state: 'down' },
      })
      // A page that is opened now has never heard the hub, and its palette opens all the same.
      const fresh = await bench.browser.newPage()
      const errors: string[] = []
      fresh.on('pageerror', (error) => errors.push(String(error)))
      await fresh.goto(`${app.address}/bench`)
      await until('the palette is open', async () => {
        if (await fresh.$('[cmdk-input]')) return true
        await fresh.keyboard.down('Control')
        await fresh.keyboard.press('k')
        await fresh.keyboard.up('Control')
        await pause(300)
        return false
      })
      await fresh.keyboard.type('Rigs: begin')
      await until('it finds an action', () =>
        fresh.evaluate(() =>
          document.querySelector<HTMLElement>('[cmdk-list]')?.innerText.includes('Rigs: begin'),
        ),
      )
      expect(errors).toEqual([])
      await fresh.close()
      await bench.page.bringToFront()
      // Edits go on: they pass through the web process, not the hub.
      await bench.click('[data-row="bow-left"] button')
      await bench.page.select('aside select[aria-label="Rest state"]', 'lit')
    })
    await bench.seesNo('The hub is away', 'header')
    await until(
      'the edit is there',
      async () => (await bench.page.$eval('aside select[aria-label="Rest state"]', (e) => e.value)) === 'lit',
    )
    await until('the hub has it and asks for a load', async () =>
      (await bench.text('header')).includes('1 to load'),
    )
    await bench.clickWords('1 to load')
    await bench.seesNo('to load', 'header')
    await bench.dragLever(0.87, 0.5)
    await until('the lever works again', () => craft.value('gear.lever') === 1)
    expect(await stillMarked()).toBe(true)
  })
})

describe('with the stand-ins gone', () => {
  it('says that simulator and boards are away, and recovers with the panel as it was', async () => {
    craft.close()
    await whileGone('standins', async () => {
      await bench.sees('No simulator', 'header')
      await bench.sees('Boards 0 / 4', 'header')
      await bench.click('[data-row="main-right"] button')
      await bench.sees('the simulator is away')
    })
    await bench.sees('Boards 4 / 4', 'header')
    await bench.sees('Skerry 12', 'header')
    craft = await new CraftSide(await app.craftPort()).open()
    // The hands find their way back by themselves, a moment after the boards or before.
    await until('the lever works again', async () => {
      if (craft.value('gear.lever') !== 2) await bench.dragLever(0.5, 0.87)
      await pause(300)
      return craft.value('gear.lever') === 2
    })
    expect(await stillMarked()).toBe(true)
  })
})

describe('with the web process gone', () => {
  it('the cockpit works on, and the page finds its way back', async () => {
    await whileGone('web', async () => {
      await bench.sees('The hub is away', 'header')
    })
    await bench.seesNo('The hub is away', 'header')
    expect(await stillMarked()).toBe(true)
    expect(bench.errors).toEqual([])
  })
})

describe('starting', () => {
  it('says in a sentence that the port is in use', async () => {
    const second = new App(`${app.dataDir}-second`, app.port)
    await expect(second.start()).rejects.toThrow(
      `Port ${app.port} is in use by another program; stop it or choose another with --port.`,
    )
    expect(second.exitCode).toBe(1)
  })

  it('says in a sentence that the data folder is in use', async () => {
    const second = new App(app.dataDir, (await App.make()).port)
    await expect(second.start()).rejects.toThrow('Clavik is already running from')
  })

  it('says in a sentence what an option means', async () => {
    const second = await App.make()
    await expect(second.start('--colour', 'red')).rejects.toThrow(
      'There is no option --colour. Usage: bin/start',
    )
  })
})

const isAlive = (pid: number): boolean => {
  try {
    process.kill(pid, 0)
    return true
  } catch {
    return false
  }
}

describe('a process that stands still', () => {
  it('is said of the database within five seconds, and is over when it goes on', async () => {
    app.signal('postgres', 'SIGSTOP')
    // The server stands still; the lines that it has given out go on, but nobody is let in any more.
    const began = Date.now()
    await bench.sees('Database away', 'header')
    expect(Date.now() - began).toBeLessThan(9_000)
    app.signal('postgres', 'SIGCONT')
    await bench.seesNo('Database away', 'header')
    await until('it is back', async () => (await app.health()).body.database === 'up')
  })

  it('is ended and started anew when it is the hub', async () => {
    const hung = app.pid('hub')
    app.signal('hub', 'SIGSTOP')
    // Its lines are open, and nothing comes over them: what stands on the page is no longer claimed to be so.
    await until(
      'the page says so while it still hangs',
      async () => (await bench.text('header')).includes('The hub is away'),
      9000,
    )
    expect(app.pid('hub')).toBe(hung)
    await until('another hub is there', () => app.pid('hub') !== hung, 30_000)
    expect(isAlive(hung)).toBe(false)
    await until('all is up', async () => (await app.health()).body.ok === true)
    await bench.seesNo('The hub is away', 'header')
  })

  it('is known by its new number when it is PostgreSQL that was started again', async () => {
    const before = app.pid('postgres')
    app.signal('postgres', 'SIGKILL')
    await until('its number is another', () => app.pid('postgres') !== before)
    expect(isAlive(app.pid('postgres'))).toBe(true)
    await until('the database is back', async () => (await app.health()).body.database === 'up')
  })
})

describe('with its keeper killed', () => {
  it('everything ends by itself, and another start has the folder to itself', async () => {
    const pids = (['postgres', 'standins', 'hub', 'web'] as const).map((n) => app.pid(n))
    app.signal('supervisor', 'SIGKILL')
    await until('all have ended', () => pids.every((p) => !isAlive(p)), 30_000)
    const next = new App(app.dataDir, (await App.make()).port)
    await next.start()
    await until('all is up', async () => (await next.health()).body.ok === true)
    await next.stop()
  })
})
