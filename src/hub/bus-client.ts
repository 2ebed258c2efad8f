import {
  AdapterReader,
  type BusSpeed,
  CLOSING_LINE,
  frameLine,
  openingLines,
  statusWords,
} from '../core/bus/adapter-line'
import { fitsIn, writeSignal } from '../core/bus/bits'
import { type BusFrame, keyOf } from '../core/bus/bus-frame'
import { type BusDatabase, type BusMessage, type BusSignal, variableOf } from '../core/bus/database'
import { checkOver } from '../core/bus/message-check'
import { type ReadSignal, signalsOf, unscaled } from '../core/bus/message-reader'
import { type Slowness, slowStep, slowTime } from '../core/bus/slow'
import { type BusSending, busKey } from '../core/connections/bus-settings'
import type { SimulatorCatalogue, VariableInfo } from '../core/rig/simulator-catalogue'
import { busReaders } from '../links/raw-bus'
import type { Line, LineMaker } from './lines/line'
import { ListenedSource, SAID_MS } from './listened-source'
import type { OutgoingValues } from './outgoing-values'
import type { SourceEvents } from './source-client'

/** So long an adapter may take to answer; then it is asked anew. */
const ANSWER_MS = 1500
/** A message that has not come for so long, or for so many of its usual pauses, is not there any more. */
const SILENT_MS = 1500
const SILENT_TIMES = 8
const STATUS_EVERY_MS = 1000
/** A refusal so soon after the status was asked for is the answer to that: not every adapter has one. */
const ANSWERS_MS = 200
/** So many identifiers are kept in view; a bus has a few hundred. */
const MOST_SEEN = 1000
const QUIET_MS = 2000

/** What was seen of one identifier, in one direction. */
export interface SeenOnBus {
  readonly id: number
  readonly extended: boolean
  readonly d: 'in' | 'out'
  data: Uint8Array
  count: number
  at: number
  everyMs: number
}

interface ReadMessage {
  readonly message: BusMessage
  /** Its signals, each with the place of its variable. */
  readonly signals: readonly (ReadSignal & { readonly slot: number })[]
  silent: boolean
}

/** Where a slow indicator is thought to be. */
interface SlowNow {
  readonly slow: Slowness
  at: number
  told: number
  when: number
}

interface Sender {
  readonly sending: BusSending
  readonly index: number
  readonly message: BusMessage
  readonly signals: readonly (BusSignal | undefined)[]
  timer: NodeJS.Timeout | null
  count: number
  problem: string | null
}

const infoOf = (m: BusMessage, s: BusSignal): VariableInfo => {
  const words: string[] = []
  for (const [n, w] of s.choices ?? []) if (Number.isInteger(n) && n >= 0 && n < 64) words[n] = w
  return {
    name: variableOf(m, s),
    type: 'number',
    unit: s.unit === '' ? null : s.unit,
    writable: false,
    range: s.range,
    ...(words.length > 0 ? { choices: Array.from(words, (w) => w ?? '') } : {}),
    description: s.description ?? '',
    group: m.name,
  }
}

/** A vehicle bus behind a serial adapter: reads what the database says, and sends messages again and again. */
export class BusClient extends ListenedSource {
  readonly line: Line
  readonly catalogue: SimulatorCatalogue
  protected readonly refuses = {
    set: 'a bus is only read; what is sent on it is said in its sheet',
    event: 'a bus takes no events',
  }
  readonly seen = new Map<string, SeenOnBus>()
  private readonly read = new Map<number, ReadMessage>()
  private readonly senders: readonly Sender[]
  private readonly slow = new Map<string, SlowNow>()
  private reader = new AdapterReader()
  /** Answers to the lines that open the bus that are still waited for. */
  private awaited = 0
  private askedAt = 0
  private statusAt = 0
  private knowsStatus = true
  private status: readonly string[] = []
  private refused: { readonly at: number; readonly count: number } | null = null

  constructor(
    connection: string,
    private readonly settings: {
      readonly database: BusDatabase
      readonly send: readonly BusSending[]
      readonly busSpeed: number
    },
    make: LineMaker,
    events: SourceEvents,
    private readonly outgoing: OutgoingValues,
  ) {
    super(connection, events)
    const { database, send } = settings
    const variables: VariableInfo[] = []
    for (const message of database.messages) this.takeMessage(message, variables)
    this.catalogue = { craft: '', variables, events: [] }
    this.values.resize(variables.length)
    this.senders = send.flatMap((sending, index): Sender[] => {
      const message = database.messages.find((m) => m.name === sending.message)
      if (!message || !sending.on) return []
      const signals = sending.values.map((v) =>
        message.signals.find((s) => s.name === v.signal && fitsIn(message, s)),
      )
      return [{ sending, index, message, signals, timer: null, count: 0, problem: null }]
    })
    this.line = make({
      opened: () => this.ask(),
      received: (bytes) => this.receive(bytes),
      closed: ({ problem, cure }) => this.lost(problem, cure),
    })
  }

  /** Of two messages with one number the first is read. */
  private takeMessage(message: BusMessage, variables: VariableInfo[]): void {
    const key = keyOf(message.id, message.extended)
    if (this.read.has(key)) return
    const signals = signalsOf(message).map((s) => ({
      ...s,
      slot: variables.push(infoOf(message, s.signal)) - 1,
    }))
    this.read.set(key, { message, signals, silent: true })
  }

  readonly rawReaders = () => busReaders(this.settings.database)

  override close(why: string): void {
    if (this.line.isUp) this.line.send(CLOSING_LINE)
    super.close(why)
  }

  /** Opens the bus at its speed; until that is answered it is not there. */
  private ask(): void {
    this.reader = new AdapterReader()
    const lines = openingLines(this.settings.busSpeed as BusSpeed)
    this.awaited = lines.length
    this.askedAt = performance.now()
    this.knowsStatus = true
    this.problem = 'the adapter has not answered yet'
    this.cure =
      'A serial adapter that speaks the ASCII line protocol (slcan) is expected: look at port and speed.'
    for (const line of lines) this.line.send(line)
  }

  protected override lost(problem: string, cure: string | null = null): void {
    for (const s of this.senders) {
      if (s.timer) clearInterval(s.timer)
      s.timer = null
    }
    this.awaited = 0
    for (const m of this.read.values()) m.silent = true
    super.lost(problem, cure)
  }

  private isThere(): void {
    this.awaited = 0
    if (this.up) return
    this.events.described()
    this.arrived()
    for (const s of this.senders) s.timer ??= setInterval(() => this.send(s), s.sending.everyMs)
  }

  private receive(bytes: Uint8Array): void {
    const now = performance.now()
    for (const said of this.reader.push(bytes)) {
      switch (said.is) {
        case 'frame':
          // One that speaks before it was opened was open already.
          if (!this.up) this.isThere()
          this.take(said.frame, now)
          break
        case 'done':
          if (this.awaited > 0 && --this.awaited === 0) this.isThere()
          break
        case 'refused':
          this.wasRefused(now)
          break
        case 'status':
          this.status = statusWords(said.flags)
          break
        case 'strange':
          this.bad++
          break
      }
    }
    this.tellChanges(now / 1000)
  }

  private wasRefused(now: number): void {
    if (this.awaited > 0) {
      this.awaited--
      // Closing what is closed is refused, too; only the last line opens it.
      if (this.awaited === 0) {
        this.problem = 'the adapter does not open the bus'
        this.cure = 'Look whether it knows this bus speed, and whether another program has left it open.'
      }
      return
    }
    if (now - this.statusAt < ANSWERS_MS) {
      this.knowsStatus = false
      return
    }
    this.bad++
    this.refused = { at: now, count: (this.refused?.count ?? 0) + 1 }
  }

  private note(d: 'in' | 'out', { id, extended, data }: BusFrame, now: number): void {
    const key = `${d}${keyOf(id, extended)}`
    const known = this.seen.get(key)
    if (known) {
      const since = now - known.at
      known.everyMs = known.everyMs === 0 ? since : known.everyMs + 0.1 * (since - known.everyMs)
      known.data = data
      known.at = now
      known.count++
    } else if (this.seen.size < MOST_SEEN)
      this.seen.set(key, { id, extended, d, data, count: 1, at: now, everyMs: 0 })
  }

  private take(frame: BusFrame, now: number): void {
    this.heardAt = now
    this.rate.add()
    this.tellQuiet(false)
    this.note('in', frame, now)
    const known = this.read.get(keyOf(frame.id, frame.extended))
    if (!known) return
    if (frame.data.length < known.message.bytes) {
      this.bad++
      return
    }
    known.silent = false
    this.tell(known, frame.data)
  }

  /** Tells what is wanted of a message; what is not in it stays as it was. */
  private tell({ signals }: ReadMessage, data: Uint8Array): void {
    for (const { slot, read } of signals) {
      const value = this.values.isWanted(slot) ? read(data) : undefined
      if (value !== undefined) this.values.note(slot, value)
    }
  }

  override subscribe(asked: number[] | 'all', anew: boolean): void {
    super.subscribe(asked, anew)
    // What is asked for now may have come a while ago, and was not read then.
    for (const [key, m] of this.read) {
      const seen = this.seen.get(`in${key}`)
      if (seen && !m.silent) this.tell(m, seen.data)
    }
    this.tellChanges()
  }

  /** Sends a message as its values are now; one whose values are not known is not sent. */
  private send(s: Sender): void {
    const { sending, message, index } = s
    const now = this.outgoing()
    if (now === null || !this.line.isUp) return
    const data = new Uint8Array(message.bytes)
    const t = performance.now()
    for (const [k, v] of sending.values.entries()) {
      const signal = s.signals[k]
      if (!signal || v.value.trim() === '') continue
      const { value, problem } = now(busKey(index, k))
      if (typeof value !== 'number') {
        s.problem = `${message.name} is not sent: ${problem ?? `${v.signal} is not known`}`
        return
      }
      writeSignal(data, signal, value)
      if (v.slow) this.goSlowly(busKey(index, k), v.slow, value, t)
    }
    s.problem = null
    const counter = message.signals.find((x) => x.name === sending.counter)
    if (counter) writeSignal(data, unscaled(counter), s.count++ % 2 ** Math.min(30, counter.length))
    const check = message.signals.find((x) => x.name === sending.check?.signal)
    if (check && sending.check)
      writeSignal(data, unscaled(check), checkOver(data, check.start >> 3, sending.check.how))
    const frame = { id: message.id, extended: message.extended, data }
    this.line.send(frameLine(frame))
    this.note('out', frame, t)
  }

  private goSlowly(key: string, slow: Slowness, told: number, now: number): void {
    const known = this.slow.get(key)
    if (!known) {
      this.slow.set(key, { slow, at: told, told, when: now })
      return
    }
    known.at = slowStep(known.at, known.told, slow, (now - known.when) / 1000)
    known.told = told
    known.when = now
  }

  /** Of every slow indicator what it is told, where it is thought to be, and in how many seconds it shows that. */
  slowNow(): Record<string, readonly [told: number, at: number, seconds: number]> {
    const now = performance.now()
    return Object.fromEntries(
      [...this.slow].map(([key, s]) => {
        const at = slowStep(s.at, s.told, s.slow, (now - s.when) / 1000)
        return [key, [s.told, at, slowTime(at, s.told, s.slow)] as const]
      }),
    )
  }

  get odd(): readonly string[] {
    const said = this.senders.flatMap((s) => (s.problem === null ? [] : [`${s.problem}.`]))
    for (const { message } of this.settings.send)
      if (!this.settings.database.messages.some((m) => m.name === message))
        said.push(`“${message}” is to be sent, and the database does not have it.`)
    if (this.refused && performance.now() - this.refused.at < SAID_MS)
      said.push(`The adapter has refused ${this.refused.count} messages: nobody on the bus may be listening.`)
    for (const words of this.status) said.push(`The adapter says: ${words}.`)
    return said
  }

  check(now: number): void {
    if (!this.up) {
      if (this.line.isUp && now - this.askedAt > ANSWER_MS) this.ask()
      return
    }
    this.tellQuiet(now - this.heardAt > QUIET_MS)
    this.notice(now)
    if (this.knowsStatus && now - this.statusAt > STATUS_EVERY_MS) {
      this.statusAt = now
      this.line.send('F\r')
    }
  }

  /** Messages that come no more: what they told is absent from now on. */
  private notice(now: number): void {
    for (const [key, m] of this.read) {
      const seen = this.seen.get(`in${key}`)
      if (!seen || m.silent) continue
      const usual = Math.max(seen.everyMs, m.message.everyMs ?? 0)
      if (now - seen.at < Math.max(SILENT_MS, SILENT_TIMES * usual)) continue
      m.silent = true
      for (const { slot } of m.signals) this.values.note(slot, null)
    }
    this.tellChanges(now / 1000)
  }
}
