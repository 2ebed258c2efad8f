import { createServer, type Server, type Socket } from 'node:net'
import { type FromSimulator, line, readerOfClavik, SIMULATOR_LINK_VERSION } from '../links/simulator-link'
import { type Craft, STEPS_HZ } from './craft/craft'
import type { Value } from './craft/world'

export const FRAMES_HZ = 30
const STEPS_A_FRAME = STEPS_HZ / FRAMES_HZ

interface Listener {
  readonly socket: Socket
  /** What it asked for; null before it has asked. */
  wanted: number[] | null
  told: (Value | undefined)[]
  exact: (Value | undefined)[]
}

/** Values travel with nine significant digits: more than any gauge can show, and far less to send. */
const rounded = (value: Value): Value => (typeof value === 'number' ? Number(value.toPrecision(9)) : value)

/** Runs the craft in real time and serves it over the simulator link. */
export const serveCraft = (craft: Craft, port: number): { server: Server; stop: () => void } => {
  const { variables, events } = craft.world
  const listeners = new Set<Listener>()

  const tell = (l: Listener): void => {
    const i: number[] = []
    const v: Value[] = []
    for (const index of l.wanted ?? []) {
      const exact = variables[index]?.value ?? null
      if (l.exact[index] === exact) continue
      l.exact[index] = exact
      const value = rounded(exact)
      if (l.told[index] === value) continue
      l.told[index] = value
      i.push(index)
      v.push(value)
    }
    l.socket.write(line({ say: 'frame', t: craft.world.named('sim.time').n, i, v }))
  }

  const server = createServer((socket) => {
    const say = (message: FromSimulator) => socket.write(line(message))
    const listener: Listener = { socket, wanted: null, told: [], exact: [] }
    const reader = readerOfClavik()
    let bad = 0
    socket.setNoDelay(true)
    socket.setEncoding('utf8')
    say({
      say: 'hello',
      link: 'clavik simulator',
      version: SIMULATOR_LINK_VERSION,
      craft: 'Skerry 12',
      rateHz: FRAMES_HZ,
    })
    say({ say: 'catalogue', variables: variables.map((x) => x.info), events: events.map((e) => e.info) })
    socket.on('data', (text: string) => {
      for (const m of reader.push(text)) {
        if (m.say === 'subscribe') {
          listener.wanted =
            m.i === 'all' ? variables.map((_, i) => i) : m.i.filter((i) => i < variables.length)
          listener.told = []
          listener.exact = []
          tell(listener)
        } else if (m.say === 'set') {
          const problem = craft.world.set(m.i, m.v)
          say(problem === null ? { say: 'done', id: m.id } : { say: 'error', id: m.id, message: problem })
        } else if (m.say === 'event') {
          const event = events[m.e]
          if (event) event.act(typeof m.v === 'number' ? m.v : 0)
          say(
            event
              ? { say: 'done', id: m.id }
              : { say: 'error', id: m.id, message: `there is no event number ${m.e}` },
          )
        }
      }
      if (reader.foreign) {
        socket.destroy()
        return
      }
      if (reader.bad > bad) {
        bad = reader.bad
        say({ say: 'error', id: null, message: `not understood: ${reader.problem}` })
      }
    })
    socket.on('error', () => socket.destroy())
    socket.on('close', () => listeners.delete(listener))
    listeners.add(listener)
  }).listen(port, '127.0.0.1')

  let due = performance.now()
  let timer: NodeJS.Timeout | null = null
  const run = () => {
    const now = performance.now()
    // After a long pause of the machine the craft goes on from now; it does not race to catch up.
    if (now - due > 500) due = now
    while (due <= now) {
      for (let s = 0; s < STEPS_A_FRAME; s++) craft.step()
      due += 1000 / FRAMES_HZ
      // Also when it wants nothing: frames are how it knows that somebody is here.
      for (const l of listeners) if (l.wanted !== null) tell(l)
    }
    timer = setTimeout(run, Math.max(0, due - performance.now()))
  }
  run()
  const stop = () => {
    if (timer) clearTimeout(timer)
    for (const l of listeners) l.socket.destroy()
    server.close()
  }
  return { server, stop }
}
