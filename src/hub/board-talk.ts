import type { Output, Shown } from '../core/engine/input'
import { type BoardLimits, loadObjection } from '../core/harness/board-limits'
import {
  BLANK,
  type Configuration,
  decodeConfiguration,
  emptyConfiguration,
  encodeConfiguration,
  fingerprint,
} from '../core/harness/slot'
import { PROBING_PROGRAM } from '../core/programs/programs'
import type { Millis } from '../core/units-of-measure'
import {
  type BoardHeartbeat,
  type FromBoard,
  hostEnd,
  type InputValue,
  PIECE_BYTES,
  type SlotState,
  type ToBoard,
} from '../links/board-link'
import { FirstBytes, foreignWords } from '../links/foreign'
import { BOARD_LINK_VERSION } from '../links/framing'
import { NoteReader, type SlotNoted } from '../links/notes'
import { ReportReader } from '../links/reports'
import { ToldStates } from '../links/told-states'
import { Rate } from './rate'

/** Whichever board something is told of. */
export interface SomeBoard {
  readonly identity: string
  readonly up: boolean
}

export interface BoardEvents {
  /** The board is known and says what it holds, or is gone. */
  readonly changed: (board: SomeBoard) => void
  readonly report: (board: SomeBoard, slot: number, value: number) => void
  /** The board has said what it shows: all up to a batch, or something else than it was told. */
  readonly shown: (board: SomeBoard, shown: Shown) => void
  /** What it noted of the inputs that are probed, and how many notes found no room so far. */
  readonly noted?: (board: SomeBoard, notes: readonly SlotNoted[], left: number) => void
  /** Whether it stands for a drawn one. Any other is told nothing: hearing nothing, it goes to rest by itself. */
  readonly drawn: (board: SomeBoard) => boolean
}

/** What of a board's inputs is noted as it comes. */
export type Probe = Extract<ToBoard, { say: 'probe' }>['what']

const SILENCE_MS = 1500
const HEARTBEAT_MS = 250
const ANSWER_MS = 400
/** How often the delay of a line is measured. */
const ECHO_MS = 2000
/** A load is asked for again so often; `docs/board-link.md`. */
const TRIES = 5
/** How soon a lost report is asked for again, and a start that was not heard said again. */
const AGAIN_MS = 40
const START_MS = 300
const HELLO_MS = 500
/** Version, type, sequence number and checksum. */
const HEADER_BYTES = 5

/** Whom a talk with a board concerns, and the line that it goes over. */
export interface BoardLine {
  readonly send: (bytes: Uint8Array) => void
  /** Lets the line go; whoever owns it opens it again. */
  readonly drop: () => void
  readonly now: () => Millis
}

/** A question that is asked again until it is answered. */
interface Asked {
  readonly message: ToBoard
  sequence: number
  tries: number
  askedAt: Millis
  readonly answer: (problem: string | null) => void
}

/**
 * Clavik's end of one board link: handshake, what the board holds, heartbeats, reports, outputs, loading. It knows no
 * socket and no clock: bytes and the passing of time come from its owner.
 */
export class BoardTalk {
  identity = ''
  model = ''
  /** The number of its program, where it is Clavik's own. */
  program: number | null = null
  up = false
  problem: string | null = 'not connected yet'
  /** What the builder can do about it. */
  cure: string | null = null
  /** Milliseconds from a question to its answer, when last measured. */
  delayMs: number | null = null
  holds: Configuration = emptyConfiguration
  fingerprint = BLANK
  /** Another number after each start of the board and each load. */
  boot: number | null = null
  limits: BoardLimits | null = null
  loading: number | null = null
  readonly rate: Rate
  /** Frames from the board that came damaged or not at all, and frames to it that it dropped. */
  bad = 0
  missed = 0
  badThere = 0
  private link = hostEnd()
  private first = new FirstBytes()
  /** What else it was that spoke last, in place of a board. */
  private foreign: string | null = null
  private echo: { askedAt: Millis; heard: ((ms: Millis) => void) | null } | null = null
  private heardAt = 0
  private heartbeatAt = 0
  private helloAt = 0
  private startAt = 0
  private askedAgainAt = 0
  private lastSequence = 0
  private batch = 0
  private echoAt = 0
  private rests = 0
  /** How often in a row the board has shown something else. */
  private differs = 0
  private told = new ToldStates()
  private reports = new ReportReader()
  private reading: { bytes: Uint8Array; from: number; askedAt: number } | null = null
  private asked: Asked | null = null
  private probing: Probe = null
  private notes = new NoteReader()

  /** Whether somebody is at the other end, be it a board or not. */
  talking = false

  constructor(
    private readonly events: BoardEvents,
    private readonly over: BoardLine,
  ) {
    this.rate = new Rate(over.now())
  }

  /** The line stands. */
  opened(): void {
    this.link = hostEnd()
    this.first = new FirstBytes()
    this.heardAt = this.over.now()
    this.talking = true
    if (this.foreign === null)
      this.objectTo(
        'it is open, and nothing answers yet',
        'Is a program with the board link on it, and at this speed?',
      )
    this.hello()
  }

  private say(message: ToBoard): number {
    const { bytes, sequence } = this.link.encode(message)
    this.lastSequence = sequence
    this.over.send(bytes)
    return sequence
  }

  private hello(): void {
    this.helloAt = this.over.now()
    this.say({ say: 'hello' })
  }

  /** The line is gone, or nobody is at its other end. */
  lost(problem: string, cure: string | null = null): void {
    // Who hangs up at once, and comes back, is still who it was; not who does not come any more.
    if (!this.talking) this.foreign = null
    if (this.foreign === null) {
      this.problem = problem
      this.cure = cure
    }
    this.talking = false
    this.echo = null
    this.delayMs = null
    this.answered('the connection was lost')
    this.goDown()
  }

  private answered(problem: string | null): void {
    const { asked } = this
    this.asked = null
    asked?.answer(problem)
  }

  /** What it holds, and everything it was told, is not known any more. */
  private goDown(): void {
    this.reading = null
    this.boot = null
    if (!this.up) return
    this.up = false
    this.events.changed(this)
  }

  receive(bytes: Uint8Array): void {
    if (!this.up) this.first.take(bytes)
    for (const { message } of this.link.decode(bytes)) this.take(message)
    this.bad = this.link.bad
    this.missed = this.link.missed
    if (!this.up) this.sayWhoElse()
  }

  /** Something speaks, and it is no board that is understood. */
  private sayWhoElse(): void {
    const strange = this.link.strangeVersion
    this.foreign = foreignWords(this.first.text)
    if (this.foreign !== null)
      this.objectTo(this.foreign, 'A board was expected: correct the address or the port.')
    else if (strange !== null)
      this.objectTo(
        `it speaks version ${strange} of the board link, Clavik speaks ${BOARD_LINK_VERSION}`,
        'Load the board with a program of this version.',
      )
    else if (this.bad > 0)
      this.objectTo(
        'what it says is not the board link',
        'It may speak at another speed, or another program may be on it: its bytes are in the raw view.',
      )
  }

  private objectTo(problem: string, cure: string): void {
    this.problem = problem
    this.cure = cure
  }

  /** Asks something that changes nothing and is always answered, to see how long that takes. */
  askEcho(heard: ((ms: Millis) => void) | null = null): void {
    if (!this.talking) return
    this.echo = { askedAt: this.over.now(), heard }
    this.say({ say: 'read', offset: 0 })
  }

  private takeEcho(): void {
    const { echo } = this
    if (!echo) return
    this.echo = null
    this.delayMs = this.over.now() - echo.askedAt
    echo.heard?.(this.delayMs)
  }

  private take(m: FromBoard): void {
    this.heardAt = this.over.now()
    this.rate.add()
    switch (m.say) {
      case 'hello':
        this.takeHello(m)
        break
      case 'piece':
        this.takeEcho()
        this.takePiece(m.offset, m.bytes)
        break
      case 'inputs':
        this.takeReports(m.number, m.inputs)
        break
      case 'all inputs':
        if (!this.up) break
        this.reports.takeAll(m.number, m.inputs)
        this.report(m.inputs)
        break
      case 'answer':
        if (m.to === this.asked?.sequence) this.answered(m.problem)
        break
      case 'heartbeat':
        this.takeHeartbeat(m)
        break
      case 'probed':
        if (this.up && this.probing !== null) this.events.noted?.(this, this.notes.take(m), this.notes.left)
        break
    }
  }

  /** Why it cannot note how its inputs move, or null where it can. */
  get noteObjection(): string | null {
    return (this.program ?? 0) < PROBING_PROGRAM
      ? `is too old to tell how its inputs move: number ${PROBING_PROGRAM} is needed`
      : null
  }

  /** Has the board note what an input does, as it comes, or the contacts of all, or nothing any more. */
  probe(what: Probe): void {
    if (what === this.probing) return
    this.probing = what
    if (this.up) this.sayProbe()
  }

  private sayProbe(): void {
    // What is noted lies where the pieces of a load come; it is asked for again when that is over.
    if (this.loading !== null) return
    this.notes = new NoteReader()
    this.say({ say: 'probe', what: this.probing })
  }

  private takeHello(m: Extract<FromBoard, { say: 'hello' }>): void {
    const same = m.boot === this.boot && m.identity === this.identity && m.fingerprint === this.fingerprint
    // Said twice, or asked for twice.
    if (same && (this.up || this.reading)) return
    this.goDown()
    this.identity = m.identity
    this.model = m.model
    this.program = m.program ?? null
    this.fingerprint = m.fingerprint
    this.boot = m.boot
    this.limits = m.limits
    if (m.length === 0) this.ready(new Uint8Array(0))
    else {
      this.reading = { bytes: new Uint8Array(m.length), from: 0, askedAt: 0 }
      this.readOn(this.over.now())
    }
  }

  private readOn(now: number): void {
    if (!this.reading) return
    this.reading.askedAt = now
    this.say({ say: 'read', offset: this.reading.from })
  }

  private takePiece(offset: number, bytes: Uint8Array): void {
    const { reading } = this
    if (!reading || offset !== reading.from || offset + bytes.length > reading.bytes.length) return
    if (bytes.length === 0) return
    reading.bytes.set(bytes, offset)
    reading.from += bytes.length
    if (reading.from < reading.bytes.length) {
      this.readOn(this.over.now())
      return
    }
    this.reading = null
    this.ready(reading.bytes)
  }

  /** Knows what the board holds: from here on it counts as there. */
  private ready(configuration: Uint8Array): void {
    const whole = configuration.length === 0 || fingerprint(configuration) === this.fingerprint
    const decoded = configuration.length > 0 ? decodeConfiguration(configuration) : emptyConfiguration
    this.holds = whole && 'slots' in decoded ? decoded : emptyConfiguration
    this.problem = !whole
      ? 'what it holds does not fit its fingerprint'
      : 'problem' in decoded
        ? `what it holds cannot be read: ${decoded.problem}`
        : null
    this.up = true
    this.cure = null
    this.foreign = null
    this.echoAt = this.over.now()
    this.start()
    this.events.changed(this)
  }

  /** From here on the board reports, and counts what it is told. */
  private start(): void {
    this.startAt = this.over.now()
    this.differs = 0
    this.reports = new ReportReader()
    this.told.begin(this.say({ say: 'start' }), this.batch)
    // A start ends what was probed.
    if (this.probing !== null) this.sayProbe()
  }

  private takeReports(number: number, inputs: readonly InputValue[]): void {
    if (!this.up) return
    const news = this.reports.take(number, inputs)
    if (news) this.report(news)
    else if (this.events.drawn(this)) this.askAgain(number)
  }

  private report(inputs: readonly InputValue[]): void {
    for (const { slot, value } of inputs) this.events.report(this, slot, value)
  }

  /** Asks for what is missing before the board's report `number`. */
  private askAgain(number: number): void {
    const t = this.over.now()
    const from = this.reports.next
    // What a start has asked for is on its way.
    if (t - this.askedAgainAt < AGAIN_MS || (from === null && t - this.startAt < START_MS)) return
    this.askedAgainAt = t
    // From a report that has not been yet: the board says where everything stands.
    this.say({ say: 'again', from: from ?? (number + 0x4000) & 0xffff })
  }

  /** Holds what the board says of itself against what is known of it here. */
  private takeHeartbeat(m: BoardHeartbeat): void {
    // A probe may have been among what came damaged.
    if (m.bad > this.badThere && this.up && this.probing !== null) this.sayProbe()
    this.badThere = m.bad
    if (!this.up) return
    if (m.boot !== this.boot) {
      // It has started again on an open line, without a word or with one that was lost.
      this.goDown()
      this.hello()
      return
    }
    if (!m.started) {
      if (this.over.now() - this.startAt > START_MS) {
        this.start()
        this.events.shown(this, { is: 'differs', all: true })
      }
      return
    }
    if (!this.events.drawn(this)) return
    if (this.reports.misses(m.next)) this.askAgain(m.next)
    const rested = m.resting || m.rests !== this.rests
    this.rests = m.rests
    const verdict = this.told.judge(this.lastSequence, m.heard, m.digest)
    this.differs = verdict.is === 'differs' ? this.differs + 1 : 0
    // One that rests notes nothing any more, and what asked it to may have been among what was lost.
    if (this.probing !== null && (rested || this.differs > 1)) this.sayProbe()
    if (verdict.is === 'confirmed') this.events.shown(this, verdict)
    else this.events.shown(this, { is: 'differs', all: rested || this.differs > 1 })
  }

  /** Says states in frames that are no longer than the board takes. */
  outputs(outputs: readonly Output[], batch: number): void {
    const states: SlotState[] = []
    for (const { slot, row, state } of outputs) {
      if (!this.takes(slot, row, state)) continue
      if (typeof state === 'number') {
        states.push({ slot, state })
        continue
      }
      this.told.put(slot, row, state)
      this.told.sent(this.say({ say: 'show', slot, row, text: state }))
    }
    const most = Math.max(1, Math.floor(((this.limits?.frameBytes ?? 64) - HEADER_BYTES) / 4))
    for (let at = 0; at < states.length; at += most) {
      const some = at === 0 && states.length <= most ? states : states.slice(at, at + most)
      for (const { slot, state } of some) this.told.put(slot, 0, state)
      this.told.sent(this.say({ say: 'outputs', outputs: some }))
    }
    this.batch = batch
    this.told.ends(batch)
  }

  /** Whether the slot as the board holds it can show such a state; it would not count others. */
  private takes(slot: number, row: number, state: Output['state']): boolean {
    const held = this.holds.slots[slot]
    if (!held) return false
    if (typeof state === 'number') return held.kind === 'lamp' || held.kind === 'needle'
    if (held.kind === 'text') return row < held.rows && state.length <= held.columns
    return held.kind === 'digits' || held.kind === 'colour'
  }

  /** Loads a configuration, piece by acknowledged piece. The board keeps its old one until the last is in. */
  async load(configuration: Configuration): Promise<string | null> {
    if (this.loading !== null) return 'it is being loaded already'
    const bytes = encodeConfiguration(configuration)
    const objection = this.limits && loadObjection(configuration, bytes.length, this.limits)
    if (objection) return objection
    this.loading = 0
    try {
      let problem = await this.ask({
        say: 'load begin',
        length: bytes.length,
        fingerprint: fingerprint(bytes),
      })
      for (let offset = 0; offset < bytes.length && problem === null; offset += PIECE_BYTES) {
        problem = await this.ask({
          say: 'load piece',
          offset,
          bytes: bytes.slice(offset, offset + PIECE_BYTES),
        })
        this.loading = Math.min(1, (offset + PIECE_BYTES) / bytes.length)
      }
      problem ??= await this.ask({ say: 'load commit', fingerprint: fingerprint(bytes) })
      if (problem === null) this.hello()
      return problem
    } finally {
      this.loading = null
      if (this.up && this.probing !== null) this.sayProbe()
    }
  }

  /** Says something until it is answered, a few times at most. */
  private ask(message: ToBoard): Promise<string | null> {
    return new Promise((answer) => {
      this.asked = { message, sequence: this.say(message), tries: 1, askedAt: this.over.now(), answer }
    })
  }

  private askOnceMore(now: Millis): void {
    const { asked } = this
    if (!asked || now - asked.askedAt < ANSWER_MS) return
    if (asked.tries === TRIES) {
      this.answered('the board does not answer')
      return
    }
    asked.tries++
    asked.askedAt = now
    asked.sequence = this.say(asked.message)
  }

  /** Heartbeats, repeated hellos, and noticing a board that has gone quiet. */
  check(now: number): void {
    this.askOnceMore(now)
    if (this.up && now - this.heardAt > SILENCE_MS) {
      this.lost('the board has gone quiet')
      this.over.drop()
    } else if (this.up && now - this.heartbeatAt > HEARTBEAT_MS && this.events.drawn(this)) {
      this.heartbeatAt = now
      this.say({ say: 'heartbeat', next: this.reports.next ?? 0, digest: this.reports.digest })
    } else if (this.reading) {
      if (now - this.reading.askedAt > ANSWER_MS) this.readOn(now)
    } else if (this.up && now - this.echoAt > ECHO_MS && this.events.drawn(this)) {
      this.echoAt = now
      this.askEcho()
    } else if (!this.up && now - this.helloAt > HELLO_MS) this.hello()
  }

  /** This process was kept from running: what has come meanwhile is read before anybody counts as gone. */
  excuse(now: number): void {
    this.heardAt = Math.max(this.heardAt, now - SILENCE_MS / 2)
  }
}
