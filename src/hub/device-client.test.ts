import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { createServer, type Server, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, describe, expect, it } from 'vitest'
import { freePort, until } from '../../tests/app'
import { longestWait, SourceEar, sending } from '../../tests/source-ear'
import { type DeviceDescription, deviceDescription } from '../core/device-line/description'
import { fingerprintOf } from '../core/device-line/fingerprint'
import { pythonSketch } from '../core/device-line/sketch-python'
import { DeviceClient } from './device-client'
import { TcpLine } from './lines/tcp-line'

const described = (more: object = {}): DeviceDescription =>
  deviceDescription.parse({
    send: [
      { name: 'rpm', value: 'x' },
      { name: 'speed', value: 'y', decimals: 1 },
    ],
    hear: [{ name: 'knob' }, { name: 'mode', as: 'text' }],
    hz: 50,
    ...more,
  })

const ends: (() => void)[] = []
afterEach(() => {
  for (const end of ends.splice(0)) end()
})

const begin = (d: DeviceDescription, port: number, now: () => Record<string, number | null> | null) => {
  const ear = new SourceEar()
  const client: DeviceClient = new DeviceClient(
    'd',
    d,
    (events) => new TcpLine(() => ({ host: '127.0.0.1', port }), events),
    ear.events(
      () => client,
      () => client.subscribe('all', true),
    ),
    sending(now),
  )
  client.open()
  ends.push(() => client.close('over'))
  return { client, told: ear.told, said: ear.said }
}

/** A device that is nothing but a socket under the test’s own hand. */
const bareDevice = async () => {
  const heard: string[] = []
  const sockets: Socket[] = []
  const server: Server = createServer((socket) => {
    sockets.push(socket)
    socket.on('data', (b) => heard.push(b.toString('latin1')))
    socket.on('error', () => {})
  })
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  ends.push(() => {
    for (const s of sockets) s.destroy()
    server.close()
  })
  const address = server.address() as { port: number }
  return { heard, port: address.port, say: (text: string) => sockets.at(-1)?.write(text), sockets }
}

describe('a device of one’s own', () => {
  it('reads with the reading side that was given to it, and both ends notice when they no longer fit', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'clavik-device-'))
    const port = await freePort()
    const d = described()
    // What somebody would write round it: it says hello, and answers each line with what it has read.
    const device = `${pythonSketch(d, 'bench')}
import socket, sys
server = socket.create_server(("127.0.0.1", int(sys.argv[1])))
line, _ = server.accept()
line.sendall(HELLO)
reader = Reader()
while True:
    data = line.recv(64)
    if not data:
        break
    for v in reader.feed(data):
        line.sendall(("%d,rpm was %d\\n" % (v["speed"] * 2, v["rpm"])).encode())
    if reader.other_description:
        line.sendall(HELLO)
`
    writeFileSync(join(folder, 'device.py'), device)
    let child: ChildProcess = spawn('python3', [join(folder, 'device.py'), String(port)])
    ends.push(() => {
      child.kill()
      rmSync(folder, { recursive: true, force: true })
    })
    const { client, told } = begin(d, port, () => ({ '0': 4321, '1': 12.5 }))
    await until('it has answered', () => told.mode === 'rpm was 4321')
    expect(told.knob).toBe(25)
    expect(client.odd).toEqual([])
    client.close('over')
    child.kill()
    // The drawing has a value more now; the device still has the reading side of before.
    const other = described({ send: [...d.send, { name: 'gear', value: 'z' }] })
    const next = await freePort()
    child = spawn('python3', [join(folder, 'device.py'), String(next)])
    const again = begin(other, next, () => ({ '0': 1, '1': 2, '2': 3 }))
    await until('it is said', () =>
      again.client.odd.some((o) => o.includes(`for the description ${fingerprintOf(d)}`)),
    )
    expect(again.told).toEqual({})
  })

  it('is told only what has changed, and nothing while nothing flows', async () => {
    const { heard, port } = await bareDevice()
    let now: Record<string, number | null> | null = null
    const { client } = begin(described({ check: 'none', marked: false }), port, () => now)
    await until('it is open', () => client.up)
    await new Promise((r) => setTimeout(r, 80))
    expect(heard).toEqual([])
    now = { '0': 100.2, '1': 3 }
    await until('it is told', () => heard.length > 0)
    // Less than is written is no change.
    now = { '0': 100.3, '1': 3.01 }
    await new Promise((r) => setTimeout(r, 100))
    now = { '0': null, '1': 3 }
    await until('it is told that one is absent', () => heard.length > 1)
    expect(heard).toEqual(['$100,3.0\n', '$,3.0\n'])
  })

  it('is told again what has not changed: a line may be lost, or have come before it was there', async () => {
    const { heard, port } = await bareDevice()
    begin(described({ check: 'none', marked: false }), port, () => ({ '0': 5, '1': 6 }))
    await until('it is told once more', () => heard.length >= 2, 4000)
    expect(new Set(heard)).toEqual(new Set(['$5,6.0\n']))
  })

  it('need say a value only once, whenever that is asked for; what it said is not known once it has gone', async () => {
    const { port, say, sockets } = await bareDevice()
    const { client, told } = begin(described(), port, () => null)
    await until('it is there', () => client.up && sockets.length === 1)
    client.subscribe([], false)
    say('41,night\n')
    await until('it has been read', () => client.rate.update(performance.now() + 2000) > 0)
    expect(told).toEqual({})
    client.subscribe([1], false)
    expect(told).toEqual({ mode: 'night' })
    client.subscribe('all', true)
    expect(told).toEqual({ mode: 'night', knob: 41 })
    sockets[0]?.destroy()
    await until('it is gone', () => told.knob === null && told.mode === null)
  })

  it('that says nonsense, or never ends its line, is said to; what is right of it is taken', async () => {
    const { port, say, sockets } = await bareDevice()
    const { client, told } = begin(described(), port, () => null)
    await until('it is there', () => client.up && sockets.length > 0)
    say('7,on\nx,y\n')
    await until('the first is taken', () => told.knob === 7)
    await until('the second is said', () =>
      client.odd.some((o) => o.startsWith('Not understood: knob is no number')),
    )
    say('1,2,3,4\r\n\r\n  \n8,off\n')
    await until('it goes on', () => told.knob === 8)
    expect(client.bad).toBe(2)
    for (let i = 0; i < 20; i++) say('x'.repeat(1000))
    await until('it is noticed', () => client.odd.some((o) => o.includes('no end of a line')))
    say('\n9,on\n')
    await until('it goes on after that', () => told.knob === 9)
  })

  it('that never says anything, or floods: stale, or bounded, and nothing else waits', async () => {
    const { port, say, sockets } = await bareDevice()
    const { client, said, told } = begin(described(), port, () => null)
    await until('it is there', () => client.up && sockets.length > 0)
    client.check(performance.now() + 4000)
    expect(said.at(-1)).toBe('quiet')
    say('1,a\n')
    await until('it speaks again', () => said.at(-1) === 'again')
    const late = await longestWait(async () => {
      const flood = Array.from({ length: 20_000 }, (_, i) => `${i},m\n`).join('')
      for (let i = 0; i < 10; i++) {
        say(flood)
        await new Promise((r) => setTimeout(r, 10))
      }
      say('77,end\n')
      await until('the last of it is read', () => told.knob === 77, 20_000)
    })
    expect(late).toBeLessThan(1500)
  })

  it('that is pulled out comes back by itself', async () => {
    const { port, sockets } = await bareDevice()
    const { client, said } = begin(described(), port, () => ({ '0': 1, '1': 1 }))
    await until('it is there', () => client.up && sockets.length === 1)
    sockets[0]?.destroy()
    await until('it is gone', () => said.includes('away'))
    await until('it is back', () => client.up && sockets.length === 2)
  })
})
