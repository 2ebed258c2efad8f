import { createServer, type Socket } from 'node:net'
import { frameLine } from '../src/core/bus/adapter-line'
import type { BusDatabase } from '../src/core/bus/database'
import { Engine } from '../src/core/engine/engine'
import { BusClient } from '../src/hub/bus-client'
import { TcpLine } from '../src/hub/lines/tcp-line'
import { pause } from '../tests/app'
import { coreMs, printShare } from './measure'

const MESSAGES = 25
const SIGNALS = 8
const FRAMES_HZ = 500
const SECONDS = 5
/** What it may take of one core. */
const SHARE = 0.05
/** The adapter passes on what has come so often a second. */
const BATCHES_HZ = 100

const database: BusDatabase = {
  name: 'bench',
  messages: Array.from({ length: MESSAGES }, (_, m) => ({
    ...{ name: `Message${m}`, id: 0x100 + m, extended: false, bytes: 8 },
    signals: Array.from({ length: SIGNALS }, (_, s) => ({
      ...{ name: `Signal${s}`, start: s * 8, length: 8, order: 'little' as const, as: 'unsigned' as const },
      ...{ scale: 0.5, add: -10, range: null, unit: '' },
    })),
  })),
}

/** A busy bus, every signal another each time, from the adapter's line to the engine's values. */
export const benchBus = async (): Promise<void> => {
  const engine = new Engine()
  let adapter: Socket | null = null
  const server = createServer((socket) => {
    adapter = socket
    socket.on('data', (b) => socket.write('\r'.repeat(b.toString('latin1').split('\r').length - 1)))
    socket.on('error', () => {})
  })
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  const { port } = server.address() as { port: number }
  const client: BusClient = new BusClient(
    'b',
    { database, send: [], busSpeed: 500_000 },
    (events) => new TcpLine(() => ({ host: '127.0.0.1', port }), events),
    {
      described: () => {
        const { catalogue } = client
        engine.step({ is: 'sources', sources: [{ id: 'b', name: 'b', on: true, prefix: '', catalogue }] }, 0)
        client.subscribe('all', true)
      },
      up: (up) => engine.step({ is: 'source', source: 'b', up }, performance.now()),
      quiet: () => {},
      frame: (indexes, values) =>
        engine.step({ is: 'frame', source: 'b', indexes, values }, performance.now()),
      answer: () => {},
    },
    () => null,
  )
  client.open()
  while (!client.up) await pause(10)
  let count = 0
  const run = (seconds: number): Promise<number> =>
    coreMs(async () => {
      let due = performance.now()
      for (let i = 0; i < seconds * BATCHES_HZ; i++) {
        let text = ''
        for (let k = 0; k < FRAMES_HZ / BATCHES_HZ; k++) {
          const n = count++
          const data = Uint8Array.from({ length: 8 }, (_, b) => (n * 7 + b * 31) & 255)
          text += frameLine({ id: 0x100 + (n % MESSAGES), extended: false, data })
        }
        adapter?.write(text)
        client.check(performance.now())
        due += 1000 / BATCHES_HZ
        await pause(Math.max(0, due - performance.now()))
      }
    })
  await run(1)
  const heard = () => [...client.seen.values()].reduce((n, s) => n + s.count, 0)
  const before = heard()
  const ours = await run(SECONDS)
  await pause(50)
  if (heard() - before < SECONDS * FRAMES_HZ * 0.98)
    throw new Error(`only ${heard() - before} frames were heard`)
  await printShare(
    `${FRAMES_HZ} frames a second with ${MESSAGES * SIGNALS} signals on a vehicle bus`,
    ours,
    SECONDS,
    SHARE,
  )
  client.close('over')
  server.close()
}
