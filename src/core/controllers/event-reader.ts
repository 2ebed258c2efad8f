import { type Capabilities, capabilities } from './capabilities'

/** One thing that an event device tells (struct input_event of 64-bit systems), without its time. */
export interface InputEvent {
  readonly type: number
  readonly code: number
  readonly value: number
}

export const EV_SYN = 0
export const EV_KEY = 1
export const EV_ABS = 3
/** Everything up to here was seen at one time; some of it was lost, and what stands is said anew behind the next report. */
const SYN_REPORT = 0
const SYN_DROPPED = 3

export const EVENT_BYTES = 24
const MOST_TYPE = 0x1f
const MOST_HELLO_BYTES = 64 * 1024

/** What came: who the controller is, or all that changed at one time. */
export type Heard =
  | { readonly is: 'hello'; readonly hello: Capabilities }
  | { readonly is: 'report'; readonly atMicros: number; readonly events: readonly InputEvent[] }

const utf8 = new TextDecoder()
const NOTHING = new Uint8Array(0)

/**
 * Reads the line of a controller: one line of JSON that says who it is and where everything stands, then the bytes of
 * its event device as the system gives them. What cannot be such a line is a problem, in words, and is read no further.
 */
export class EventReader {
  problem: string | null = null
  private left = NOTHING
  private isKnown = false
  private lost = false
  private events: InputEvent[] = []

  push(bytes: Uint8Array): Heard[] {
    if (this.problem !== null) return []
    const all = this.left.length === 0 ? bytes : joined(this.left, bytes)
    const heard: Heard[] = []
    let from = 0
    if (!this.isKnown) {
      const end = all.indexOf(10)
      if (end < 0) {
        if (all.length > MOST_HELLO_BYTES) this.problem = 'it does not say which controller it is'
        this.left = all.slice()
        return heard
      }
      const hello = readHello(utf8.decode(all.subarray(0, end)))
      if (typeof hello === 'string') {
        this.problem = hello
        return heard
      }
      this.isKnown = true
      heard.push({ is: 'hello', hello })
      from = end + 1
    }
    const view = new DataView(all.buffer, all.byteOffset, all.byteLength)
    for (; from + EVENT_BYTES <= all.length && this.problem === null; from += EVENT_BYTES)
      this.take(view, from, heard)
    this.left = from === all.length ? NOTHING : all.slice(from)
    return heard
  }

  private take(view: DataView, at: number, heard: Heard[]): void {
    const type = view.getUint16(at + 16, true)
    const code = view.getUint16(at + 18, true)
    const value = view.getInt32(at + 20, true)
    if (type > MOST_TYPE) this.problem = 'what it says are not the events of a controller'
    else if (type !== EV_SYN) {
      if (!this.lost && (type === EV_KEY || type === EV_ABS)) this.events.push({ type, code, value })
    } else if (code === SYN_DROPPED) {
      this.lost = true
      this.events = []
    } else if (code === SYN_REPORT) {
      // Seconds beyond 32 bits are those of the year 2106.
      const atMicros = view.getUint32(at, true) * 1_000_000 + view.getUint32(at + 8, true)
      if (!this.lost) heard.push({ is: 'report', atMicros, events: this.events })
      this.lost = false
      this.events = []
    }
  }
}

const joined = (a: Uint8Array, b: Uint8Array): Uint8Array => {
  const all = new Uint8Array(a.length + b.length)
  all.set(a)
  all.set(b, a.length)
  return all
}

const readHello = (line: string): Capabilities | string => {
  let said: unknown
  try {
    said = JSON.parse(line)
  } catch {
    return 'what it says first is no line of JSON'
  }
  // The helper may say in its place why there is no controller.
  if (typeof said === 'object' && said !== null && 'no' in said && typeof said.no === 'string')
    return said.no.slice(0, 200)
  const read = capabilities.safeParse(said)
  if (read.success) return read.data
  const [issue] = read.error.issues
  return `what it says of itself cannot be read: ${issue?.path.join(' ') ?? ''} ${issue?.message ?? ''}`
}

/** One event as its device says it, at a time in microseconds. */
export const eventBytes = ({ type, code, value }: InputEvent, atMicros: number): Uint8Array => {
  const view = new DataView(new ArrayBuffer(EVENT_BYTES))
  view.setBigInt64(0, BigInt(Math.floor(atMicros / 1_000_000)), true)
  view.setBigInt64(8, BigInt(Math.floor(atMicros % 1_000_000)), true)
  view.setUint16(16, type, true)
  view.setUint16(18, code, true)
  view.setInt32(20, value, true)
  return new Uint8Array(view.buffer)
}

/** Several events at one time, with the report that ends them. */
export const reportBytes = (events: readonly InputEvent[], atMicros: number): Uint8Array => {
  const all = [...events, { type: EV_SYN, code: SYN_REPORT, value: 0 }]
  const bytes = new Uint8Array(all.length * EVENT_BYTES)
  for (const [i, event] of all.entries()) bytes.set(eventBytes(event, atMicros), i * EVENT_BYTES)
  return bytes
}
