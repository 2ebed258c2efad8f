import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { createServer, type Server, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { WebSocket } from 'ws'
import { wantedConfiguration, wantedOn } from '../src/core/harness/configuration'
import { encodeConfiguration } from '../src/core/harness/slot'
import type { Status, ToHub } from '../src/core/live/feed'
import { boardsOf, type Rig } from '../src/core/rig/rig'
import { line, type ToSimulator } from '../src/links/simulator-link'
import { randomFrom } from '../src/standins/craft/world'
import { PlainBoard } from '../tests/plain-board'
import { onPorts } from '../tests/rigs'
import { manyLamps, manyVariables } from './big-rig'
import { median, medianRatio, print, quantile } from './measure'

const BINDINGS = 2_000
const VARIABLES = 4_000
const CHANGES_A_FRAME = 1_000
/** In turns, so that both meet the same machine; so few at a time that the board's line is not full of them. */
const SAMPLES = 20
const ROUNDS = 100
/** A hub runs for hours: what counts is how it is once its code has been compiled. */
const WARM_UP = 2_500
const FRAME_60_HZ_MS = 1000 / 60

export const listen = (server: Server): Promise<number> =>
  new Promise((resolve) => {
    server.listen(0, '127.0.0.1', () => {
      const address = server.address()
      resolve(typeof address === 'object' && address ? address.port : 0)
    })
  })

/** A board that answers at once, without pins: it only measures the way between. */
const fastBoard = (
  identity: string,
  configuration: Uint8Array,
  lampShown: (packed: number) => void,
  lampSlot: number,
) => {
  let socket: Socket | null = null
  const board = new PlainBoard(identity, configuration, (bytes) => socket?.write(bytes), {
    heard: (m) => {
      if (m.say === 'outputs') for (const o of m.outputs) if (o.slot === lampSlot) lampShown(o.state)
    },
  })
  const beat = setInterval(() => board.started && board.beat(), 250)
  const server = createServer((s) => {
    socket = s
    board.plugged()
    s.setNoDelay(true)
    s.on('error', () => {})
    s.on('data', (bytes) => board.receive(bytes))
  })
  const throwSwitch = (slot: number) => (up: boolean) => board.report(slot, up ? 1 : 0)
  const close = () => {
    clearInterval(beat)
    socket?.destroy()
    server.close()
  }
  return { server, throwSwitch, close }
}

/** A simulator that answers a set at once with the new value, while many others keep changing. */
export const fastSimulator = (asked: () => void = () => {}) => {
  const random = randomFrom(3)
  const catalogue = manyVariables(VARIABLES)
  let socket: Socket | null = null
  let subscribed = false
  const server = createServer((s) => {
    socket = s
    let held = ''
    s.setNoDelay(true)
    s.setEncoding('utf8')
    s.on('error', () => {})
    s.write(line({ say: 'hello', link: 'clavik simulator', version: 1, craft: 'Bench', rateHz: 30 }))
    s.write(line({ say: 'catalogue', variables: [...catalogue.variables], events: [] }))
    s.on('data', (text: string) => {
      held += text
      const lines = held.split('\n')
      held = lines.pop() ?? ''
      for (const m of lines.map((l) => JSON.parse(l) as ToSimulator)) {
        if (m.say === 'subscribe') {
          subscribed = true
          const i = catalogue.variables.map((_, k) => k)
          s.write(line({ say: 'frame', t: 0, i, v: i.map(() => 0) }))
        } else if (m.say === 'set') {
          asked()
          s.write(`{"say":"frame","t":0,"i":[${m.i}],"v":[${m.v}]}\n{"say":"done","id":${m.id}}\n`)
        }
      }
    })
  })
  const busy = setInterval(() => {
    if (!subscribed) return
    const i = Array.from({ length: CHANGES_A_FRAME }, () => 1 + Math.floor(random() * (VARIABLES - 1)))
    socket?.write(line({ say: 'frame', t: 0, i, v: i.map(() => random() * 2) }))
  }, 33)
  const close = () => {
    clearInterval(busy)
    socket?.destroy()
    server.close()
  }
  return { server, close }
}

/** The bench is the web process here: it knows the secret. */
export const secret = 'of this bench'
const letIn = { 'x-clavik-secret': secret }

export const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** Until the hub has all its links: how long that takes depends on the machine, and before it nothing is answered. */
export const allUp = async (livePort: number, boards: number): Promise<void> => {
  for (;;) {
    const status = await fetch(`http://127.0.0.1:${livePort}/status`, { headers: letIn })
      .then((r) => r.json() as Promise<Status>)
      .catch(() => null)
    const up = status?.boards.filter((b) => b.state === 'up').length ?? 0
    const isFed = status?.connections.some((c) => c.carries === 'source' && c.state === 'up')
    if (isFed && up === boards) return
    await pause(50)
  }
}

/** Views that are open beside: as Mirror, as Paths, as Bench. Each asks for what it shows, as a page does. */
const openTabs = async (livePort: number, count: number): Promise<WebSocket[]> => {
  const ids = Array.from({ length: BINDINGS }, (_, i) => `lamp-${i}`)
  const shown: ToHub[][] = [
    [
      { say: 'show', subject: 'parts', parts: ids.slice(0, 120) },
      { say: 'show', subject: 'says', parts: ids.slice(0, 120) },
      { say: 'agreements', on: true },
      { say: 'select', partId: 'lamp-0' },
    ],
    [{ say: 'show', subject: 'paths', parts: ids.slice(0, 40) }],
    [{ say: 'show', subject: 'parts', parts: ids }],
  ]
  return Promise.all(
    shown.slice(0, count).map(
      (messages) =>
        new Promise<WebSocket>((resolve) => {
          const socket = new WebSocket(`ws://127.0.0.1:${livePort}/live`, { headers: letIn })
          socket.on('open', () => {
            for (const m of messages) socket.send(JSON.stringify(m))
            resolve(socket)
          })
        }),
    ),
  )
}

export interface Way {
  readonly throwSwitch: (up: boolean) => void
  readonly next: (seen: () => void) => void
  readonly close: () => Promise<void>
}

/** Board → hub → simulator → hub → board, with all the rest of the rig busy. */
export const wayThroughHub = async (
  tabs: number,
  bindings = BINDINGS,
  reach: (rig: Rig, boardPorts: readonly number[]) => Promise<Rig> = async (rig) => rig,
): Promise<Way> => {
  const dataDir = mkdtempSync(join(tmpdir(), 'clavik-bench-'))
  const rig = manyLamps(bindings, VARIABLES)
  let seen: () => void = () => {}
  const boards = boardsOf(rig).map((row) => {
    const wanted = wantedOn(rig, row.id).slots
    const lampSlot = wanted.findIndex((w) => w.partId === 'lamp-0')
    return fastBoard(
      row.identity ?? '',
      encodeConfiguration(wantedConfiguration(rig, row.id)),
      () => seen(),
      lampSlot,
    )
  })
  const simulator = fastSimulator()
  const boardPorts = await Promise.all(boards.map((b) => listen(b.server)))
  const craftPort = await listen(simulator.server)
  const speaking = await reach(onPorts(rig, craftPort, boardPorts), boardPorts)
  const remembered = { armed: true, rig: { id: 'bench', rig: speaking, revision: 1, setAside: [] } }
  writeFileSync(join(dataDir, 'hub.json'), JSON.stringify(remembered))
  const spare = createServer()
  const livePort = await listen(spare)
  spare.close()
  const databaseUrl = 'postgresql://nobody@127.0.0.1:1/none'
  const settings = { dataDir, databaseUrl, livePort, handPort: 1, portFolders: [], secret }
  const hub = start('build/hub.mjs', { CLAVIK_HUB: JSON.stringify(settings) })
  await allUp(livePort, boards.length)
  const open = await openTabs(livePort, tabs)
  const slot = wantedOn(rig, 'board-0').slots.findIndex((w) => w.partId === 'toggle')
  const first = boards[0]
  if (!first) throw new Error('the bench has no board')
  const throwSwitch = first.throwSwitch(slot)
  throwSwitch(false)
  await pause(200)
  return {
    throwSwitch,
    next: (s) => {
      seen = s
    },
    close: async () => {
      for (const tab of open) tab.close()
      for (const b of boards) b.close()
      simulator.close()
      await end(hub)
      rmSync(dataDir, { recursive: true, force: true })
    },
  }
}

/** The same ends and the same messages, with nothing in between that reads or thinks, beside the busy hub. */
const wayThroughEcho = async (): Promise<Way> => {
  let seen: () => void = () => {}
  const board = fastBoard('echo', new Uint8Array(0), () => seen(), 0)
  const simulator = fastSimulator()
  const ports = [await listen(board.server), await listen(simulator.server)]
  const echo = start('build/echo.mjs', { CLAVIK_ECHO: [...ports, 0].join(',') })
  await pause(800)
  return {
    throwSwitch: board.throwSwitch(0),
    next: (s) => {
      seen = s
    },
    close: async () => {
      await end(echo)
      board.close()
      simulator.close()
    },
  }
}

/** Throws a switch again and again, and times how long it takes until the answer is seen. */
export const timeMany = async (way: Way, count: number, leastPauseMs: number): Promise<number[]> => {
  const times: number[] = []
  for (let i = 0; i < count; i++) {
    const start = performance.now()
    await new Promise<void>((resolve, reject) => {
      const lost = setTimeout(() => reject(new Error(`no answer to movement ${i}`)), 5000)
      way.next(() => {
        clearTimeout(lost)
        times.push(performance.now() - start)
        resolve()
      })
      way.throwSwitch(i % 2 === 0)
    })
    // Out of step with the busy frames, so that every phase of them is met.
    await pause(leastPauseMs + ((i * 7) % 5) * leastPauseMs)
  }
  return times
}

export const start = (file: string, env: Record<string, string>): ChildProcess => {
  const child = spawn(process.execPath, [file], { env: { ...process.env, ...env }, stdio: 'ignore' })
  process.on('exit', () => child.kill('SIGKILL'))
  return child
}

export const end = (child: ChildProcess): Promise<void> =>
  new Promise((resolve) => {
    child.on('close', () => resolve())
    child.kill('SIGTERM')
  })

/** How long a way takes beside another one: in turns, so that both of a round meet the same machine. */
export const timeInTurn = async (
  way: Way,
  reference: Way,
  { warmUp, samples, rounds }: { readonly warmUp: number; readonly samples: number; readonly rounds: number },
) => {
  await timeMany(way, warmUp, 0)
  await timeMany(reference, warmUp, 0)
  const ours: number[][] = []
  const theirs: number[][] = []
  for (let round = 0; round < rounds; round++) {
    theirs.push(await timeMany(reference, samples, 1))
    ours.push(await timeMany(way, samples, 1))
  }
  await reference.close()
  await way.close()
  return {
    ours: ours.flat(),
    theirs: theirs.flat(),
    /** The median of a round against that of the other's, in the middle of all rounds. */
    ratio: medianRatio(ours.map(median), theirs.map(median)),
  }
}

/** How often it is asked, in the benches of the hub's own ways. */
export const asOften = { warmUp: WARM_UP, samples: SAMPLES, rounds: ROUNDS }

/** The way of a contact to a lamp with so many views open, and beside it the bare way. */
const benchWay = async (tabs: number): Promise<void> => {
  const { ours, ratio } = await timeInTurn(await wayThroughHub(tabs), await wayThroughEcho(), asOften)
  const with_ = tabs > 0 ? `, ${tabs} views open` : ''
  print({
    name: `contact to lamp through the hub, p50, 2,000 bindings running${with_}, against a bare echo`,
    value: median(ours),
    unit: 'ms',
    ratio,
    limit: 1.5,
  })
  print({
    name: `contact to lamp through the hub, p99${with_}, against one frame at 60 Hz`,
    value: quantile(ours, 0.99),
    unit: 'ms',
    ratio: quantile(ours, 0.99) / FRAME_60_HZ_MS,
    limit: 1,
  })
}

export const benchContactToLamp = async (): Promise<void> => {
  await benchWay(0)
  await benchWay(3)
}
