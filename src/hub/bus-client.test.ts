import { createServer, type Server, type Socket } from 'node:net'
import { afterEach, describe, expect, it } from 'vitest'
import { until } from '../../tests/app'
import { longestWait, SourceEar, sending } from '../../tests/source-ear'
import type { BusSending } from '../core/connections/bus-settings'
import { clusterDatabase } from '../core/connections/cluster-database'
import { serveCluster } from '../standins/cluster/cluster-server'
import { BusClient } from './bus-client'
import { TcpLine } from './lines/tcp-line'

const ends: (() => void)[] = []
afterEach(() => {
  for (const end of ends.splice(0)) end()
})

type Now = Record<string, number | null> | null

const begin = (port: number, send: readonly BusSending[] = [], now: () => Now = () => null) => {
  const ear = new SourceEar()
  const client: BusClient = new BusClient(
    'b',
    { database: clusterDatabase, send, busSpeed: 500_000 },
    (events) => new TcpLine(() => ({ host: '127.0.0.1', port }), events),
    ear.events(
      () => client,
      () => client.subscribe('all', true),
    ),
    sending(now),
  )
  client.open()
  const timer = setInterval(() => client.check(performance.now()), 50)
  ends.push(() => {
    clearInterval(timer)
    client.close('over')
  })
  return { client, told: ear.told, said: ear.said }
}

const cluster = async (): Promise<number> => {
  let port = 0
  const served = serveCluster((p) => {
    port = p
  })
  ends.push(served.stop)
  await until('the cluster is there', () => port > 0)
  return port
}

/** An adapter that is nothing but a socket under the test’s own hand. */
const bareAdapter = async (answer: (line: string) => string) => {
  const heard: string[] = []
  const sockets: Socket[] = []
  const server: Server = createServer((socket) => {
    sockets.push(socket)
    socket.on('error', () => {})
    socket.on('data', (b) => {
      for (const line of b.toString('latin1').split('\r').slice(0, -1)) {
        heard.push(line)
        socket.write(answer(line))
      }
    })
  })
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  ends.push(() => {
    for (const s of sockets) s.destroy()
    server.close()
  })
  return {
    heard,
    port: (server.address() as { port: number }).port,
    say: (text: string) => sockets.at(-1)?.write(text),
  }
}

const engine = (more: Partial<BusSending> = {}): BusSending => ({
  ...{
    message: 'Engine',
    everyMs: 20,
    on: true,
    counter: 'RollingCount',
    check: { signal: 'Checksum', how: 'crc-8' },
  },
  values: [
    { signal: 'EngineSpeed', value: 'a', slow: { perS: 6000, lagS: 0.14 } },
    { signal: 'WaterTemp', value: 'b' },
  ],
  ...more,
})

describe('a cluster on a vehicle bus', () => {
  it('is driven with counts and checks, and follows in its own time, as is thought here too', async () => {
    let rpm = 0
    const { client, told } = begin(await cluster(), [engine()], () => ({ '0.0': rpm, '0.1': 90 }))
    await until('it is awake', () => told['Cluster.Awake'] === 1)
    rpm = 6000
    await until('it has begun to move', () => Number(told['Cluster.ShownEngine']) > 300)
    const [toldNow = 0, thought = 0, seconds = 0] = client.slowNow()['0.0'] ?? []
    expect(toldNow).toBe(6000)
    expect(thought).toBeLessThan(6000)
    expect(seconds).toBeGreaterThan(0)
    await until('it shows it', () => Math.abs(Number(told['Cluster.ShownEngine']) - 6000) < 30)
    expect(client.slowNow()['0.0']?.[1]).toBeCloseTo(6000, -2)
    expect(told['Cluster.Refused']).toBe(0)
    expect(client.odd).toEqual([])
  })

  it('lets its needles fall without a count that goes on, and that is seen on the bus', async () => {
    const { told } = begin(await cluster(), [engine({ counter: undefined })], () => ({
      '0.0': 4000,
      '0.1': 90,
    }))
    await until('it refuses', () => Number(told['Cluster.Refused']) > 10)
    await until('it sleeps again', () => told['Cluster.Awake'] === 0)
    await until('its needle has fallen', () => Number(told['Cluster.ShownEngine']) < 100)
  })

  it('is told nothing while nothing flows, and no message of which a value is not known', async () => {
    let now: Now = null
    const { client, told } = begin(await cluster(), [engine()], () => now)
    await until('it tells of itself', () => told['Cluster.Awake'] === 0)
    expect([...client.seen.values()].filter((s) => s.d === 'out')).toEqual([])
    now = { '0.0': 3000, '0.1': null }
    await until('it is said', () => client.odd.includes('Engine is not sent: WaterTemp is not known.'))
    expect([...client.seen.values()].filter((s) => s.d === 'out')).toEqual([])
    now = { '0.0': 3000, '0.1': 20 }
    await until('it goes on', () => Number(told['Cluster.ShownEngine']) > 2900)
    expect(client.odd).toEqual([])
  })
})

describe('an adapter', () => {
  it('that never answers is said to, and asked again', async () => {
    const { heard, port } = await bareAdapter(() => '')
    const { client } = begin(port)
    await until('it is asked', () => heard.length >= 3)
    expect(heard.slice(0, 3)).toEqual(['C', 'S6', 'O'])
    expect(client.up).toBe(false)
    expect(client.problem).toBe('the adapter has not answered yet')
    await until('it is asked again', () => heard.length >= 6, 4000)
  })

  it('that refuses to open is said to; one that only refuses to close what is closed is not', async () => {
    const { port } = await bareAdapter((l) => (l === 'C' ? '\x07' : '\r'))
    const { client } = begin(port)
    await until('it is there', () => client.up)
    const bad = await bareAdapter(() => '\x07')
    const refused = begin(bad.port)
    await until('it is said', () => refused.client.problem === 'the adapter does not open the bus')
  })

  it('on a bus where nobody listens: what it refuses is counted and said', async () => {
    const { port } = await bareAdapter((l) => (l[0] === 't' ? '\x07' : l[0] === 'F' ? 'F24\r' : '\r'))
    const { client } = begin(port, [engine()], () => ({ '0.0': 1, '0.1': 1 }))
    await until('it is said', () => client.odd.some((o) => o.startsWith('The adapter has refused')))
    await until(
      'its status is said',
      () => client.odd.filter((o) => o.startsWith('The adapter says')).length === 2,
      4000,
    )
  })

  it('a message that comes no more is absent, and never stands still as if it came', async () => {
    const { port, say } = await bareAdapter(() => '\r')
    const { client, told } = begin(port)
    await until('it is there', () => client.up)
    for (let i = 0; i < 4; i++) say('t5A08E02E000001000000\r')
    await until('it is read', () => told['Cluster.ShownEngine'] === 3000)
    await until('it is absent', () => told['Cluster.ShownEngine'] === null, 4000)
    // One that is too short is none.
    say('t5A02E02E\r')
    await until('it is counted', () => client.bad === 1)
    expect(told['Cluster.ShownEngine']).toBe(null)
  })

  it('a bus in full flood, with noise in between: all that is whole is read, and nothing else waits', async () => {
    const { port, say } = await bareAdapter(() => '\r')
    const { client, told } = begin(port)
    await until('it is there', () => client.up)
    const late = await longestWait(async () => {
      for (let k = 0; k < 30; k++) {
        say(
          Array.from({ length: 1000 }, (_, i) =>
            i % 50 === 7
              ? 't5A0\xff\x00zz\r'
              : `t5A08${(i % 256).toString(16).padStart(2, '0')}00000001000000\r`,
          ).join(''),
        )
        await new Promise((r) => setTimeout(r, 5))
      }
      say('t5A08A40F000001000000\r')
      await until('the last is read', () => told['Cluster.ShownEngine'] === 1001, 20_000)
    })
    expect(late).toBeLessThan(1500)
    expect(client.bad).toBeGreaterThan(100)
  })
})
