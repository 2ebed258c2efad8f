import { execFileSync, spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import type { AddressInfo, Server, Socket } from 'node:net'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterEach, describe, expect, it } from 'vitest'
import { addingController } from '../src/core/controllers/add-controller'
import { inputsOf } from '../src/core/controllers/capabilities'
import { EventReader } from '../src/core/controllers/event-reader'
import { type SimulatedModelName, simulatedCapabilities } from '../src/core/controllers/simulated-models'
import { oneSwitch, partsByPin, plainParts, takingParts } from '../src/core/controllers/take'
import { trace } from '../src/core/engine/trace'
import { isWired } from '../src/core/harness/wiring'
import type { FromHub } from '../src/core/live/feed'
import type { BindingSettings } from '../src/core/rig/binding'
import { addRow, apply, changeRow, type Diff } from '../src/core/rig/edit'
import { boardsOf, type Rig } from '../src/core/rig/rig'
import { ControllerClient } from '../src/hub/controllers/controller-client'
import { bitsIn, controllersHere, PluggedControllers } from '../src/hub/controllers/plugged-controllers'
import { Doing } from '../src/hub/doing'
import { Hub } from '../src/hub/hub'
import { TcpLine } from '../src/hub/lines/tcp-line'
import { MemoryFile } from '../src/hub/memory'
import { Tab } from '../src/hub/tab'
import { type FromSimulator, line, readerOfClavik, type ToSimulator } from '../src/links/simulator-link'
import { serveStandins } from '../src/standins/standin-server'
import { pause, until } from './app'
import { MemoryShelf } from './memory-shelf'
import { onPorts, smallRig } from './rigs'

const READ = 'src/hub/controllers/read.py'
const closing: (() => void)[] = []
afterEach(() => {
  for (const close of closing.splice(0).reverse()) close()
})
const folder = (): string => {
  const made = mkdtempSync(join(tmpdir(), 'clavik-controllers-'))
  closing.push(() => rmSync(made, { recursive: true, force: true }))
  return made
}
const python = (program: string) => spawnSync('python3', ['-B', '-c', program], { cwd: dirname(READ) })

describe('the helper that reads an event device', () => {
  it('asks by the numbers that the system’s own headers give', () => {
    const dir = folder()
    const names = [
      'ID',
      'NAME(256)',
      'PHYS(256)',
      'UNIQ(256)',
      'KEY(96)',
      'BIT(EV_KEY,96)',
      'BIT(EV_ABS,8)',
      'ABS(7)',
      'RAB',
    ]
    const lines = names.map((n) => `printf("%lu ", (unsigned long)EVIOCG${n});`).join('\n')
    writeFileSync(
      join(dir, 'n.cc'),
      `#include <cstdio>\n#include <linux/input.h>\nint main(){${lines}printf("%zu %zu", sizeof(input_event), sizeof(input_absinfo));}`,
    )
    execFileSync('g++', [join(dir, 'n.cc'), '-o', join(dir, 'n')])
    const said = python(
      'import read as r; print(r.EVIOCGID, r.EVIOCGNAME, r.EVIOCGPHYS, r.EVIOCGUNIQ, r.EVIOCGKEY, r.EVIOCGBIT_KEY, r.EVIOCGBIT_ABS, r.EVIOCGABS(7), r.EVIOCGRAB, r.EVENT.size, 24, end="")',
    )
    expect(String(said.stdout)).toBe(String(execFileSync(join(dir, 'n'))))
  })

  // A kernel of which each answer is known: keys 0x120 and 0x121, of which the second is down; axis 1 at 40 of 0 to 255.
  const kernel = `
import os, struct, sys, fcntl
import read as r
near, far = os.pipe()
def ioctl(fd, request, data):
    if request == r.EVIOCGRAB: os.write(2, b"grabbed"); return
    answers = {
        r.EVIOCGID: struct.pack("=4H", 3, 0xf055, 9, 1),
        r.EVIOCGNAME: "Bänch stick".encode(), r.EVIOCGPHYS: b"usb-1/input0",
        r.EVIOCGBIT_KEY: bytes(36) + b"\\x03", r.EVIOCGKEY: bytes(36) + b"\\x02",
        r.EVIOCGBIT_ABS: b"\\x02", r.EVIOCGABS(1): struct.pack("=6i", 40, 0, 255, 0, 0, 0),
    }
    if request not in answers: raise OSError(22, "no such answer")
    data[: len(answers[request])] = answers[request]
r.fcntl.ioctl = ioctl
r.os.open = lambda *_: near
event = lambda kind, code, value: r.EVENT.pack(7, 8, kind, code, value)
`

  it('says who it is, passes events on as they are, and says where everything stands where some were lost', () => {
    const run = python(`${kernel}
os.write(far, event(1, 0x120, 1) + event(0, 0, 0) + event(0, 3, 0) + event(1, 0x120, 0) + event(0, 0, 0) + event(3, 1, 41) + event(0, 0, 0))
os.close(far)
sys.argv = ["read.py", "/dev/input/event7", "alone"]
sys.stdin = os.fdopen(os.pipe()[0])
r.main()`)
    expect(String(run.stderr)).toBe('grabbed')
    const heard = new EventReader().push(run.stdout)
    expect(heard[0]).toMatchObject({
      hello: {
        ...{ name: 'Bänch stick', vendor: 0xf055, product: 9, serial: '', port: 'usb-1/input0' },
        ...{ keys: [0x120, 0x121], down: [0x121], axes: [{ code: 1, value: 40, least: 0, most: 255 }] },
      },
    })
    expect(
      heard.slice(1).map((h) => h.is === 'report' && h.events.map((e) => [e.type, e.code, e.value])),
    ).toEqual([
      [[1, 0x120, 1]],
      [
        [1, 0x120, 0],
        [1, 0x121, 1],
        [3, 1, 40],
      ],
      [[3, 1, 41]],
    ])
  })

  it('ends with its input, and says why where there is nothing to read', () => {
    const run = python(`${kernel}
stdin = os.pipe()
os.close(stdin[1])
sys.argv = ["read.py", "x"]
sys.stdin = os.fdopen(stdin[0])
os.dup2(sys.stdin.fileno(), 0)
r.main()`)
    expect(run.status).toBe(0)
    const none = spawnSync('python3', [READ, '/dev/input/event-of-nobody'], { input: '' })
    const reader = new EventReader()
    reader.push(none.stdout)
    expect(reader.problem).toBe('No such file or directory')
  })
})

describe('what is plugged in', () => {
  const device = (root: string, name: string, files: Record<string, string>) => {
    const real = join(root, 'devices', `${name}-${Object.keys(files).length}`)
    for (const [file, text] of Object.entries(files)) {
      mkdirSync(dirname(join(real, 'device', file)), { recursive: true })
      writeFileSync(join(real, 'device', file), `${text}\n`)
    }
    mkdirSync(join(root, 'input'), { recursive: true })
    symlinkSync(real, join(root, 'input', name))
  }
  // As a kernel of 64 bits has it: keys 0x120 to 0x12b.
  const stick = {
    ...{ name: 'Bench stick', uniq: '', phys: 'usb-1/input0', 'id/vendor': 'f055', 'id/product': '0009' },
    ...{ 'capabilities/key': 'fff00000000 0 0 0 0', 'capabilities/abs': '30003', properties: '0' },
  }

  it('is read off the system’s own lists, with keyboards, mice, pads and sensors left out', async () => {
    expect(bitsIn('1 8000000000000001')).toEqual([0, 63, 64])
    const root = folder()
    device(root, 'event3', { ...stick, 'capabilities/key': 'fff00000000 0 0 0 0' })
    device(root, 'event4', {
      name: 'Keyboard',
      'capabilities/key': '402000007 ff803078f800d001 feffffdfffefffff fffffffffffffffe',
      'capabilities/abs': '0',
      a: '',
    })
    device(root, 'event5', {
      name: 'Mouse',
      'capabilities/key': '1f0000 0 0 0 0',
      'capabilities/abs': '0',
      b: '',
      c: '',
    })
    device(root, 'event6', {
      name: 'Sensor',
      'capabilities/key': '0',
      'capabilities/abs': '7',
      properties: '40',
      d: '',
    })
    device(root, 'event7', { ...stick, name: 'Clavik controller', e: '' })
    device(root, 'event8', {
      name: 'Pedals',
      'id/vendor': 'f055',
      'id/product': '000a',
      'capabilities/key': '0',
      'capabilities/abs': '7',
      properties: '0',
    })
    const found = [...(await controllersHere(join(root, 'input'), '/dev/input')(new Map())).values()].filter(
      (c) => c !== null,
    )
    expect(found.map((c) => [c.path, c.name, c.keys.length, c.axes])).toEqual([
      ['/dev/input/event3', 'Bench stick', 12, [0, 1, 16, 17]],
      ['/dev/input/event8', 'Pedals', 0, [0, 1, 2]],
    ])
    expect(found[0]).toMatchObject({
      vendor: 0xf055,
      product: 9,
      port: 'usb-1/input0',
      keys: expect.arrayContaining([0x120, 0x12b]),
    })
    // A machine without such lists has no controllers.
    expect((await controllersHere(join(root, 'none'))(new Map())).size).toBe(0)
  })

  it('is told when it comes and goes, and whose it is', async () => {
    const root = folder()
    mkdirSync(join(root, 'input'))
    const settings = {
      kind: 'controller',
      identity: '0'.repeat(16),
      vendor: 0xf055,
      product: 9,
      serial: '',
      port: 'usb-9',
      reads: 'Clavik alone',
    } as const
    let changes = 0
    const plugged = new PluggedControllers(controllersHere(join(root, 'input')), {
      rows: () => [{ id: 'c', name: 'Stick', position: 1, on: true, settings }],
      changed: () => changes++,
    })
    await plugged.lookNow()
    expect(plugged.placeOf('c')).toMatchObject({ problem: 'it is not plugged in' })
    device(root, 'event3', stick)
    await plugged.lookNow()
    expect(plugged.placeOf('c')).toBe('/dev/input/event3')
    expect(plugged.all()).toMatchObject([{ usedBy: 'c', fresh: true }])
    device(root, 'event4', { ...stick, phys: 'usb-5', x: '' })
    await plugged.lookNow()
    expect(plugged.placeOf('c')).toMatchObject({
      problem: expect.stringContaining('nothing tells them apart'),
    })
    expect(changes).toBe(2)
  })
})

/** A hub, its stand-ins and a simulator that takes what it is told. */
class World {
  readonly toSimulator: ToSimulator[] = []
  readonly told: FromHub[] = []
  private simulator: Socket | null = null
  private standins!: Server
  hub!: Hub
  rig!: Rig
  tab!: Tab
  private revision = 1

  async open(model: SimulatedModelName, bind: (rig: Rig) => Diff): Promise<this> {
    const dir = folder()
    const server = createServer((s) => {
      this.simulator = s
      const reader = readerOfClavik()
      s.on('error', () => {})
      s.setEncoding('utf8').on('data', (text) => this.hear(reader.push(String(text))))
      const variable = (name: string, type: 'number' | 'boolean') => ({
        name,
        type,
        unit: null,
        writable: true,
        range: null,
        description: '',
        group: '',
      })
      this.say({ say: 'hello', link: 'clavik simulator', version: 1, craft: 'Test craft', rateHz: 30 })
      this.say({
        say: 'catalogue',
        variables: [variable('talk', 'boolean'), variable('roll', 'number'), variable('page', 'number')],
        events: [],
      })
      this.say({ say: 'frame', t: 0, i: [0, 1, 2], v: [0, 0.5, 0] })
    })
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
    this.standins = serveStandins({ port: 0, secret: 's' }, {}, () => {})
    await until('the stand-ins listen', () => this.standins.address() !== null)
    closing.push(() => {
      void this.hub.close()
      server.close()
      this.standins.close()
      this.simulator?.destroy()
    })
    const base = onPorts(smallRig({}), (server.address() as AddressInfo).port, [])
    const said = simulatedCapabilities(model, 'x')
    const settings = { kind: 'simulated controller', identity: '0123456789abcdef', model } as const
    const added = apply(
      base,
      addingController(base, said, settings, { connection: 'stick', board: 'stick board' }),
    )
    this.rig = apply(added, bind(added))
    this.hub = new Hub(
      {
        hand: (this.standins.address() as AddressInfo).port,
        secret: 's',
        look: async () => [],
        shelf: new MemoryShelf(),
      },
      new MemoryFile(dir),
      new Doing(dir),
    )
    this.hub.takeLoaded({ id: 'rig', rig: this.rig, revision: 1, setAside: [] })
    this.tab = new Tab({ send: (text) => this.told.push(JSON.parse(text) as FromHub), isFull: () => false })
    this.hub.join(this.tab)
    this.hub.open()
    await until('all are up', () => this.hub.status().connections.every((c) => c.state === 'up'))
    this.hub.hear(this.tab, { say: 'arm', armed: true })
    await until(
      'it holds what is drawn',
      () => this.hub.status().boards.find((b) => b.id === 'stick board')?.loaded,
    )
    return this
  }

  private say(m: FromSimulator): void {
    this.simulator?.write(line(m))
  }
  private hear(messages: ToSimulator[]): void {
    this.toSimulator.push(...messages)
    for (const m of messages) if (m.say === 'set') this.say({ say: 'done', id: m.id })
  }
  sets(i: number): unknown[] {
    return this.toSimulator.flatMap((m) => (m.say === 'set' && m.i === i && m.id > 0 ? [m.v] : []))
  }
  handle(control: number, to: number): void {
    this.hub.hear(this.tab, { say: 'handle', connection: 'stick', control, to })
  }
  edit(diff: Diff): void {
    this.hub.takeEdit({
      revision: ++this.revision,
      editId: `e${this.revision}`,
      at: '',
      who: '',
      sentence: 'An edit',
      diff,
    } as never)
    this.rig = apply(this.rig, diff)
  }
}

let made = 0
const id = () => `made-${made++}`
const control = (more: Partial<BindingSettings>): BindingSettings =>
  ({ kind: 'control', when: 'press', value: null, actions: [], ...more }) as BindingSettings

/** Takes inputs of a controller as parts, and binds the part on a contact. */
const bound = (
  rig: Rig,
  taken: ReturnType<typeof plainParts>,
  bindings: Record<string, BindingSettings>,
): Diff => {
  const board = boardsOf(rig).find((b) => b.id === 'stick board') ?? expect.fail()
  const parts = takingParts(rig, board, taken, id)
  const after = apply(rig, parts)
  const byPin = partsByPin(after, board)
  return [
    ...parts,
    ...Object.entries(bindings).map(([pin, settings]) =>
      addRow('binding', { id: id(), partId: byPin.get(pin)?.id ?? '', position: 1, on: true, settings }),
    ),
  ]
}
const yoke = inputsOf(simulatedCapabilities('yoke', 'x'))

describe('a controller between hand and simulator', () => {
  it('holds while a button is held, and lets go when it is pulled out', async () => {
    const world = await new World().open('yoke', (rig) =>
      bound(rig, plainParts(yoke), {
        B3: control({ when: 'hold', actions: [{ do: 'set', variable: 'talk' }] as never, value: 'input' }),
      }),
    )
    world.handle(5, 1)
    await until('it is held', () => world.sets(0).at(-1) === 1)
    // Nothing repeats by itself however long it is held.
    const before = world.sets(0).length
    await pause(400)
    expect(world.sets(0)).toHaveLength(before)
    const row = world.rig.connection.stick ?? expect.fail()
    world.edit([changeRow('connection', row, { ...row, on: false }) ?? expect.fail()])
    await until('it is let go', () => world.sets(0).at(-1) === 0)
    expect(world.hub.status().boards.find((b) => b.id === 'stick board')?.state).toBe('down')
    const back = world.rig.connection.stick ?? expect.fail()
    world.edit([changeRow('connection', back, { ...back, on: true }) ?? expect.fail()])
    await until(
      'it is back',
      () => world.hub.status().boards.find((b) => b.id === 'stick board')?.state === 'up',
    )
    await pause(200)
    expect(world.sets(0).at(-1)).toBe(0)
  })

  it('gives an axis in all its parts, and is still while the hand is', async () => {
    const world = await new World().open('yoke', (rig) =>
      bound(rig, plainParts(yoke), {
        X: control({ when: 'move', actions: [{ do: 'set', variable: 'roll' }] as never, value: 'input' }),
      }),
    )
    world.handle(0, 0.70123)
    const wanted = Math.round(0.70123 * 65_535) / 65_535
    await until('the roll is there', () => Math.abs(Number(world.sets(1).at(-1)) - wanted) < 2e-5)
    const count = world.sets(1).length
    // Its track trembles by some counts all the time.
    await pause(900)
    expect(world.sets(1).length - count).toBeLessThanOrEqual(1)
  })

  it('is one switch where its buttons are: never two contacts at once, and no view is stolen by what stays closed', async () => {
    const taken = oneSwitch(['B7', 'B8', 'B9', 'B10', 'B11'], false) ?? expect.fail()
    const world = await new World().open('switch box', (rig) =>
      bound(rig, [{ ...taken, name: 'Selector' }], {
        B7: control({
          when: 'position',
          actions: [{ do: 'set', variable: 'page' }] as never,
          value: 'input == "4" ? 4 : 1',
        }),
      }),
    )
    world.hub.hear(world.tab, { say: 'follow', on: true })
    await pause(150)
    expect(world.told.filter((m) => m.say === 'operated')).toEqual([])
    world.handle(3, 3)
    await until('the fourth position is told', () => world.sets(2).at(-1) === 4)
    world.handle(3, 0)
    await until('the first is told', () => world.sets(2).at(-1) === 1)
    expect(world.sets(2)).toEqual([4, 1])
    expect(world.told.some((m) => m.say === 'operated')).toBe(true)
  })

  it('holds what is drawn without being asked, whenever that changes', async () => {
    const box = inputsOf(simulatedCapabilities('switch box', 'x'))
    const world = await new World().open('switch box', () => [])
    world.edit(
      bound(world.rig, plainParts(box.slice(11, 12)), {
        B12: control({ actions: [{ do: 'set', variable: 'page', value: 7 }] as never, value: '7' }),
      }),
    )
    await until('it holds it', () => world.hub.status().boards.find((b) => b.id === 'stick board')?.loaded)
    world.handle(4, 1)
    await until('the new part acts', () => world.sets(2).at(-1) === 7)
  })

  it('is left to the simulator where the part says so', async () => {
    const world = await new World().open('switch box', (rig) =>
      bound(rig, plainParts(inputsOf(simulatedCapabilities('switch box', 'x'))), {
        B12: control({ actions: [{ do: 'set', variable: 'page' }] as never, value: '7' }),
      }),
    )
    const board = boardsOf(world.rig).find((b) => b.id === 'stick board') ?? expect.fail()
    const part = partsByPin(world.rig, board).get('B12') ?? expect.fail()
    world.edit([
      changeRow('part', part, { ...part, settings: { ...part.settings, leftTo: 'simulator' } }) ??
        expect.fail(),
    ])
    world.handle(4, 1)
    await pause(250)
    expect(world.sets(2)).toEqual([])
    const unit = world.hub.engine.units.get(part.id)
    expect(unit?.controls.every((c) => isWired(c.wiring) && c.position === 'pressed')).toBe(true)
    const [row] = trace(world.hub.engine, part.id)
    expect(row?.stop).toMatchObject({ at: 'part', code: 'left' })
  })

  it('says where everything stands, what was touched, and what takes turns, to tabs that look', async () => {
    const world = await new World().open('switch box', () => [])
    world.hub.hear(world.tab, { say: 'controller', connection: 'stick' })
    const last = () => world.told.filter((m) => m.say === 'controller').at(-1)
    await until('it is told', () => last()?.hello?.name === 'Simulated switch box')
    expect(new Map(last()?.raw).get(0)).toBe(1)
    for (const to of [1, 0, 1]) {
      world.handle(0, to)
      await pause(250)
    }
    await until('the pair is seen', () => JSON.stringify(last()?.groups) === '[[0,1]]')
    expect(last()?.touched?.pin).toBe(1)
  })
})

describe('whoever is on the line of a controller', () => {
  it('may be no controller: that is said, and nothing of it is taken', async () => {
    const server = createServer((s) => s.end('HTTP/1.1 400 Bad Request\r\n\r\n'))
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
    const { port } = server.address() as AddressInfo
    const reports: number[] = []
    const client = new ControllerClient(
      'c',
      '0'.repeat(16),
      false,
      (events) => new TcpLine(() => ({ host: '127.0.0.1', port }), events),
      {
        changed: () => {},
        report: (_, slot) => reports.push(slot),
        shown: () => {},
        drawn: () => true,
      },
    )
    closing.push(() => {
      client.close('over')
      server.close()
    })
    client.open()
    await until('it is said', () => client.problem === 'what it says first is no line of JSON')
    expect(client.up).toBe(false)
    expect(client.cure).toContain('raw view')
  })
})
