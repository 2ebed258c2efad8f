import { StringDecoder } from 'node:string_decoder'
import type { SimulatorCatalogue } from '../core/rig/simulator-catalogue'
import type { LineReader } from '../links/line-reader'
import {
  type FromSimulator,
  line,
  readerOfSimulator,
  SIMULATOR_LINK_VERSION,
  type ToSimulator,
} from '../links/simulator-link'
import { readCatalogue } from '../links/told-catalogue'
import { Rate } from './rate'
import { TcpLink } from './tcp-link'

export interface SimulatorEvents {
  readonly described: (catalogue: SimulatorCatalogue) => void
  readonly up: (up: boolean) => void
  /** Frames have stopped coming, or come again, while the link stands. */
  readonly quiet: (quiet: boolean) => void
  readonly frame: (indexes: number[], values: (number | string | boolean | null)[]) => void
  readonly answer: (request: number, problem: string | null) => void
}

/** Without a frame for this long a simulator counts as gone, though its socket may still be open. */
const SILENCE_MS = 2000
/** Without a frame for this long its values count as stale. */
const QUIET_MS = 600

/** Clavik's end of the simulator link: says hello, learns the catalogue, subscribes, and resumes by itself. */
export class SimulatorClient {
  craft = ''
  problem: string | null = 'not connected yet'
  up = false
  /** What is odd about its catalogue, in sentences. */
  odd: readonly string[] = []
  /** How many variables it has told of. */
  private told = 0
  readonly rate = new Rate(performance.now())
  private readonly link: TcpLink
  private reader: LineReader<FromSimulator> = readerOfSimulator()
  private text = new StringDecoder('utf8')
  private wanted: number[] | 'all' = []
  private heardAt = 0
  private described = false
  private quiet = false

  constructor(
    port: number,
    private readonly events: SimulatorEvents,
  ) {
    this.link = new TcpLink(port, {
      opened: () => {
        this.reader = readerOfSimulator()
        this.text = new StringDecoder('utf8')
        this.described = false
        this.heardAt = performance.now()
        this.say({ say: 'hello', version: SIMULATOR_LINK_VERSION })
      },
      received: (bytes) => this.receive(bytes),
      closed: (problem) => this.lost(problem),
    })
  }

  open(): void {
    this.link.open()
  }

  close(): void {
    this.link.end()
  }

  private say(message: ToSimulator): void {
    this.link.send(line(message))
  }

  private lost(problem: string): void {
    this.problem = problem
    this.described = false
    if (!this.up) return
    this.up = false
    this.events.up(false)
  }

  private receive(bytes: Uint8Array): void {
    const { bad } = this.reader
    for (const m of this.reader.push(this.text.write(bytes))) this.take(m)
    if (this.reader.bad > bad)
      this.problem = `the simulator said something that is not understood: ${this.reader.problem}`
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
        this.events.frame(m.i, m.v)
        if (this.up) break
        this.up = true
        this.events.up(true)
        break
      }
      case 'done':
        this.events.answer(m.id, null)
        break
      case 'error':
        if (m.id === null) this.problem = `the simulator objects: ${m.message}`
        else this.events.answer(m.id, m.message)
        break
    }
  }

  /** Takes of it what is there; what is odd about it is told on. */
  private takeCatalogue(toldVariables: readonly unknown[], toldEvents: readonly unknown[]): void {
    const { variables, events, odd } = readCatalogue(toldVariables, toldEvents)
    this.described = true
    this.problem = null
    this.odd = odd
    this.told = variables.length
    this.events.described({ craft: this.craft, variables, events })
  }

  /** Stays connected, so that the reason stands until the other end changes, but takes nothing from it. */
  private refuse(problem: string): void {
    this.craft = ''
    this.problem = problem
  }

  /** Asks for just these variables, if that differs from what was asked. */
  subscribe(indexes: number[] | 'all', anew: boolean): void {
    const same = JSON.stringify(indexes) === JSON.stringify(this.wanted)
    if (same && !anew) return
    this.wanted = indexes
    if (this.described) this.say({ say: 'subscribe', i: indexes })
  }

  set(request: number, variable: number, value: number | string): void {
    // Written out: the way from a contact to the simulator is the one that has to be quick.
    this.link.send(`{"say":"set","id":${request},"i":${variable},"v":${JSON.stringify(value)}}\n`)
  }

  event(request: number, event: number, value: number | string | null): void {
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
      this.link.drop()
    }
  }
}
