import { once } from 'node:events'
import { type AddressInfo, connect, createServer, type Server } from 'node:net'
import { afterAll, describe, expect, it } from 'vitest'
import { PlainBoard } from '../../tests/plain-board'
import { demoRig } from '../../tests/rigs'
import { wantedConfiguration } from '../core/harness/configuration'
import { encodeConfiguration } from '../core/harness/slot'
import { encodeFrame } from '../links/framing'
import { SimulatedBoard } from '../standins/boards/simulated-board'
import { makeCraft } from '../standins/craft/craft'
import { randomFrom } from '../standins/craft/world'
import { serveCraft } from '../standins/craft-server'
import { checkBoard } from './board'
import { Findings } from './findings'
import { checkSimulator } from './simulator'
import type { Clock, OpenWire } from './wire'

const toEnd: (() => void)[] = []
// They wait more than they work, so all of them wait at once, and end together.
afterAll(() => {
  for (const end of toEnd.splice(0)) end()
})

const portOf = async (server: Server): Promise<number> => {
  if (!server.listening) await once(server, 'listening')
  return (server.address() as AddressInfo).port
}

const over =
  (port: number): OpenWire =>
  async (events) => {
    const socket = connect(port, '127.0.0.1')
    await once(socket, 'connect')
    socket.on('data', (bytes) => events.received(bytes))
    socket.on('close', () => events.closed())
    socket.on('error', () => {})
    return { send: (data) => socket.write(data), close: () => socket.destroy() }
  }

/** What is not right, as one reads it. */
const complaints = (findings: Findings): string[] =>
  findings.list
    .filter((f) => f.verdict === 'wrong' || f.verdict === 'missing')
    .map((f) => `${f.verdict}: ${f.what}`)

type Json = Record<string, unknown>

/** The simulated craft with one fault: what it says, and what it hears, goes through a hand that spoils it. */
const spoiled = async (says: (m: Json) => Json | null, hears: (text: string) => string): Promise<number> => {
  const craft = serveCraft(makeCraft(3), 0)
  const behind = await portOf(craft.server)
  const server = createServer((front) => {
    const back = connect(behind, '127.0.0.1').setEncoding('utf8')
    let held = ''
    back.on('data', (text: unknown) => {
      const lines = (held + String(text)).split('\n')
      held = lines.pop() ?? ''
      for (const line of lines) {
        const said = says(JSON.parse(line) as Json)
        if (said) front.write(`${JSON.stringify(said)}\n`)
      }
    })
    front.setEncoding('utf8').on('data', (text: unknown) => {
      const heard = hears(String(text))
      if (heard === 'close') front.destroy()
      else back.write(heard)
    })
    front.on('close', () => back.destroy())
    front.on('error', () => {})
    back.on('error', () => {})
  }).listen(0, '127.0.0.1')
  toEnd.push(() => {
    server.close()
    craft.stop()
  })
  return portOf(server)
}

const same = <T>(x: T): T => x

// Rates and waits go by the clock on the wall, which a loaded machine does not keep up with.
describe.concurrent('the check of a simulator', { timeout: 180_000, retry: 2 }, () => {
  it('finds nothing wrong with the simulated craft', async () => {
    const craft = serveCraft(makeCraft(3), 0)
    toEnd.push(craft.stop)
    const findings = new Findings()
    await checkSimulator(over(await portOf(craft.server)), findings, { event: 'gear.toggle' })
    expect(complaints(findings).filter((c) => !c.includes('an event is done'))).toEqual([])
    expect(findings.count('right')).toBeGreaterThan(24)
  })

  it('says of a web page that it is one', async () => {
    const server = createServer((s) => s.end('HTTP/1.1 400 Bad Request\r\n\r\n')).listen(0, '127.0.0.1')
    toEnd.push(() => server.close())
    const findings = new Findings()
    await checkSimulator(over(await portOf(server)), findings, { event: null })
    expect(findings.list).toEqual([
      {
        verdict: 'missing',
        what: 'hello of itself within 2 s',
        detail: 'a web server answers there',
      },
    ])
  })

  it.each<[string, (m: Json) => Json | null, (text: string) => string, string]>([
    [
      'another version',
      (m) => (m.say === 'hello' ? { ...m, version: 7 } : m),
      same,
      'wrong: hello of itself within 2 s',
    ],
    [
      'no catalogue',
      (m) => (m.say === 'catalogue' ? null : m),
      same,
      'missing: catalogue of itself within 2 s of the connection',
    ],
    [
      'two of one name',
      (m) =>
        m.say === 'catalogue'
          ? { ...m, variables: [...(m.variables as Json[]), (m.variables as Json[])[0]] }
          : m,
      same,
      'wrong: catalogue',
    ],
    [
      'texts for numbers',
      (m) => (m.say === 'frame' ? { ...m, v: (m.v as unknown[]).map((v) => String(v)) } : m),
      same,
      'wrong: values are of the type that the catalogue says',
    ],
    [
      'indexes from 1',
      (m) => (m.say === 'frame' ? { ...m, i: (m.i as number[]).map((i) => i + 1) } : m),
      same,
      'wrong: indexes are those of the catalogue, from 0',
    ],
    [
      'a time that runs back',
      (m) => (m.say === 'frame' ? { ...m, t: -(m.t as number) } : m),
      same,
      'wrong: the time of frames never runs back',
    ],
    [
      'no empty frames',
      (m) => (m.say === 'frame' && (m.i as number[]).length === 0 ? null : m),
      same,
      'missing: frames when nothing is subscribed',
    ],
    ['no answers', (m) => (m.say === 'done' ? null : m), same, 'missing: set is answered'],
    [
      'answers with another number',
      (m) => (m.say === 'done' ? { ...m, id: (m.id as number) + 1000 } : m),
      same,
      'missing: set is answered',
    ],
    [
      'done for everything',
      (m) => (m.say === 'error' && m.id !== null ? { say: 'done', id: m.id } : m),
      same,
      'wrong: set beyond a range is refused',
    ],
    [
      'silence about nonsense',
      (m) => (m.say === 'error' && m.id === null ? null : m),
      same,
      'missing: a line that is no JSON is objected to',
    ],
    [
      'a hang-up on nonsense',
      same,
      (text) => (text.includes('BEEP') ? 'close' : text),
      'wrong: a line that is no JSON',
    ],
    [
      'ears for whole packets only',
      same,
      (text) => (text.endsWith('\n') && text.startsWith('{') ? text : '\n'),
      'wrong: a line that comes in two pieces is understood',
    ],
  ])('finds one that has %s', async (_, says, hears, expected) => {
    const findings = new Findings()
    await checkSimulator(over(await spoiled(says, hears)), findings, { event: null })
    expect(complaints(findings)).toContain(expected)
    expect(findings.isSound).toBe(false)
  })
})

const rig = demoRig()
const identity = '5c1f0a6e21d94b07'
const configuration = encodeConfiguration(wantedConfiguration(rig, 'port-board'))

/** Time that passes only while somebody waits, so that how quick the machine is makes no difference. */
class Time {
  private passed = 0
  private readonly timers = new Set<{ ms: number; at: number; work: () => void }>()

  readonly clock: Clock = {
    now: () => this.passed,
    sleep: async (ms) => {
      for (const end = this.passed + ms; this.passed < end; this.tick()) await Promise.resolve()
    },
    every: (ms, work) => {
      const timer = { ms, at: this.passed + ms, work }
      this.timers.add(timer)
      return () => this.timers.delete(timer)
    },
  }

  get us(): number {
    return this.passed * 1000
  }

  private tick(): void {
    this.passed += 2
    for (const t of this.timers) {
      if (this.passed < t.at) continue
      t.at += t.ms
      t.work()
    }
  }
}

/** A simulated board that holds what the demo's first board holds. */
const simulatedBoard = (time: Time): OpenWire => {
  let received: (bytes: Uint8Array) => void = () => {}
  const memory = { configuration: [...configuration], closed: [22], wipers: [] }
  const board = new SimulatedBoard(identity, 'ATmega2560 board', memory, randomFrom(5), (b) => received(b))
  time.clock.every(2, () => board.step(time.us))
  return async (events) => {
    received = events.received
    board.connect(time.us)
    return { send: (data) => board.receive(data as Uint8Array, time.us), close: () => board.disconnect() }
  }
}

interface Spoil {
  readonly says?: (bytes: Uint8Array) => Uint8Array | null
  readonly hears?: (bytes: Uint8Array) => Uint8Array | null
  readonly beats?: boolean
}

/** A board in the hands of the test, with what is done to the bytes that it says and hears. */
const plainBoard =
  (time: Time, spoil: Spoil): OpenWire =>
  async (events) => {
    const board = new PlainBoard(identity, configuration, (bytes) => {
      const said = spoil.says ? spoil.says(bytes) : bytes
      if (said) events.received(said)
    })
    if (spoil.beats !== false) time.clock.every(200, () => board.beat())
    board.plugged()
    return {
      send: (data) => {
        const heard = spoil.hears ? spoil.hears(data as Uint8Array) : (data as Uint8Array)
        if (heard) board.receive(heard)
      },
      close: () => {},
    }
  }

const checkedBoard = async (board: (time: Time) => OpenWire): Promise<Findings> => {
  const time = new Time()
  const findings = new Findings()
  await checkBoard(board(time), findings, time.clock)
  return findings
}

/** Somebody who says this once, and nothing else. */
const saying =
  (text: string) =>
  (): OpenWire =>
  async ({ received }) => {
    received(new TextEncoder().encode(text))
    return { send: () => {}, close: () => {} }
  }

describe('the check of a board', () => {
  it('finds nothing wrong with a simulated one', async () => {
    const findings = await checkedBoard(simulatedBoard)
    expect(complaints(findings)).toEqual([])
    expect(findings.list.filter((f) => f.verdict === 'not tried')).toEqual([])
  })

  it('says that nothing answers, or that something else does', async () => {
    expect((await checkedBoard(saying(''))).list[0]?.detail).toBe('it says nothing at all')
    const page = await checkedBoard(saying('HTTP/1.1 400 Bad Request\r\n\r\n'))
    expect(page.list[0]?.detail).toBe('a web server answers there')
  })

  it.each<[string, Spoil, string]>([
    ['no heartbeat', { beats: false }, 'missing: heartbeats four times a second'],
    // A plain board has no clock of its own, so it never rests.
    ['no rest', {}, 'wrong: it goes to rest when it hears nothing'],
    [
      'a speed that is not ours',
      { says: (bytes) => bytes.map((b) => (b === 0 ? 0 : (b * 7) & 255 || 1)) },
      'missing: hello is answered with its own',
    ],
    [
      'no ear for the start',
      // Frames of type 2: the third byte once unstuffed; here by their length, for they have no payload.
      {
        hears: (bytes) => (bytes.length === encodeFrame(2, 0, []).length && bytes[2] === 2 ? null : bytes),
      },
      'missing: start is answered with where every input stands',
    ],
  ])('finds one that has %s', async (_, spoil, expected) => {
    expect(complaints(await checkedBoard((time) => plainBoard(time, spoil)))).toContain(expected)
  })
})
