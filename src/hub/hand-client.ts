import { StringDecoder } from 'node:string_decoder'
import type { Micros } from '../core/units-of-measure'
import { type FromStandins, handLine, type Likeness, readerOfPins, type ToStandins } from '../links/hand-link'
import type { Line } from './lines/line'
import { TcpLine } from './lines/tcp-line'

export interface StandinEvents {
  /** The stand-ins have come: they are to be told what there is to be. */
  readonly opened: () => void
  /** A stand-in answers somewhere, or does not any more. */
  readonly moved: () => void
}

/** Fingers and a meter on the simulated boards, and where they and the simulated crafts answer, while they are there. */
export class HandClient {
  up = false
  /** What the meter shows, by board identity and pin number. */
  readonly levels = new Map<string, Map<number, number>>()
  readonly closed = new Map<string, Set<number>>()
  /** Where each wiper stands, what each display shows, where each needle is. */
  readonly wipers = new Map<string, Map<number, number>>()
  readonly shows = new Map<string, Map<number, number | string>>()
  /** What hangs on boards is really like, as they confirmed it, and since when in a board's own time. */
  readonly likenesses = new Map<string, { readonly at: Micros; readonly natures: readonly Likeness[] }>()
  /** Identities of boards whose pins read otherwise than when somebody last asked. */
  readonly changed = new Set<string>()
  /** Ports of simulated boards by identity, and of simulated crafts and clusters by the id of their connection. */
  readonly boardPorts = new Map<string, number>()
  readonly craftPorts = new Map<string, number>()
  private readonly ofBoards = [this.levels, this.closed, this.wipers, this.shows, this.likenesses]
  private readonly line: Line
  private reader = readerOfPins()
  private text = new StringDecoder('utf8')

  constructor(
    port: number,
    secret: string,
    private readonly events: StandinEvents = { opened: () => {}, moved: () => {} },
  ) {
    this.line = new TcpLine(() => ({ host: '127.0.0.1', port }), {
      opened: () => {
        this.up = true
        this.reader = readerOfPins()
        this.text = new StringDecoder('utf8')
        this.send({ say: 'hello', secret })
        events.opened()
      },
      received: (bytes) => {
        for (const m of this.reader.push(this.text.write(bytes))) this.take(m)
      },
      closed: () => this.lost(),
    })
  }

  private lost(): void {
    if (!this.up) return
    this.up = false
    for (const identity of this.closed.keys()) this.changed.add(identity)
    for (const map of this.ofBoards) map.clear()
    this.boardPorts.clear()
    this.craftPorts.clear()
    this.events.moved()
  }

  open(): void {
    this.line.open()
  }

  close(): void {
    this.line.end()
  }

  private take(m: FromStandins): void {
    switch (m.say) {
      case 'board':
        if (m.port !== 0) this.boardPorts.set(m.identity, m.port)
        else {
          this.boardPorts.delete(m.identity)
          this.changed.add(m.identity)
          for (const map of this.ofBoards) map.delete(m.identity)
        }
        this.events.moved()
        break
      case 'craft':
        if (m.port !== 0) this.craftPorts.set(m.id, m.port)
        else this.craftPorts.delete(m.id)
        this.events.moved()
        break
      case 'is like':
        this.likenesses.set(m.identity, m)
        break
      case 'pins':
        this.changed.add(m.identity)
        this.levels.set(m.identity, new Map(m.levels))
        this.closed.set(m.identity, new Set(m.closed))
        this.wipers.set(m.identity, new Map(m.wipers))
        this.shows.set(m.identity, new Map(m.shows))
        break
    }
  }

  send(message: ToStandins): void {
    this.line.send(handLine(message))
  }
}
