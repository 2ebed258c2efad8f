import { StringDecoder } from 'node:string_decoder'
import { type FromStandins, handLine, readerOfPins, type ToStandins } from '../links/hand-link'
import { TcpLink } from './tcp-link'

/** Fingers and a meter on the simulated boards, while they are there. */
export class HandClient {
  up = false
  /** What the meter shows, by board identity and pin number. */
  readonly levels = new Map<string, Map<number, number>>()
  readonly closed = new Map<string, Set<number>>()
  /** Where each wiper stands, what each display shows, where each needle is. */
  readonly wipers = new Map<string, Map<number, number>>()
  readonly shows = new Map<string, Map<number, number | string>>()
  /** Identities of boards whose pins read otherwise than when somebody last asked. */
  readonly changed = new Set<string>()
  private readonly board: (identity: string, port: number) => void
  private readonly link: TcpLink
  private reader = readerOfPins()
  private text = new StringDecoder('utf8')

  constructor(
    port: number,
    secret: string,
    opened: () => void,
    /** A simulated board answers on this port, or on none any more. */
    board: (identity: string, port: number) => void = () => {},
  ) {
    this.board = board
    this.link = new TcpLink(port, {
      opened: () => {
        this.up = true
        this.reader = readerOfPins()
        this.text = new StringDecoder('utf8')
        this.send({ say: 'hello', secret })
        opened()
      },
      received: (bytes) => {
        for (const m of this.reader.push(this.text.write(bytes))) this.take(m)
      },
      closed: () => {
        this.up = false
        for (const identity of this.closed.keys()) this.changed.add(identity)
        this.levels.clear()
        this.closed.clear()
        this.wipers.clear()
        this.shows.clear()
      },
    })
  }

  open(): void {
    this.link.open()
  }

  close(): void {
    this.link.end()
  }

  private take(m: FromStandins): void {
    if (m.say === 'board') {
      this.board(m.identity, m.port)
      if (m.port !== 0) return
      for (const map of [this.levels, this.closed, this.wipers, this.shows]) map.delete(m.identity)
      return
    }
    this.changed.add(m.identity)
    this.levels.set(m.identity, new Map(m.levels))
    this.closed.set(m.identity, new Set(m.closed))
    this.wipers.set(m.identity, new Map(m.wipers))
    this.shows.set(m.identity, new Map(m.shows))
  }

  send(message: ToStandins): void {
    this.link.send(handLine(message))
  }
}
