import { type ChildProcess, spawn } from 'node:child_process'
import { createSocket } from 'node:dgram'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, type CraftSide, freePort, pause, until } from './app'
import type { Bench } from './browser'
import { borrowSession, endSession } from './session'

let app: App
let craft: CraftSide
let bench: Bench
const folder = mkdtempSync(join(tmpdir(), 'clavik-wires-'))

beforeAll(async () => {
  ;({ app, craft, bench } = await borrowSession('/bench'))
  await bench.sees('Connected')
})

afterAll(async () => {
  await endSession({ app, craft, bench })
  rmSync(folder, { recursive: true, force: true })
})

const add = async (words: string): Promise<void> => {
  await bench.openConnections()
  await bench.clickWords(words, '[aria-label="Add a connection"] button')
  await bench.sees(words, '[aria-label^="The connection"] h3')
}

/** Types into a field of an open sheet and takes it. */
const fill = async (label: string, text: string): Promise<void> => {
  await bench.click(`[role="dialog"] input[aria-label="${label}"]`)
  await bench.page.keyboard.down('Control')
  await bench.page.keyboard.press('a')
  await bench.page.keyboard.up('Control')
  await bench.page.keyboard.type(text)
  await bench.page.keyboard.press('Enter')
}

/** Types an expression where one is asked for, and takes it. */
const express = async (label: string, text: string): Promise<void> => {
  await bench.typeExpression(label, `${text} `)
  await until('it is sound', async () =>
    bench.page.evaluate(
      (l) => document.querySelector(`[data-expression="${l}"]`)?.getAttribute('data-sound') === 'true',
      label,
    ),
  )
  await bench.clickWords('Take it', '[role="dialog"] button')
}

const leave = () => bench.leaveForm()

describe('the layout of datagrams', () => {
  /** The throttle is pushed with the mouse, marked, and let go. */
  const press = async (): Promise<void> => {
    const box = await bench.middleOf('input[aria-label="Throttle"]')
    const x = (share: number) => box.x + (share - 0.5) * (box.width - 16)
    const { mouse } = bench.page
    const go = async (from: number, to: number) => {
      await mouse.move(x(from), box.y)
      await mouse.down()
      for (let i = 1; i <= 10; i++) {
        await mouse.move(x(from + ((to - from) * i) / 10), box.y)
        await pause(20)
      }
      await mouse.up()
    }
    await go(0, 1)
    await bench.clickWords('Now it moves')
    await go(1, 0)
  }

  it('is made by operating what it tells of, from bytes that nobody knows', async () => {
    await add('Simulated truck')
    await bench.clickWords('Layout', '[aria-label^="The connection"] button')
    await bench.sees('engine.speed', '[aria-label="Fields of Motion"]')
    // Everything in the sheet is readable and reachable for everybody.
    expect(await bench.breaches()).toEqual([])
    for (let i = 0; i < 3; i++) await bench.clickWords('Remove', '[aria-label^="The packet"] button')
    await bench.sees('nobody knows yet what is in them')
    await bench.clickWords('128 bytes', '[role="dialog"] button')
    await bench.page.waitForSelector('[data-byte="127"]')
    await bench.clickWords('Find a field by operating it')
    await bench.page.select('select[aria-label="Gear"]', '0')
    // A foot that rests on the pedal has it; then it rests for a while.
    const at = await bench.middleOf('input[aria-label="Throttle"]')
    await bench.page.mouse.click(at.x - at.width / 2 + 8, at.y)
    await pause(6000)
    for (let i = 0; i < 3; i++) {
      await press()
      await pause(3500)
    }
    await fill('Name for what is found', 'throttle')
    // What moves with it just as quickly may stand above it when the machine is busy; its row says what it would be. How
    // high it stands after how many marks of which hands is a matter of `field-hunt-truck.test.ts`.
    const itself = async () =>
      bench.page.$$eval('ul[aria-label="What may be it"] li', (rows) =>
        rows.findIndex((r) =>
          /^28\s+float 32\s+0 to 1/.test((r as HTMLElement).innerText.replace(/\n/g, ' ')),
        ),
      )
    // Where hand and mark were apart, since the machine is slow, one goes on operating it.
    for (let more = 0; more < 6 && (await itself()) < 0; more++) {
      await press()
      await pause(3500)
    }
    await until('a float of one pedal is among what may be it', async () => (await itself()) >= 0)
    await bench.click(`ul[aria-label="What may be it"] li:nth-child(${(await itself()) + 1}) button`)
    await bench.sees('throttle', '[aria-label="Fields of Packet 1"]')
    expect(await bench.text('[data-field="throttle"] [data-now]')).toBe('0')
    await bench.clickWords('Close', '[aria-label="Find a field by operating it"] button')
  }, 180_000)

  it('a field is laid over bytes by hand, says what it stands at, and what will not do', async () => {
    await bench.click('[data-byte="16"]')
    for (let i = 0; i < 3; i++) {
      await bench.page.keyboard.down('Shift')
      await bench.page.keyboard.press('ArrowRight')
      await bench.page.keyboard.up('Shift')
    }
    await bench.page.keyboard.press('Enter')
    await bench.sees('byte.16', '[aria-label="Fields of Packet 1"]')
    await fill('Name of the field', 'engine.speed')
    await fill('Unit', 'rpm')
    await until(
      'it turns',
      async () =>
        Number((await bench.text('[data-field="engine.speed"] [data-now]')).replace(/[^\d.]/g, '')) > 1000,
    )
    await fill('Byte at which it begins', '126')
    await bench.sees('ends at byte 129; the packet has 128 bytes')
    await fill('Byte at which it begins', '16')
    await bench.seesNo('ends at byte 129')
    await leave()
    // It is a variable as any other now, with its connection’s name in front.
    await until('the truck is a source', async () => {
      const { body } = await app.health()
      return JSON.stringify(body).includes('Torsk R4') || (await bench.text('body')).includes('Torsk R4')
    })
  })
})

describe('datagrams of another program', () => {
  it('come to a port; those of another length are said', async () => {
    const port = await freePort()
    await add('Datagrams')
    await fill('Name of the connection', 'Telemetry')
    await fill('Port', String(port))
    await bench.sees(`nothing has come to UDP port ${port} yet`)
    await bench.clickWords('Layout', '[aria-label^="The connection"] button')
    const socket = createSocket('udp4')
    const b = Buffer.alloc(12)
    const timer = setInterval(() => {
      b.writeFloatLE(performance.now() / 1000, 4)
      socket.send(b, port, '127.0.0.1')
    }, 50)
    try {
      await bench.clickWords('12 bytes', '[role="dialog"] button')
      await bench.sees('Packet 1', '[role="tab"]')
      // Seven bytes fit nothing.
      const strange = setInterval(() => socket.send(b.subarray(0, 7), port, '127.0.0.1'), 200)
      await bench.sees('7 bytes', '[role="dialog"]')
      await bench.clickWords('Connections', '[role="dialog"] button')
      await bench.sees('a datagram of 7 bytes came; “Packet 1” has 12', '[aria-label^="The connection"]')
      clearInterval(strange)
    } finally {
      clearInterval(timer)
      socket.close()
    }
    await leave()
  })
})

describe('a device of one’s own', () => {
  it('is told what it is to be told, in words that it reads with what it was given; both ends say when they no longer fit', async () => {
    const port = await freePort()
    await add('Own device over the network')
    await fill('Port', String(port))
    await bench.clickWords('What goes to it', '[aria-label^="The connection"] button')
    await bench.clickWords('Another value', '[aria-label="What is sent"] button')
    await fill('Name of value 1', 'torque')
    await express('Value of torque', 'engine.left.torque')
    await bench.sees('engine.left.torque', '[data-sent="torque"]')
    await bench.clickWords('Another value', '[aria-label="What comes back"] button')
    await fill('Name of what comes as 1', 'echoed')
    await bench.clickWords('Python', '[aria-label="Language"] button')
    await bench.sees('class Reader', '[aria-label="The reading side"]')
    expect(await bench.breaches()).toEqual([])
    const sketch = await bench.page.$eval('[aria-label="The reading side"] pre', (e) => e.textContent ?? '')
    // The device is that file, and a few lines round it.
    const device = `${sketch}
import socket, sys
server = socket.create_server(("127.0.0.1", ${port}))
while True:
    line, _ = server.accept()
    line.sendall(HELLO)
    reader = Reader()
    while True:
        data = line.recv(200)
        if not data:
            break
        for v in reader.feed(data):
            line.sendall(b"%f\\n" % (v["torque"] or 0))
        if reader.other_description:
            line.sendall(HELLO)
`
    writeFileSync(join(folder, 'device.py'), device)
    const child: ChildProcess = spawn('python3', [join(folder, 'device.py')])
    try {
      await until(
        'lines go out and come back',
        async () => {
          const words = await bench.text('[aria-label="On the line"]')
          return /→ \$[0-9A-F]{4},\d+\*[0-9A-F]{2}/.test(words) && /← echoed \d/.test(words)
        },
        10_000,
      )
      await bench.clickWords('Another value', '[aria-label="What is sent"] button')
      await bench.sees('The device was made for the description', '[role="dialog"]', 10_000)
    } finally {
      child.kill()
    }
    await leave()
  })
})

describe('a cluster on a vehicle bus', () => {
  it('is driven by values, counted and checked; it is told, and shows it in its own time', async () => {
    await add('Simulated cluster')
    await bench.clickWords('Messages', '[aria-label^="The connection"] button')
    await bench.sees('Cluster', '[aria-label="On the bus"]')
    await bench.page.select('select[aria-label="Send a message"]', 'Engine')
    await bench.click('[aria-label^="What EngineSpeed is"]')
    await express('Value of EngineSpeed', 'engine.left.propeller.speed')
    await fill('Most in a second', '6000')
    await bench.click('[data-message="Cluster"] button')
    await until('it is awake and refuses nothing more', async () =>
      (await bench.text('[data-message="Cluster"] [data-signal="Awake"]')).startsWith('1'),
    )
    await until('told and shown are there', async () =>
      /told .* shows/.test(await bench.text('[data-sends="EngineSpeed"]')),
    )
    await until(
      'it shows what the propeller does',
      async () => {
        const shown = Number(
          (await bench.text('[data-message="Cluster"] [data-signal="ShownEngine"]')).replace(/[^\d.]/g, ''),
        )
        const told = Number(
          /told ([\d.,]+)/.exec(await bench.text('[data-sends="EngineSpeed"]'))?.[1]?.replace(/[^\d.]/g, ''),
        )
        return told > 100 && Math.abs(shown - told) < 60
      },
      15_000,
    )
    expect(await bench.breaches()).toEqual([])
  }, 40_000)

  it('a database file is read, in words, or refused with a sentence', async () => {
    const good = join(folder, 'some.dbc')
    writeFileSync(
      good,
      'VERSION ""\n\nBU_: A\n\nBO_ 1440 Told: 8 A\n SG_ Needle : 0|16@1+ (0.25,0) [0|10000] "rpm" A\n SG_ broken\n',
    )
    const bad = join(folder, 'bad.dbc')
    writeFileSync(bad, 'a shopping list\n')
    const take = async (file: string) => {
      const input = await bench.page.$('input[aria-label="A database of a vehicle bus"]')
      await input?.uploadFile(file)
    }
    await take(bad)
    await bench.sees('This is no database of a vehicle bus: it has no messages. Nothing was changed.')
    await take(good)
    await bench.sees('1 messages with 1 signals are known now.')
    await bench.sees('Line 7 was not understood: SG_ broken')
    await bench.sees('Told', '[aria-label="On the bus"]')
    await leave()
  })
})

describe('keys for programs without a link', () => {
  it('are pressed for as long as a part on the panel is, and no longer', async () => {
    await add('Keys and virtual controller')
    await bench.sees('Nothing is really pressed: it is only shown.', '[aria-label^="The connection"]')
    await bench.sees('nothing', '[aria-label="Pressed now"]')
    expect(await bench.breaches()).toEqual([])
    await leave()
    await bench.page.goto(`${app.address}/mirror`)
    await bench.sees('Craft says')
    await bench.click('[data-part="horn-off"] .worked')
    await bench.sees('Horn off', 'aside h2')
    await bench.page.keyboard.press('v')
    await bench.page.waitForSelector('input[role="combobox"]')
    await bench.page.keyboard.type('key.space')
    await bench.sees('key.space', '[role="option"]')
    await bench.page.keyboard.press('Enter')
    await until('it is on the path', async () =>
      (await bench.text('[aria-label="Signal path"]')).includes('key.space'),
    )
    await bench.click('[data-station="shaping"]')
    await bench.page.waitForSelector('[aria-label="Edit shaping"] select')
    await bench.page.select('[aria-label="Edit shaping"] select', 'hold')
    await pause(150)
    await leave()
    await until('the path says so', async () => (await bench.station('shaping')).includes('held'))
    const pressed = async () => (await bench.text('[data-station="simulator"]')).replace(/\s+/g, ' ')
    const { x, y } = await bench.middleOf('[data-part="horn-off"] .worked')
    await bench.page.mouse.move(x, y)
    await bench.page.mouse.down()
    await until('the key is pressed', async () => /\bon\b|\b1\b/.test(await pressed()))
    await pause(1200)
    expect(await pressed()).toMatch(/\bon\b|\b1\b/)
    await bench.page.mouse.up()
    await until('the key is let go', async () => /\boff\b|\b0\b/.test(await pressed()))
  })
})
