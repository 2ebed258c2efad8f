/**
 * Brings the values of any program into Clavik: the simulator link (docs/simulator-link.md) with nothing but Node.
 * Put your program's values where `skiff` and `step` are now. Build and run it with any bundler, or:
 * npx esbuild adapter.ts --platform=node --format=esm --outfile=adapter.mjs && node adapter.mjs [port]
 */
import { createServer, type Socket } from 'node:net'
import { createInterface } from 'node:readline'

type Value = number | string
interface Line {
  readonly name: string
  readonly type: 'number' | 'boolean' | 'text'
  readonly unit?: string
  readonly range?: readonly [number, number]
  readonly read: () => Value
  /** Left out for what can only be read. */
  readonly write?: (value: Value) => void
}

const RATE_HZ = 20
const skiff = { speed: 0, throttle: 0.2, lamp: 0, name: 'Teal' }
const step = (seconds: number) => {
  skiff.speed += ((12 * skiff.throttle - skiff.speed) * seconds) / 4
}
const values: readonly Line[] = [
  { name: 'skiff.speed', type: 'number', unit: 'kt', range: [0, 12], read: () => skiff.speed },
  {
    ...{ name: 'skiff.throttle', type: 'number', range: [0, 1], read: () => skiff.throttle },
    write: (v) => {
      skiff.throttle = Number(v)
    },
  },
  {
    ...{ name: 'skiff.lamp', type: 'boolean', read: () => skiff.lamp },
    write: (v) => {
      skiff.lamp = Number(v)
    },
  },
  { name: 'skiff.name', type: 'text', read: () => skiff.name },
]
const events = [
  {
    name: 'skiff.stop',
    act: () => {
      skiff.throttle = 0
    },
  },
]

interface Order {
  readonly say: string
  readonly id: number
  readonly i: number | readonly number[] | 'all'
  readonly e: number
  readonly v: Value
}

/** Does what Clavik asks; gives back what stands against it, or null. */
const objection = (m: Order): string | null => {
  if (m.say === 'event') {
    const event = events[m.e]
    event?.act()
    return event ? null : `there is no event number ${m.e}`
  }
  const line = values[Number(m.i)]
  if (!line) return `there is no variable number ${m.i}`
  if (!line.write) return `${line.name} can only be read`
  if (typeof m.v !== (line.type === 'text' ? 'string' : 'number'))
    return `${line.name} takes a ${line.type}, not ${m.v}`
  const [least, most] = line.range ?? [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY]
  if (typeof m.v === 'number' && (m.v < least || m.v > most))
    return `${line.name} takes ${least} to ${most}, not ${m.v}`
  line.write(m.v)
  return null
}

const serve = (socket: Socket): void => {
  const say = (message: object) => socket.write(`${JSON.stringify(message)}\n`)
  let wanted: readonly number[] | null = null
  let told: (Value | undefined)[] = []
  const take = (m: Order): void => {
    if (m.say === 'subscribe') {
      const asked = m.i === 'all' ? values.map((_, i) => i) : (m.i as readonly number[])
      wanted = asked.filter((i) => values[i])
      told = []
    } else if (m.say === 'set' || m.say === 'event') {
      if (!Number.isInteger(m.id)) throw new Error('an id is needed')
      const problem = objection(m)
      say(problem === null ? { say: 'done', id: m.id } : { say: 'error', id: m.id, message: problem })
    } else if (m.say !== 'hello') throw new Error(`${m.say} is not known`)
  }
  say({ say: 'hello', link: 'clavik simulator', version: 1, craft: 'Skiff', rateHz: RATE_HZ })
  const variables = values.map(({ read, write, ...told }) => ({ ...told, writable: write !== undefined }))
  say({ say: 'catalogue', variables, events: events.map(({ name }) => ({ name })) })
  createInterface({ input: socket }).on('line', (line) => {
    try {
      take(JSON.parse(line) as Order)
    } catch (error) {
      say({
        say: 'error',
        id: null,
        message: `not understood: ${error instanceof Error ? error.message : error}`,
      })
    }
  })
  let t = 0
  const frames = setInterval(() => {
    t += 1 / RATE_HZ
    if (wanted === null) return
    const i = wanted.filter((k) => told[k] !== values[k]?.read())
    for (const k of i) told[k] = values[k]?.read()
    say({ say: 'frame', t, i, v: i.map((k) => told[k]) })
  }, 1000 / RATE_HZ)
  socket.on('error', () => socket.destroy())
  socket.on('close', () => clearInterval(frames))
}

setInterval(() => step(1 / RATE_HZ), 1000 / RATE_HZ)
const server = createServer(serve).listen(Number(process.argv[2] ?? 47800), '127.0.0.1', () => {
  const address = server.address()
  console.log(`the skiff answers on port ${typeof address === 'object' ? address?.port : address}`)
})
