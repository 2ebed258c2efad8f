import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { WebSocket } from 'ws'
import type { FromHub, ToHub } from '../src/core/live/feed'
import type { ScopeQuery } from '../src/core/scope/find'
import { rankHunt } from '../src/core/scope/hunt'
import { line, type ToSimulator } from '../src/links/simulator-link'
import { randomFrom } from '../src/standins/craft/world'
import { byCorrelation, byCount, isTop, kinds, type Run, run } from '../tests/hunt-scenes'
import { onPorts } from '../tests/rigs'
import { manyLamps, manyVariables } from './big-rig'
import { end, listen, pause, start } from './contact-to-lamp'
import { median, print, quantile, quietMs, slownessNow } from './measure'

const VARIABLES = 20_000
const CHANGES_A_FRAME = 6_000
const SECONDS = 15
const MOST_OF_A_CORE = 0.25
const TICKS_A_S = 100

/** A simulator with 20,000 variables, of which 6,000 change thirty times a second. */
const bigSimulator = () => {
  const catalogue = manyVariables(VARIABLES)
  const random = randomFrom(5)
  const sockets = new Set<Socket>()
  let all = false
  const server = createServer((s) => {
    sockets.add(s)
    let held = ''
    s.on('error', () => {})
    s.setEncoding('utf8')
    s.write(line({ say: 'hello', link: 'clavik simulator', version: 1, craft: 'Big', rateHz: 30 }))
    s.write(line({ say: 'catalogue', variables: [...catalogue.variables], events: [] }))
    s.on('data', (text: string) => {
      held += text
      const lines = held.split('\n')
      held = lines.pop() ?? ''
      for (const m of lines.map((l) => JSON.parse(l) as ToSimulator))
        if (m.say === 'subscribe') {
          all = m.i === 'all'
          const i = catalogue.variables.map((_, k) => k)
          s.write(line({ say: 'frame', t: 0, i, v: i.map(() => 0) }))
        }
    })
  })
  // Made beforehand: the bench is not to be what is slow.
  const frames = Array.from({ length: 8 }, () => {
    const i = Array.from({ length: CHANGES_A_FRAME }, () => Math.floor(random() * VARIABLES))
    return line({ say: 'frame', t: 0, i, v: i.map(() => Math.round(random() * 1000) / 10) })
  })
  let turn = 0
  const beat = setInterval(() => {
    const frame = all ? (frames[turn++ % frames.length] as string) : '{"say":"frame","t":0,"i":[],"v":[]}\n'
    for (const s of sockets) s.write(frame)
  }, 33)
  return {
    server,
    close: () => {
      clearInterval(beat)
      for (const s of sockets) s.destroy()
      server.close()
    },
  }
}

const ticksOf = (pid: number): number => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? []
  return Number(fields[11]) + Number(fields[12])
}

const query: ScopeQuery = { search: '', only: 'all', group: null, sort: { by: 'told', down: false } }

/** A hub with Scope open on it: what it takes, how soon it finds, how much it tells. */
const benchTable = async (): Promise<void> => {
  const dataDir = mkdtempSync(join(tmpdir(), 'clavik-bench-'))
  const secret = 'of this bench'
  const simulator = bigSimulator()
  const craftPort = await listen(simulator.server)
  const rig = onPorts(manyLamps(10, 100), craftPort, [])
  const remembered = { armed: true, rig: { id: 'bench', rig, revision: 1, setAside: [] } }
  writeFileSync(join(dataDir, 'hub.json'), JSON.stringify(remembered))
  const spare = createServer()
  const livePort = await listen(spare)
  spare.close()
  const databaseUrl = 'postgresql://nobody@127.0.0.1:1/none'
  const settings = { dataDir, databaseUrl, livePort, handPort: 1, portFolders: [], secret }
  const hub = start('build/hub.mjs', { CLAVIK_HUB: JSON.stringify(settings) })
  await pause(2500)
  const socket = new WebSocket(`ws://127.0.0.1:${livePort}/live`, { headers: { 'x-clavik-secret': secret } })
  const say = (m: ToHub) => socket.send(JSON.stringify(m))
  let bytes = 0
  let found: (rows: readonly number[]) => void = () => {}
  await new Promise((resolve) => socket.on('open', resolve))
  socket.on('message', (data) => {
    const text = String(data)
    bytes += text.length
    const m = JSON.parse(text) as FromHub
    if (m.say === 'scope found') found(m.rows)
  })
  say({ say: 'scope', on: true })
  say({ say: 'scope lists', pinned: [], muted: [], bound: [] })
  say({ say: 'scope show', rows: Array.from({ length: 40 }, (_, i) => i * 7) })
  await pause(4000)
  bytes = 0
  const before = ticksOf(hub.pid ?? 0)
  await pause(SECONDS * 1000)
  const share = (ticksOf(hub.pid ?? 0) - before) / TICKS_A_S / SECONDS
  print({
    name: 'Scope over 20,000 variables, 6,000 changes a frame: share of a core that the hub takes, against a quarter of a quiet one',
    value: share * 100,
    unit: '%',
    ratio: share / MOST_OF_A_CORE / (await slownessNow()),
    limit: 1,
  })
  print({ name: 'of it told to the tab', value: bytes / SECONDS / 1000, unit: 'kB/s' })
  const times: number[] = []
  const work: number[] = []
  for (const search of ['v', 'va', 'var 1', 'var 12', 'var 123', '12.5', 'zzz', '7', 'bench 19', '']) {
    for (let round = 0; round < 6; round++) {
      const began = performance.now()
      const answer = new Promise<readonly number[]>((resolve) => {
        found = resolve
      })
      say({
        say: 'scope find',
        ask: round,
        query: { ...query, search, sort: { by: 'value', down: round % 2 === 0 } },
      })
      await answer
      times.push(performance.now() - began)
      const working = performance.now()
      quietMs(KEYSTROKE_MS)
      work.push(performance.now() - working)
      await pause(60)
    }
  }
  print({
    name: 'a keystroke of a search among them, sorted by value, p50',
    value: median(times),
    unit: 'ms',
  })
  print({
    name: `a keystroke of a search among them, sorted by value, p90, against ${KEYSTROKE_MS} ms of work`,
    value: quantile(times, 0.9),
    unit: 'ms',
    ratio: quantile(times, 0.9) / quantile(work, 0.9),
    limit: 1,
  })
  socket.close()
  await end(hub)
  simulator.close()
  rmSync(dataDir, { recursive: true, force: true })
}

/** Whoever types does not see that it takes so long. */
const KEYSTROKE_MS = 30
const WATCHED = 10_000
const TRIES = 8

/** The hunt among 10,000 variables of which 4,000 move by themselves, against what one would do without it. */
const benchHunt = async (): Promise<void> => {
  const ranked: number[] = []
  for (const [operations, wanted] of [
    [1, 0.7],
    [3, 0.95],
  ] as const) {
    const runs: Run[] = Object.values(kinds).flatMap((kind) =>
      Array.from({ length: TRIES }, (_, seed) => run(kind, operations, 31 * operations + seed, WATCHED)),
    )
    for (const r of runs) {
      const began = performance.now()
      rankHunt(r.watch, r.marks, r.now)
      ranked.push(performance.now() - began)
    }
    const share = (judge: (r: Run) => boolean) => runs.filter(judge).length / runs.length
    print({
      name: `the hunt among 10,000 variables after ${operations === 1 ? 'one operation' : `${operations} operations`}: the right one on top, ${wanted * 100} % against it`,
      value: share(isTop) * 100,
      unit: '%',
      ratio: wanted / share(isTop),
      limit: 1,
    })
    print({ name: 'the same by a plain correlation', value: share(byCorrelation) * 100, unit: '%' })
    print({ name: 'the same by the number of changes', value: share(byCount) * 100, unit: '%' })
  }
  print({
    name: 'ranking 10,000 variables, against 100 ms of work',
    value: median(ranked),
    unit: 'ms',
    ratio: median(ranked) / 100 / (await slownessNow()),
    limit: 1,
  })
}

/** Scope at its full size. */
export const benchScope = async (): Promise<void> => {
  await benchHunt()
  await benchTable()
}
