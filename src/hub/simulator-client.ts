import { StringDecoder } from 'node:string_decoder'
import type { SimulatorCatalogue } from '../core/rig/simulator-catalogue'
import { FirstBytes, foreignWords } from '../links/foreign'
import type { LineReader } from '../links/line-reader'
import { simulatorReaders } from '../links/raw-reader'
import {
  type FromSimulator,
  line,
  readerOfSimulator,
  SIMULATOR_LINK_VERSION,
  type ToSimulator,
} from '../links/simulator-link'
import { readCatalogue } from '../links/told-catalogue'
import type { Line, LineMaker } from './lines/line'
import { Rate } from './rate'
import type { SourceClient, SourceEvents } from './source-client'

/** Without a frame for this long a simulator counts as gone, though its socket may still be open. */
const SILENCE_MS = 2000
/** The number of a question that is no order, and of a variable that no simulator has. */
const ECHO = -1
const NO_VARIABLE = 999_999_999
/** Without a frame for this long its values count as stale. */
const QUIET_MS = 600

/** Clavik's end of the simulator link: says hello, learns the catalogue, subscribes, and resumes by itself. */
export class SimulatorClient implements SourceClient {
  readonly carries = 'source'
  /** What it tells, as it said last. */
  catalogue: SimulatorCatalogue | null = null
  craft = ''
  problem: string | null = 'not connected yet'
  /** What the builder can do about it. */
  cure: string | null = null
  /** Milliseconds from a question to its answer, when last measured. */
  delayMs: number | null = null
  /** Lines that were not understood. */
  bad = 0
  up = false
  /** What is odd about its catalogue, in sentences. */
  odd: readonly string[] = []
  /** How many variables it has told of. */
  private told = 0
  readonly rate = new Rate(performance.now())
  readonly line: Line
  private first = new FirstBytes()
  /** What else it was that spoke last, in place of a simulator. */
  private foreign: string | null = null
  private asked: { is: number; at: number; heard: ((ms: number) => void) | null } | null = null
  private reader: LineReader<FromSimulator> = readerOfSimulator()
  private text = new StringDecoder('utf8')
  private wanted: number[] | 'all' = []
  private heardAt = 0
  private isOpen = false
  private described = false
  private quiet = false

  constructor(
    /** The row of the rig that it is. */
    readonly connection: string,
    make: LineMaker,
    private readonly events: SourceEvents,
  ) {
    this.line = make({
      opened: () => {
        this.isOpen = true
        this.reader = readerOfSimulator()
        this.text = new StringDecoder('utf8')
        this.first = new FirstBytes()
        this.described = false
        this.heardAt = performance.now()
        if (this.foreign === null) {
          this.problem = 'it is open, and has not said hello yet'
          this.cure =
            'A simulator says hello and catalogue of itself: bin/check-simulator tells what is missing.'
        }
        this.say({ say: 'hello', version: SIMULATOR_LINK_VERSION })
      },
      received: (bytes) => this.receive(bytes),
      closed: ({ problem, cure }) => this.lost(problem, cure),
    })
  }

  readonly rawReaders = () =>
    simulatorReaders({
      variable: (i) => this.catalogue?.variables[i]?.name,
      event: (i) => this.catalogue?.events[i]?.name,
    })

  open(): void {
    this.line.open()
  }

  /** Lets go of it for good. */
  close(why: string): void {
    this.line.end()
    this.lost(why)
  }

  private say(message: ToSimulator): void {
    this.line.send(line(message))
  }

  private lost(problem: string, cure: string | null = null): void {
    // Who hangs up at once, and comes back, is still who it was; not who does not come any more.
    if (!this.isOpen) this.foreign = null
    this.isOpen = false
    if (this.foreign === null) {
      this.problem = problem
      this.cure = cure
    }
    this.asked = null
    this.delayMs = null
    this.described = false
    if (!this.up) return
    this.up = false
    this.events.up(false)
  }

  private receive(bytes: Uint8Array): void {
    const { bad } = this.reader
    if (!this.up) this.first.take(bytes)
    for (const m of this.reader.push(this.text.write(bytes))) this.take(m)
    if (this.reader.bad === bad) return
    this.bad += this.reader.bad - bad
    this.foreign = this.described ? null : foreignWords(this.first.text)
    if (this.foreign !== null) {
      this.problem = this.foreign
      this.cure = 'A simulator link was expected: correct the address or the port.'
    } else this.problem = `the simulator said something that is not understood: ${this.reader.problem}`
  }

  private take(m: FromSimulator): void {
    switch (m.say) {
      case 'hello':
        if (m.version !== SIMULATOR_LINK_VERSION) {
          this.refuse(
            `the simulator speaks version ${m.version} of the link, Clavik speaks ${SIMULATOR_LINK_VERSION}`,
          )
        } else this.craft = m.craft
        break
      case 'catalogue':
        if (this.craft === '') break
        this.takeCatalogue(m.variables, m.events)
        break
      case 'frame': {
        if (!this.described) break
        this.heardAt = performance.now()
        this.rate.add()
        this.tellQuiet(false)
        if (m.i.some((i) => i >= this.told))
          this.problem = `the simulator tells values beyond the ${this.told} of its catalogue; they are left out`
        // One that only says that it is there concerns nobody else.
        if (m.i.length > 0) this.events.frame(m.i, m.v, m.t)
        if (this.up) break
        this.up = true
        this.events.up(true)
        break
      }
      case 'done':
        this.hearAnswer(m.id)
        if (m.id !== ECHO) this.events.answer(m.id, null)
        break
      case 'error':
        if (m.id === null) this.problem = `the simulator objects: ${m.message}`
        else {
          this.hearAnswer(m.id)
          if (m.id !== ECHO) this.events.answer(m.id, m.message)
        }
        break
    }
  }

  /** Takes of it what is there; what is odd about it is told on. */
  private takeCatalogue(toldVariables: readonly unknown[], toldEvents: readonly unknown[]): void {
    const { variables, events, odd } = readCatalogue(toldVariables, toldEvents)
    this.described = true
    this.problem = null
    this.cure = null
    this.foreign = null
    this.odd = odd
    this.told = variables.length
    this.catalogue = { craft: this.craft, variables, events }
    this.events.described()
    this.askEcho()
  }

  /** Stays connected, so that the reason stands until the other end changes, but takes nothing from it. */
  private refuse(problem: string): void {
    this.craft = ''
    this.problem = problem
  }

  /** Asks for just these variables, if that differs from what was asked. */
  subscribe(asked: number[] | 'all', anew: boolean): void {
    // Beyond what it tells are names that only the builder knows.
    const indexes = asked === 'all' ? asked : asked.filter((i) => i < this.told)
    const same = JSON.stringify(indexes) === JSON.stringify(this.wanted)
    if (same && !anew) return
    this.wanted = indexes
    if (!this.described) return
    this.say({ say: 'subscribe', i: indexes })
  }

  /** Asks for what nobody can do, which changes nothing and is answered all the same, to see how long that takes. */
  askEcho(heard: ((ms: number) => void) | null = null): void {
    if (!this.described) return
    this.asked = { is: ECHO, at: performance.now(), heard }
    this.say({ say: 'set', id: ECHO, i: NO_VARIABLE, v: 0 })
  }

  private hearAnswer(is: number): void {
    const { asked } = this
    if (asked?.is !== is) return
    this.asked = null
    this.delayMs = performance.now() - asked.at
    asked.heard?.(this.delayMs)
  }

  /** The answer to one order at a time is waited for: how long it takes is the delay. */
  private time(request: number): void {
    this.asked ??= { is: request, at: performance.now(), heard: null }
  }

  set(request: number, variable: number, value: number | string): void {
    if (variable >= this.told) {
      this.events.answer(request, 'this craft does not have it')
      return
    }
    this.time(request)
    // Written out: the way from a contact to the simulator is the one that has to be quick.
    this.line.send(`{"say":"set","id":${request},"i":${variable},"v":${JSON.stringify(value)}}\n`)
  }

  event(request: number, event: number, value: number | string | null): void {
    this.time(request)
    this.say({ say: 'event', id: request, e: event, v: value })
  }

  private tellQuiet(quiet: boolean): void {
    if (quiet === this.quiet) return
    this.quiet = quiet
    this.events.quiet(quiet)
  }

  /** This process was kept from running: what has come meanwhile is read before anybody counts as gone. */
  excuse(now: number): void {
    this.heardAt = Math.max(this.heardAt, now - QUIET_MS)
  }

  /** Notices a simulator that has gone quiet. */
  check(now: number): void {
    if (this.up) this.tellQuiet(now - this.heardAt > QUIET_MS)
    if (this.up && now - this.heardAt > SILENCE_MS) {
      this.lost('the simulator has gone quiet')
      this.line.drop()
    }
  }
}
