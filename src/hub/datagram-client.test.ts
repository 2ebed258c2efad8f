import { execFileSync } from 'node:child_process'
import { createSocket, type Socket } from 'node:dgram'
import { afterEach, describe, expect, it } from 'vitest'
import { until } from '../../tests/app'
import { longestWait, SourceEar, sending } from '../../tests/source-ear'
import type { DatagramLayout } from '../core/datagrams/layout'
import { DatagramClient } from './datagram-client'
import { UdpLine } from './lines/udp-line'
import type { OutgoingValues } from './outgoing-values'

const layout: DatagramLayout = {
  craft: 'Some truck',
  order: 'little',
  packets: [
    {
      ...{ name: 'Drive', bytes: 16, grows: 'count' },
      fields: [
        { name: 'count', at: 0, as: 'u32' },
        { name: 'rpm', at: 4, as: 'f32', range: [0, 9500] },
        { name: 'gear', at: 8, as: 'i8', range: [-1, 6] },
        { name: 'slip', at: 12, as: 'f32', range: [0, 1] },
      ],
    },
  ],
}

const made: { client: DatagramClient; socket: Socket }[] = []
afterEach(() => {
  for (const { client, socket } of made.splice(0)) {
    client.close('over')
    socket.close()
  }
})

const begin = (l = layout, outgoing: OutgoingValues = () => null, port = 0) => {
  const ear = new SourceEar()
  const client: DatagramClient = new DatagramClient(
    'd',
    l,
    (events) => new UdpLine({ port, everywhere: false }, events),
    ear.events(() => client),
    outgoing,
  )
  const socket = createSocket('udp4')
  made.push({ client, socket })
  client.open()
  const send = (bytes: Uint8Array, from = socket) => from.send(bytes, client.line.port, '127.0.0.1')
  return { client, told: ear.told, said: ear.said, send }
}

const drive = (count: number, rpm: number, gear = 1, slip = 0): Buffer => {
  const b = Buffer.alloc(16)
  b.writeUInt32LE(count, 0)
  b.writeFloatLE(rpm, 4)
  b.writeInt8(gear, 8)
  b.writeFloatLE(slip, 12)
  return b
}

describe('telemetry that comes as datagrams', () => {
  it('of a program that was written elsewhere is read, and only what is asked for', async () => {
    const { client, told, said } = begin()
    await until('it listens', () => client.line.port > 0)
    expect(client.problem).toBe(`nothing has come to UDP port ${client.line.port} yet`)
    client.subscribe([1, 2], true)
    const theirs = `import socket,struct\ns=socket.socket(socket.AF_INET,socket.SOCK_DGRAM)\ns.sendto(struct.pack('<IfbxxxF'.replace('F','f'),7,4250.5,-1,0.25),('127.0.0.1',${client.line.port}))`
    execFileSync('python3', ['-c', theirs])
    await until('it is there', () => client.up)
    expect(told).toEqual({ rpm: 4250.5, gear: -1 })
    expect(said).toEqual(['described', 'up'])
    // What is asked for later is told of what came last.
    client.subscribe('all', false)
    expect(told).toEqual({ count: 7, rpm: 4250.5, gear: -1, slip: 0.25 })
    client.set(1)
    expect(said.at(-1)).toBe('telemetry is only read')
  })

  it('cut, too long, or of another layout: said, left out, and nothing else stops', async () => {
    const { client, told, send } = begin()
    await until('it listens', () => client.line.port > 0)
    client.subscribe('all', true)
    send(drive(1, 3000).subarray(0, 11))
    await until('it is said', () => client.bad === 1)
    expect(client.up).toBe(false)
    expect(client.problem).toBe('a datagram of 11 bytes came; “Drive” has 16')
    send(drive(1, 3000))
    await until('it is there', () => client.up)
    send(Buffer.alloc(400))
    await until('it is counted', () => client.bad === 2)
    expect(client.odd).toContain('a datagram of 400 bytes came; “Drive” has 16; it was left out.')
    // As long as ours, but another’s: nearly nothing is where it could be.
    for (let i = 0; i < 3; i++) send(drive(10 + i, -4e8, 99, 70))
    await until('it is noticed', () => {
      client.check(performance.now())
      return client.odd.some((o) => o.includes('another layout'))
    })
    send(drive(20, 5000))
    await until('it goes on', () => told.rpm === 5000)
  })

  it('doubled and out of order: the newest stands, however they come', async () => {
    const { client, told, send } = begin()
    await until('it listens', () => client.line.port > 0)
    client.subscribe('all', true)
    for (const n of [1, 2, 4, 3, 4, 2, 6, 5]) send(drive(n, n * 100))
    await until('the last has come', () => told.rpm === 600)
    await until('the late ones are counted', () =>
      client.odd.some((o) => o.startsWith('4 datagrams came late or twice')),
    )
    expect(told.count).toBe(6)
  })

  it('two programs on one port are told apart: the first is listened to', async () => {
    const { client, told, send } = begin()
    await until('it listens', () => client.line.port > 0)
    client.subscribe('all', true)
    send(drive(1, 1000))
    await until('the first is there', () => told.rpm === 1000)
    const other = createSocket('udp4')
    send(drive(900, 9000), other)
    await until('the other is noticed', () => client.odd.some((o) => o.startsWith('Two programs send here')))
    expect(told.rpm).toBe(1000)
    other.close()
  })

  it('that has stopped counts as quiet, then as gone; it comes back by itself', async () => {
    const { client, said, send } = begin()
    await until('it listens', () => client.line.port > 0)
    send(drive(1, 1000))
    await until('it is there', () => client.up)
    const t = performance.now()
    client.check(t + 800)
    client.check(t + 2600)
    expect(said.slice(-2)).toEqual(['quiet', 'away'])
    expect(client.problem).toBe('no datagram comes any more')
    send(drive(1, 1200))
    await until('it is back', () => client.up)
  })

  it('a port that another program has is said, with what would do', async () => {
    const taken = createSocket('udp4')
    await new Promise<void>((done) => taken.bind(0, '127.0.0.1', done))
    const { port } = taken.address()
    const { client } = begin(layout, () => null, port)
    await until('it is said', () => client.problem?.startsWith('another program') === true)
    expect(client.cure).toContain('another port')
    taken.close()
    await until('it is had as soon as it is free', () => client.line.port === port, 5000)
  })

  it('a flood is bounded: it is said, and everything else goes on', async () => {
    const { client, send } = begin()
    await until('it listens', () => client.line.port > 0)
    client.subscribe('all', true)
    const late = await longestWait(async () => {
      for (let round = 0; round < 40; round++) {
        for (let i = 0; i < 500; i++) send(drive(round * 500 + i, i))
        await new Promise((r) => setTimeout(r, 5))
      }
    })
    expect(client.up).toBe(true)
    expect(late).toBeLessThan(1500)
  })
})

describe('packets that are sent', () => {
  const out = (when: 'always' | 'changed', port: number): DatagramLayout => ({
    ...{ craft: '', order: 'big' },
    packets: [
      {
        ...{
          name: 'Display',
          bytes: 8,
          tell: { at: 0, as: 'u8', is: 7 },
          send: { host: '127.0.0.1', port, hz: 100, when },
        },
        fields: [
          { name: 'gear', at: 1, as: 'i8', value: 'x' },
          { name: 'rpm', at: 2, as: 'u16', scale: 10, value: 'y' },
          { name: 'word', at: 4, as: 'text', count: 4, value: 'z' },
        ],
      },
    ],
  })
  const receiver = async () => {
    const heard: string[] = []
    const socket = createSocket('udp4')
    socket.on('message', (b: Buffer) => heard.push(b.toString('hex')))
    await new Promise<void>((done) => socket.bind(0, '127.0.0.1', done))
    return { heard, socket, port: socket.address().port }
  }
  const values = (gear: number | null, rpm: number | null, word: string | null) => ({
    ...{ '0.0': gear, '0.1': rpm, '0.2': word },
  })

  it('only when something has changed, and never while nothing flows', async () => {
    const { heard, socket, port } = await receiver()
    let now: ReturnType<typeof values> | null = null
    begin(
      out('changed', port),
      sending(() => now),
    )
    await new Promise((r) => setTimeout(r, 80))
    expect(heard).toEqual([])
    now = values(-1, 8123, 'Gäste')
    await until('it is sent', () => heard.length > 0)
    // 7, -1, 812 as two bytes, and as much of the word as there is room for, with no half letter.
    expect(heard).toEqual(['07ff032c47c3a473'])
    await new Promise((r) => setTimeout(r, 80))
    expect(heard).toHaveLength(1)
    now = values(null, 8123, null)
    await until('it is sent again', () => heard.length > 1)
    expect(heard[1]).toBe('0700032c00000000')
    now = values(null, null, null)
    await new Promise((r) => setTimeout(r, 60))
    expect(heard).toHaveLength(2)
    socket.close()
  })

  it('always: at their rate', async () => {
    const { heard, socket, port } = await receiver()
    begin(
      out('always', port),
      sending(() => values(1, 2, 'a')),
    )
    await until('twenty have come', () => heard.length >= 20)
    socket.close()
  })

  it('a computer that nobody knows is said', async () => {
    const { client } = begin(
      {
        ...out('always', 9),
        packets: [
          {
            ...out('always', 9).packets[0],
            send: { host: 'no.such.place.invalid', port: 9, hz: 50, when: 'always' },
          },
        ],
      } as DatagramLayout,
      sending(() => values(1, 2, 'a')),
    )
    await until('it is said', () => client.odd.some((o) => o.startsWith('no computer is known as')), 8000)
  })
})
