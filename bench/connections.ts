import { type ChildProcess, spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { wantedConfiguration } from '../src/core/harness/configuration'
import { encodeConfiguration } from '../src/core/harness/slot'
import { boardsOf, type Rig } from '../src/core/rig/rig'
import { Doing } from '../src/hub/doing'
import { Hub } from '../src/hub/hub'
import { MemoryFile } from '../src/hub/memory'
import { line } from '../src/links/simulator-link'
import { freePort } from '../tests/app'
import { MemoryShelf } from '../tests/memory-shelf'
import { PlainBoard } from '../tests/plain-board'
import { onPorts } from '../tests/rigs'
import { manyLamps, manyVariables } from './big-rig'
import { end, listen, pause, start, timeInTurn, type Way, wayThroughHub } from './contact-to-lamp'
import { coreMs, median, print, quantile, quietMs } from './measure'

const PARTS = 500
const ROUNDS = 25

/** Changing over to another rig in a hub that runs, against a hub that begins with it. */
const benchSwitching = (): void => {
  const folder = mkdtempSync(join(tmpdir(), 'clavik-bench-'))
  const settings = { hand: 1, secret: '', look: async () => [], shelf: new MemoryShelf() }
  const [a, b] = [manyLamps(PARTS, 1000), manyLamps(PARTS, 900)]
  const hub = new Hub(settings, new MemoryFile(folder), new Doing(folder))
  const take = (into: Hub, id: string, rig: Rig) => into.takeLoaded({ id, rig, revision: 1, setAside: [] })
  take(hub, 'a', a)
  const ours: number[] = []
  const reference: number[] = []
  for (let round = 0; round < ROUNDS; round++) {
    const [id, rig] = round % 2 === 0 ? (['b', b] as const) : (['a', a] as const)
    const start = performance.now()
    take(hub, id, rig)
    ours.push(performance.now() - start)
    const again = performance.now()
    const fresh = new Hub(settings, new MemoryFile(folder), new Doing(folder))
    take(fresh, id, rig)
    reference.push(performance.now() - again)
    fresh.close()
  }
  hub.close()
  rmSync(folder, { recursive: true, force: true })
  print({
    name: `changing over between rigs of ${PARTS} parts, against opening one afresh`,
    value: median(ours),
    unit: 'ms',
    ratio: median(ours) / median(reference),
    limit: 1,
  })
}

const BOARDS = 10
const SIMULATORS = 2
const IDLE_S = 20
const WARM_UP_S = 25
const MOST_OF_A_CORE = 0.02

/** A simulator that has something to tell and tells that nothing has changed, as often as others do. */
const idleSimulator = () => {
  const catalogue = manyVariables(200)
  const sockets = new Set<Socket>()
  const server = createServer((s) => {
    sockets.add(s)
    s.on('error', () => {})
    s.write(line({ say: 'hello', link: 'clavik simulator', version: 1, craft: 'Idle', rateHz: 30 }))
    s.write(line({ say: 'catalogue', variables: [...catalogue.variables], events: [] }))
  })
  const frames = setInterval(() => {
    for (const s of sockets) s.write('{"say":"frame","t":1,"i":[],"v":[]}\n')
  }, 33)
  return {
    server,
    close: () => {
      clearInterval(frames)
      for (const s of sockets) s.destroy()
      server.close()
    },
  }
}

/** A board that says its heartbeats and nothing else. */
const idleBoard = (identity: string, configuration: Uint8Array) => {
  let socket: Socket | null = null
  const board = new PlainBoard(identity, configuration, (bytes) => socket?.write(bytes))
  const beat = setInterval(() => board.started && board.beat(), 250)
  const server = createServer((s) => {
    socket = s
    board.plugged()
    s.on('error', () => {})
    s.on('data', (bytes) => board.receive(bytes))
  })
  return {
    server,
    close: () => {
      clearInterval(beat)
      socket?.destroy()
      server.close()
    },
  }
}

/** Seconds of a core that a process has used. */
const coreSeconds = (pid: number): number => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? []
  return (Number(fields[11]) + Number(fields[12])) / 100
}

/** Twelve connections that stand and have nothing to say but that they are there. */
const benchIdle = async (): Promise<void> => {
  const dataDir = mkdtempSync(join(tmpdir(), 'clavik-bench-'))
  const rig = manyLamps(BOARDS * 60, 1000)
  const rows = boardsOf(rig).slice(0, BOARDS)
  const boards = rows.map((row) =>
    idleBoard(row.identity ?? '', encodeConfiguration(wantedConfiguration(rig, row.id))),
  )
  const simulators = Array.from({ length: SIMULATORS }, idleSimulator)
  const ports = await Promise.all(boards.map((b) => listen(b.server)))
  const [first = 0, second = 0] = await Promise.all(simulators.map((s) => listen(s.server)))
  const one = onPorts(rig, first, ports)
  const settings = { kind: 'simulator tcp', host: '127.0.0.1', port: second, prefix: 'second.' } as const
  const speaking: Rig = {
    ...one,
    connection: {
      ...one.connection,
      second: { id: 'second', name: 'second', position: 90, on: true, settings },
    },
  }
  const remembered = { armed: true, rig: { id: 'bench', rig: speaking, revision: 1, setAside: [] } }
  writeFileSync(join(dataDir, 'hub.json'), JSON.stringify(remembered))
  const livePort = await freePort()
  const given = {
    dataDir,
    databaseUrl: 'postgresql://nobody@127.0.0.1:1/none',
    ...{ livePort, handPort: 1, portFolders: [], secret: 's' },
  }
  const hub = start('build/hub.mjs', { CLAVIK_HUB: JSON.stringify(given) })
  // Until its code has been compiled: a hub runs for hours.
  await pause(WARM_UP_S * 1000)
  const before = coreSeconds(hub.pid as number)
  await pause(IDLE_S * 1000)
  const took = coreSeconds(hub.pid as number) - before
  await end(hub)
  for (const other of [...boards, ...simulators]) other.close()
  rmSync(dataDir, { recursive: true, force: true })
  print({
    name: `${BOARDS + SIMULATORS} connections open and idle, share of a core, against 2 % of a quiet one`,
    value: (took / IDLE_S) * 100,
    unit: '%',
    ratio: (1000 * took) / (await coreMs(() => quietMs(IDLE_S * 1000 * MOST_OF_A_CORE))),
    limit: 1,
  })
}

const WAY_BINDINGS = 100
const WAY_SAMPLES = 40
const WAY_ROUNDS = 20

/** The first board over a bridge by another program: to a pseudo-terminal, or to TCP once more. */
export const bridged = async (as: 'serial' | 'tcp'): Promise<Way> => {
  const folder = mkdtempSync(join(tmpdir(), 'clavik-bench-'))
  const path = join(folder, 'port')
  const port = await freePort()
  let bridge: ChildProcess | null = null
  const way = await wayThroughHub(0, WAY_BINDINGS, async (rig, [boardPort]) => {
    const near =
      as === 'serial' ? `pty,raw,echo=0,link=${path}` : `tcp-listen:${port},bind=127.0.0.1,reuseaddr,nodelay`
    bridge = spawn('socat', [near, `tcp:127.0.0.1:${boardPort},nodelay`], { stdio: 'ignore' })
    while (as === 'serial' && !existsSync(path)) await pause(20)
    if (as === 'tcp') await pause(300)
    const row = rig.connection['board 0'] as Rig['connection'][string]
    const settings =
      as === 'serial'
        ? ({ kind: 'board serial', path, speed: 115_200, dataBits: 8 } as const)
        : ({ kind: 'board tcp', host: '127.0.0.1', port } as const)
    return { ...rig, connection: { ...rig.connection, 'board 0': { ...row, settings } } }
  })
  return {
    ...way,
    close: async () => {
      await way.close()
      bridge?.kill('SIGKILL')
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** The same bytes over a pseudo-terminal and over TCP, each through one more program. */
const benchSerial = async (): Promise<void> => {
  const { ours, theirs, ratio } = await timeInTurn(await bridged('serial'), await bridged('tcp'), {
    ...{ warmUp: 300, samples: WAY_SAMPLES, rounds: WAY_ROUNDS },
  })
  print({
    name: 'contact to lamp over a serial port, p50, against the same bytes over TCP',
    value: median(ours),
    unit: 'ms',
    ratio,
    limit: 1.5,
  })
  print({
    name: 'contact to lamp over a serial port, p99, against the same bytes over TCP',
    value: quantile(ours, 0.99),
    unit: 'ms',
    ratio: quantile(ours, 0.99) / quantile(theirs, 0.99),
    limit: 1.5,
  })
}

export const benchConnections = async (): Promise<void> => {
  benchSwitching()
  await benchIdle()
  await benchSerial()
}
