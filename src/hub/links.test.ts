import { mkdtempSync, rmSync } from 'node:fs'
import { createServer, type Server, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { pause, until } from '../../tests/app'
import { MemoryShelf } from '../../tests/memory-shelf'
import { PlainBoard } from '../../tests/plain-board'
import { catalogue, control, lamp, onPorts, smallRig } from '../../tests/rigs'
import { wantedConfiguration } from '../core/harness/configuration'
import { encodeConfiguration } from '../core/harness/slot'
import type { FromHub } from '../core/live/feed'
import { BlockBuilder } from '../core/recording/block-builder'
import { changeRow, type Diff } from '../core/rig/edit'
import { emptyRig, type Rig } from '../core/rig/rig'
import type { ToBoard } from '../links/board-link'
import { cobsEncode, crc16 } from '../links/framing'
import { type FromSimulator, line, readerOfClavik, type ToSimulator } from '../links/simulator-link'
import { Doing } from './doing'
import { Hub } from './hub'
import { MemoryFile } from './memory'
import { Tab } from './tab'

const drawn = smallRig({ lever: control(), lamp: lamp() })
const identity = drawn.board.board?.identity ?? ''

const listen = (server: Server): Promise<number> =>
  new Promise((resolve) => {
    server.listen(0, '127.0.0.1', () => resolve((server.address() as { port: number }).port))
  })

/** The far ends of both links, in the hands of a test, and a hub between them. */
class World {
  readonly toSimulator: ToSimulator[] = []
  readonly plain = new PlainBoard(
    identity,
    encodeConfiguration(wantedConfiguration(drawn, 'board')),
    (bytes) => this.board?.write(bytes),
    { unplug: () => this.board?.destroy() },
  )
  get toBoard(): readonly ToBoard[] {
    return this.plain.heard
  }
  readonly told: FromHub[] = []
  simulator: Socket | null = null
  spare: Socket | null = null
  private moved = false
  board: Socket | null = null
  readonly shelf = new MemoryShelf()
  private readonly servers: Server[] = []
  private readonly dataDir = mkdtempSync(join(tmpdir(), 'clavik-hub-'))
  hub!: Hub
  rig!: Rig
  tab!: Tab

  async open(): Promise<this> {
    this.plain.mute = true
    const atSimulator = createServer((s) => {
      this.simulator = s
      const reader = readerOfClavik()
      s.on('error', () => {})
      s.setEncoding('utf8').on('data', (text) => this.toSimulator.push(...reader.push(String(text))))
    })
    const atBoard = createServer((s) => {
      // Nobody is on a port that the board has left.
      if (this.moved) {
        s.destroy()
        return
      }
      this.board = s
      this.plain.plugged()
      s.on('error', () => {})
      s.on('data', (bytes) => this.plain.receive(bytes))
    })
    const atOther = createServer((s) => {
      this.spare = s
      s.on('error', () => {})
      s.on('data', (bytes) => {
        if (this.board === s) this.plain.receive(bytes)
      })
    })
    this.servers.push(atSimulator, atBoard, atOther)
    const boards = [await listen(atBoard), await listen(atOther)]
    this.rig = onPorts(drawn, await listen(atSimulator), boards)
    const settings = { hand: 1, secret: '', look: async () => [], shelf: this.shelf }
    this.hub = new Hub(settings, new MemoryFile(this.dataDir), new Doing(this.dataDir))
    this.hub.takeLoaded({ id: 'rig', rig: this.rig, revision: 1, setAside: [] })
    this.tab = new Tab({ send: (text) => this.told.push(JSON.parse(text) as FromHub), isFull: () => false })
    this.hub.join(this.tab)
    this.hub.open()
    await until('all links are open', () => this.simulator && this.board && this.spare)
    return this
  }

  /** The same board on another port: the old one is silent from now on. */
  changePort(): void {
    this.moved = true
    const old = this.board
    this.board = this.spare
    this.plain.plugged()
    old?.destroy()
  }

  /** Until then it is mute. */
  helloAsBoard(): void {
    this.plain.mute = false
    this.plain.hello()
  }
  sayAsSimulator(m: FromSimulator): void {
    this.simulator?.write(line(m))
  }
  helloAsSimulator(version = 1): void {
    this.sayAsSimulator({ say: 'hello', link: 'clavik simulator', version, craft: 'Test craft', rateHz: 30 })
    this.sayAsSimulator({
      say: 'catalogue',
      variables: [...catalogue.variables],
      events: [...catalogue.events],
    })
    this.sayAsSimulator({ say: 'frame', t: 0, i: [0, 1, 2], v: [0, 28, 0] })
  }
  async bothUp(): Promise<this> {
    this.helloAsBoard()
    this.helloAsSimulator()
    await until('both are up', () => this.sourceUp && this.boardUp)
    // What a board reports before it was asked to begin is no movement.
    await until('the board was asked to begin', () => this.plain.started)
    return this
  }
  /** How a connection stands, as pages are told. */
  stands(id: string) {
    return this.hub.status().connections.find((c) => c.id === id)
  }
  get sourceUp(): boolean {
    return this.stands('simulator')?.state === 'up'
  }
  get boardUp(): boolean {
    return this.stands('board 0')?.state === 'up'
  }
  lampStates(): number[] {
    return this.toBoard.flatMap((m) => (m.say === 'outputs' ? m.outputs.map((o) => o.state) : []))
  }
  close(): void {
    this.hub.close()
    for (const s of this.servers) s.close()
    this.simulator?.destroy()
    this.board?.destroy()
    rmSync(this.dataDir, { recursive: true, force: true })
  }
}

let world: World
beforeEach(async () => {
  world = await new World().open()
})
afterEach(() => world.close())

describe('the hub between a board and a simulator', () => {
  it('carries a movement to the simulator, and what comes of it to the lamp', async () => {
    await world.bothUp()
    world.plain.report(0, 1)
    world.plain.report(0, 2)
    await until('the simulator is told', () =>
      world.toSimulator.some((m) => m.say === 'set' && m.i === 2 && m.v === 2),
    )
    world.sayAsSimulator({ say: 'frame', t: 1, i: [0], v: [1] })
    await until('the lamp is lit', () => world.lampStates().at(-1) === 255)
  })

  it('takes tabs that follow to what is moved, but not to what a board tells when it is first heard', async () => {
    await world.bothUp()
    world.hub.hear(world.tab, { say: 'follow', on: true })
    const operated = () => world.told.filter((m) => m.say === 'operated')
    const moved = (value: number) => world.plain.report(0, value)
    moved(1)
    moved(1)
    moved(2)
    await until('the lever is told of', () => operated().length > 0)
    await until('the simulator is told', () => world.toSimulator.some((m) => m.say === 'set' && m.id > 0))
    expect(operated()).toEqual([{ say: 'operated', partId: 'lever' }])
  })

  it('lets go when another rig is opened: held, the lamp at rest, and a board that is not in it told nothing', async () => {
    await world.bothUp()
    world.sayAsSimulator({ say: 'frame', t: 1, i: [0], v: [1] })
    await until('the lamp is lit', () => world.lampStates().at(-1) === 255)
    const other = { ...emptyRig(), connection: world.rig.connection }
    world.hub.takeLoaded({ id: 'other', rig: other, revision: 0, setAside: [] })
    expect(world.hub.status().armed).toBe(false)
    await until('the lamp is put out', () => world.lampStates().at(-1) === 0)
    const heard = world.toBoard.length
    const acted = world.toSimulator.filter((m) => m.say === 'set' && m.id > 0).length
    world.plain.report(0, 2)
    await pause(600)
    expect(world.toBoard.slice(heard).map((m) => m.say)).toEqual([])
    world.hub.takeLoaded({ id: 'rig', rig: world.rig, revision: 1, setAside: [] })
    expect(world.hub.status().armed).toBe(false)
    await until('the board hears of the hub again', () =>
      world.toBoard.slice(heard).some((m) => m.say === 'heartbeat'),
    )
    expect(world.toSimulator.filter((m) => m.say === 'set' && m.id > 0)).toHaveLength(acted)
    expect(world.hub.status().boards[0]).toMatchObject({ id: 'board', state: 'up', loaded: true })
    world.hub.hear(world.tab, { say: 'arm', armed: true })
    await until('the lamp is lit again', () => world.lampStates().at(-1) === 255)
  })

  it('asks for just the variables in use, and for all while somebody looks at them', async () => {
    await world.bothUp()
    const asked = () => world.toSimulator.filter((m) => m.say === 'subscribe').at(-1)
    await until('it subscribes', () => asked())
    expect(asked()).toEqual({ say: 'subscribe', i: [0, 1, 2] })
    world.hub.hear(world.tab, { say: 'watch', all: true })
    await until('it subscribes to all', () => (asked() as { i: unknown }).i === 'all')
    world.hub.leave(world.tab)
    await until('it subscribes to less', () => (asked() as { i: unknown }).i !== 'all')
  })

  it('resumes by itself when the simulator comes back', async () => {
    await world.bothUp()
    world.simulator?.destroy()
    await until('it is gone', () => !world.sourceUp)
    expect(world.stands('simulator')).toMatchObject({
      state: 'down',
      problem: 'the other end closed the connection',
    })
    world.simulator = null
    await until('it is called again', () => world.simulator)
    world.helloAsSimulator()
    await until('it is up', () => world.sourceUp)
    await until('and asked again', () => world.toSimulator.filter((m) => m.say === 'subscribe').length >= 2)
  })

  it('plays what has nothing of the simulator, which is away meanwhile, and asks for everything anew afterwards', async () => {
    await world.bothUp()
    world.sayAsSimulator({ say: 'frame', t: 1, i: [0], v: [1] })
    await until('the lamp is lit', () => world.lampStates().at(-1) === 255)
    const sources = [
      {
        id: 'file',
        name: 'A file',
        on: true,
        prefix: '',
        catalogue: { craft: 'F', variables: [], events: [] },
      },
    ]
    await world.shelf.begin({ id: 'one', rigId: 'rig', name: 'One', sources })
    const empty = { armed: false, up: [0], quiet: [], boards: [], controls: [] }
    world.shelf.add(
      'one',
      0,
      new BlockBuilder(0, empty, new Float64Array(0)).done(1e6),
      new Uint8Array(0),
      [],
    )
    await world.shelf.settled()
    world.hub.hear(world.tab, { say: 'replay open', id: 'one' })
    await until('the lamp is at rest', () => world.lampStates().at(-1) === 0)
    // What it says meanwhile is heard by nobody.
    world.sayAsSimulator({ say: 'frame', t: 2, i: [0], v: [0.5] })
    await pause(100)
    expect(world.lampStates().at(-1)).toBe(0)
    const asked = world.toSimulator.filter((m) => m.say === 'subscribe').length
    world.hub.hear(world.tab, { say: 'replay close' })
    await until(
      'it is asked anew',
      () => world.toSimulator.filter((m) => m.say === 'subscribe').length > asked,
    )
    world.sayAsSimulator({ say: 'frame', t: 3, i: [0, 1, 2], v: [1, 28, 0] })
    await until('the lamp is lit again', () => world.lampStates().at(-1) === 255)
  })

  it('loads a board in pieces when asked, and says when it is done', async () => {
    await world.bothUp()
    const row = drawn.lead['lead-3']
    if (!row) throw new Error('no lead')
    const diff: Diff = [changeRow('lead', row, { ...row, pin: 'D40' }) as Diff[number]]
    world.hub.takeEdit({
      revision: 2,
      editId: 'e',
      who: 't',
      sentence: 's',
      at: '',
      kind: 'edit',
      ofRevision: null,
      diff,
    })
    expect(world.hub.status().boards[0]).toMatchObject({ loaded: false, differing: ['lamp'] })
    world.hub.hear(world.tab, { say: 'load', boardId: 'board' })
    await until('the commit is said', () => world.toBoard.some((m) => m.say === 'load commit'))
    await until('it is known to be loaded', () => world.hub.status().boards[0]?.loaded)
  })
})

describe('a board', () => {
  const changePin = (pin: string): Diff => {
    const row = drawn.lead['lead-3']
    return row ? ([changeRow('lead', row, { ...row, pin })] as Diff) : []
  }

  it('whose cable comes off in the middle of a load is told of, and loaded when it is asked for again', async () => {
    await world.bothUp()
    const entry = {
      revision: 2,
      editId: 'e',
      who: 't',
      sentence: 's',
      at: '',
      kind: 'edit',
      ofRevision: null,
    } as const
    world.hub.takeEdit({ ...entry, diff: changePin('D40') })
    const before = world.plain.configuration
    world.plain.answersLeft = 1
    world.hub.hear(world.tab, { say: 'load', boardId: 'board' })
    await until('it is told of', () =>
      world.told.some((m) => m.say === 'problem' && m.message.includes('It keeps what it held before')),
    )
    expect(world.toBoard.some((m) => m.say === 'load commit')).toBe(false)
    expect(world.plain.configuration).toBe(before)
    await until('it is called again', () => world.board && !world.board.destroyed)
    world.plain.answersLeft = Number.POSITIVE_INFINITY
    world.helloAsBoard()
    await until('it is up, with what it held before', () => {
      const [status] = world.hub.status().boards
      return status?.state === 'up' && !status.loaded && status.loading === null
    })
    world.plain.heard = []
    world.hub.hear(world.tab, { say: 'load', boardId: 'board' })
    await until('the commit is said', () => world.toBoard.some((m) => m.say === 'load commit'))
  })

  it('is the same one on another port', async () => {
    await world.bothUp()
    world.changePort()
    await until('it is gone from its old port', () => world.hub.status().boards[0]?.state === 'down')
    world.helloAsBoard()
    await until('it is known on the other', () => world.hub.status().boards[0]?.state === 'up')
    expect(world.hub.status().boards[0]).toMatchObject({ id: 'board', identity, loaded: true })
    world.plain.report(0, 1)
    world.plain.report(0, 2)
    await until('and what it says counts', () => world.toSimulator.some((m) => m.say === 'set' && m.i === 2))
  })
})

describe('a link that goes wrong', () => {
  it('of a simulator of another version is named, and nothing is taken from it', async () => {
    world.helloAsBoard()
    world.helloAsSimulator(9)
    await until('the reason is told', () =>
      world.stands('simulator')?.problem?.includes('speaks version 9 of the link, Clavik speaks 1'),
    )
    expect(world.sourceUp).toBe(false)
    await until('the board works on', () => world.boardUp)
  })

  it('of a simulator that speaks nonsense is named, and heard again once it makes sense', async () => {
    world.simulator?.write('BEEP\n{"say":"purr"}\n')
    await until('the reason is told', () => world.stands('simulator')?.problem?.includes('not understood'))
    world.helloAsSimulator()
    await until('it is up', () => world.sourceUp)
    expect(world.stands('simulator')?.problem).toBeNull()
  })

  it('of a board that speaks nonsense is named, with what can be done, and everything else works', async () => {
    world.helloAsSimulator()
    world.board?.write(Uint8Array.from([1, 2, 3, 0, 9, 9, 0]))
    await until(
      'it is named',
      () => world.stands('board 0')?.problem === 'what it says is not the board link',
    )
    await until('the simulator is up', () => world.sourceUp)
    world.helloAsBoard()
    await until('the board is known after all', () => world.hub.status().boards[0]?.state === 'up')
  })

  it('of a board of another version is named', async () => {
    const body = [9, 0x81, 0, ...new Array<number>(18).fill(1)]
    const crc = crc16(Uint8Array.from(body))
    world.board?.write(cobsEncode(Uint8Array.from([...body, crc & 255, crc >> 8])))
    await until(
      'it is named',
      () => world.stands('board 0')?.problem === 'it speaks version 9 of the board link, Clavik speaks 2',
    )
  })

  it('of a web page, or of a board where a simulator should be, is named for what it is', async () => {
    world.simulator?.end('HTTP/1.1 400 Bad Request\r\nContent-Type: text/html\r\n\r\n')
    await until('it is named', () => world.stands('simulator')?.problem === 'a web server answers there')
    world.board?.write('{"say":"hello","link":"clavik simulator","version":1,"craft":"x"}\n\0')
    await until('it is named', () => world.stands('board 0')?.problem === 'it speaks the simulator link')
    expect(world.stands('board 0')?.cure).toContain('correct the address')
  })

  it('of a source that floods is held back and named, and what a hand does goes through', async () => {
    await world.bothUp()
    const frames = line({ say: 'frame', t: 0, i: [0, 1], v: [1, 28] }).repeat(20_000)
    const flood = setInterval(() => {
      if ((world.simulator?.writableLength ?? 0) < 8_000_000) world.simulator?.write(frames)
    }, 5)
    try {
      await until('it is said', () => world.stands('simulator')?.problem?.includes('more than can be read'))
      world.plain.report(0, 1)
      world.plain.report(0, 2)
      await until('the simulator is told', () => world.toSimulator.some((m) => m.say === 'set' && m.v === 2))
    } finally {
      clearInterval(flood)
    }
  })

  it('of a second board with the same identity is named, and it is told nothing', async () => {
    await world.bothUp()
    const heard: string[] = []
    const twin = new PlainBoard(identity, new Uint8Array(0), (bytes) => world.spare?.write(bytes), {
      heard: (m) => heard.push(m.say),
    })
    twin.boot = 77
    world.spare?.on('data', (bytes) => twin.receive(bytes))
    twin.hello()
    await until('it is named', () => world.stands('board 1')?.problem?.includes('says the same identity'))
    expect(world.stands('board 1')?.problem).toContain('on board 0')
    heard.splice(0)
    world.sayAsSimulator({ say: 'frame', t: 1, i: [0], v: [1] })
    await until('the lamp of the first is lit', () => world.lampStates().at(-1) === 255)
    await pause(600)
    // Neither outputs nor heartbeats: it rests.
    expect(heard).toEqual([])
    expect(world.stands('board 0')).toMatchObject({ state: 'up', problem: null })
  })

  it('of a board nobody has drawn is shown, and leaves the rig alone', async () => {
    const found = new PlainBoard('feedfeedfeedfeed', new Uint8Array(0), (bytes) => world.board?.write(bytes))
    found.hello()
    await until('it is shown', () =>
      world.hub.status().boards.some((b) => b.id === null && b.identity === 'feedfeedfeedfeed'),
    )
    expect(world.hub.status().boards[0]).toMatchObject({
      id: 'board',
      state: 'down',
      problem: 'nobody with this identity has answered',
    })
    expect(world.toBoard.some((m) => m.say === 'load begin')).toBe(false)
  })
})
