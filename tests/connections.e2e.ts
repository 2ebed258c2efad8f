import { type ChildProcess, spawn } from 'node:child_process'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { PROGRAM } from '../src/core/programs/programs'
import { App, freePort, until } from './app'
import { Bench } from './browser'
import { Ports, SerialBoard } from './cable'

const ports = new Ports()
// Its program is of an earlier Clavik.
const board = new SerialBoard('77aa00112233bb99', 'ATmega328P board', 1)
let app: App
let bench: Bench

beforeAll(async () => {
  app = await App.make()
  await app.start('--ports', ports.folder)
  bench = await Bench.open(`${app.address}/bench`)
  await bench.sees('Connected')
})

afterAll(async () => {
  await bench?.close()
  board.end()
  await app?.remove()
  ports.remove()
})

const openSheet = (): Promise<void> => bench.openConnections()

const row = (name: string): Promise<string> =>
  bench.page.evaluate(
    (n) =>
      [...document.querySelectorAll<HTMLElement>('[data-connection]')].find((e) => e.innerText.startsWith(n))
        ?.innerText ?? '',
    name,
  )

const says = (name: string, words: string, ms?: number): Promise<void> =>
  until(`the connection ${name} says “${words}”`, async () => (await row(name)).includes(words), ms)

/** Types into a field of the sheet and takes it. */
const fill = async (label: string, text: string): Promise<void> => {
  await bench.click(`[role="dialog"] input[aria-label="${label}"]`)
  await bench.page.keyboard.down('Control')
  await bench.page.keyboard.press('a')
  await bench.page.keyboard.up('Control')
  await bench.page.keyboard.type(text)
  await bench.page.keyboard.press('Enter')
}

describe('connections of the demo', () => {
  it('are its stand-ins, each of which can be switched off and on again', async () => {
    await openSheet()
    await says('Simulated craft', 'Skerry 12')
    await says('Simulated Port board', 'Port board')
    await bench.click('input[aria-label="Simulated Port board on"]')
    await says('Simulated Port board', 'switched off')
    await until('the others go on', async () => {
      const { body } = await app.health()
      const boards = body.boards as { id: string; state: string }[]
      return boards.filter((b) => b.state === 'up').length === 3
    })
    await bench.click('input[aria-label="Simulated Port board on"]')
    await until('it is back, with what it held', async () => (await app.health()).body.ok === true)
    // Everything here is readable and reachable for everybody.
    expect(await bench.breaches()).toEqual([])
  })

  it('go on when a second source dies, and only its own path stops', async () => {
    const port = await freePort()
    const skiff: ChildProcess = spawn('python3', [join('adapters', 'python', 'adapter.py'), String(port)])
    try {
      await openSheet()
      await bench.clickWords('Simulator over the network', '[aria-label="Add a connection"] button')
      await bench.sees('Simulator over the network', '[aria-label^="The connection"] h3')
      await fill('Name of the connection', 'Skiff')
      await fill('Port', String(port))
      await says('Skiff', 'Hz')
      await bench.page.keyboard.press('Escape')
      await bench.turnTo('m', '/mirror')
      await bench.click('[data-part="bilge-lamp-left"]')
      await bench.sees('Bilge lamp left', 'aside h2')
      await bench.page.keyboard.press('v')
      await bench.page.waitForSelector('input[role="combobox"]')
      await bench.page.keyboard.type('skiff.lamp')
      await bench.sees('skiff.lamp', '[role="option"]')
      await bench.page.keyboard.press('Enter')
      await until('it is on the path', async () => (await bench.station('simulator')).includes('skiff.lamp'))
      await openSheet()
      for (const [name, words] of [
        ['Skiff', 'frame · t'],
        ['Simulated craft', 'frame · t'],
      ] as const) {
        await bench.clickWords(name, '[data-connection] button')
        await bench.clickWords('Raw view')
        await bench.sees(words, '[role="log"]')
        await bench.clickWords('Close', '[aria-label="Raw view"] button')
      }
      await bench.page.keyboard.press('Escape')
      skiff.kill('SIGKILL')
      await bench.sees('Skiff is away', 'section[aria-label="Signal path"]')
      expect((await app.health()).body).toMatchObject({ simulator: { state: 'up', craft: 'Skerry 12' } })
      // From the end of the path that stops to what can be done about it.
      await bench.clickWords('Connections', '[data-stop] button')
      await bench.sees('Skiff', '[aria-label^="The connection"] h3')
      await says('Skiff', `nobody answers on port ${port}`)
      await says('Skiff', 'Start what should answer there')
      await says('Simulated craft', 'Hz')
    } finally {
      skiff.kill('SIGKILL')
    }
  })

  it('say that a web page answers, and what was typed wrongly', async () => {
    const page = createServer((_, response) => response.end('<html></html>')).listen(0, '127.0.0.1')
    try {
      await openSheet()
      await bench.clickWords('Skiff', '[data-connection] button')
      await fill('Port', '70000')
      await bench.sees('ports are 1 to 65535', '[role="dialog"] [role="alert"]')
      await fill('Port', String((page.address() as AddressInfo).port))
      await says('Skiff', 'a web server answers there')
    } finally {
      page.closeAllConnections()
      page.close()
    }
  })
})

describe('a board on a serial port', () => {
  it('is found when it is plugged in, named, used and drawn', async () => {
    await bench.page.keyboard.press('Escape')
    await openSheet()
    await board.plugInto(await ports.plug('first'))
    const port = `[data-port="${join(ports.folder, 'first')}"]`
    await bench.sees('drawn nowhere yet', port, 6000)
    await bench.sees('ATmega328P board', port)
    await bench.sees(`its program is number 1; ${PROGRAM} comes with this Clavik`, port)
    await bench.click(`${port} [data-strong="true"]`)
    await says('ATmega328P board', 'Hz')
    await bench.sees('in use by ATmega328P board', port)
    await fill('Name of the connection', 'Trim wheel')
    await bench.clickWords('Draw it', '[role="dialog"] button')
    await says('Trim wheel', 'Board')
    await until('it is one of the drawn ones', async () => {
      const boards = (await app.health()).body.boards as { name: string; state: string }[]
      return boards.some((b) => b.name === 'Board 1' && b.state === 'up')
    })
  })

  it('keeps its port when its program cannot be brought up to date, and is told why', async () => {
    const port = `[data-port="${join(ports.folder, 'first')}"]`
    await bench.sees('bring it up to date', '[role="dialog"]')
    await bench.clickWords('Bring up to date', `${port} button`)
    // There is no bootloader behind this one: all ways to one are tried.
    await bench.sees('No bootloader answers', port)
    await bench.clickWords('Leave it', `${port} button`)
    await says('Trim wheel', 'Board')
    await until('it speaks again', async () => {
      const boards = (await app.health()).body.boards as { name: string; state: string }[]
      return boards.some((b) => b.name === 'Board 1' && b.state === 'up')
    })
  })

  it('shows all that goes over it, both ways, and what is sent by hand', async () => {
    await bench.clickWords('Raw view')
    await bench.sees('heartbeat', '[role="log"]')
    await until('both ways are there', () =>
      bench.page.evaluate(
        () =>
          document.querySelector('[data-raw="in"]') !== null &&
          document.querySelector('[data-raw="out"]') !== null,
      ),
    )
    await bench.clickWords('Echo')
    await bench.sees('answered in', '[aria-label="Raw view"] [role="status"]')
    await bench.click('input[aria-label="Filter"]')
    await bench.page.keyboard.type('no sound frame')
    await bench.seesNo('heartbeat', '[role="log"]')
    await bench.click('input[aria-label="What to send"]')
    await bench.page.keyboard.type('09 zz')
    await bench.sees('is no byte', '[aria-label="Raw view"] [role="alert"]')
    await bench.page.keyboard.press('Backspace')
    await bench.page.keyboard.press('Backspace')
    await bench.page.keyboard.type('09 00')
    await bench.page.keyboard.press('Enter')
    await bench.sees('no sound frame', '[role="log"]')
    await bench.clickWords('Close', '[aria-label="Raw view"] button')
    expect(await bench.page.$('[role="log"]')).toBeNull()
  })

  it('is missed when it is unplugged, and known again on another port', async () => {
    const went = Date.now()
    await ports.unplug('first')
    await says('Trim wheel', 'unplugged')
    expect(Date.now() - went).toBeLessThan(10_000)
    await board.pullOut()
    await board.plugInto(await ports.plug('second'))
    await says('Trim wheel', 'its board was found here')
    await says('Trim wheel', 'Hz')
    await bench.clickWords('Keep this port')
    await until('it is kept', async () => !(await row('Trim wheel')).includes('found here'))
    await says('Trim wheel', join(ports.folder, 'second'))
    await says('Trim wheel', 'Hz')
  })

  it('is there again at once when it is plugged in where it was: nobody else asks on its port', async () => {
    await ports.unplug('second')
    await says('Trim wheel', 'unplugged')
    await board.pullOut()
    await board.plugInto(await ports.plug('second'))
    let held = false
    await until('it is up', async () => {
      const said = await row('Trim wheel')
      held ||= said.includes('another program')
      return said.includes('Hz')
    })
    expect(held).toBe(false)
  })

  it('says so where another program holds the port', async () => {
    await ports.plug('third')
    const path = join(ports.folder, 'third')
    // The other end is silent, so it is asked in vain, and the port is free again.
    await bench.sees('nothing answers', `[data-port="${path}"]`)
    const { SerialPort } = await import('serialport')
    const other = new SerialPort({ path, baudRate: 9600 })
    await until('the other program has it', () => other.isOpen)
    await bench.clickWords('Board on a serial port', '[aria-label="Add a connection"] button')
    await fill('Port', path)
    await says('Board on a serial port', `another program holds ${path}`)
    other.close(() => {})
    await says('Board on a serial port', 'it is open, and nothing answers yet')
    await says('Trim wheel', 'Hz')
  })
})
