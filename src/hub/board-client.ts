import { type BoardEvents, BoardTalk } from './board-talk'
import { TcpLink } from './tcp-link'

/** A board at the other end of a TCP connection. */
export class BoardClient extends BoardTalk {
  private readonly tcp: TcpLink

  constructor(
    readonly port: number,
    events: BoardEvents,
  ) {
    super(events, {
      send: (bytes) => this.tcp.send(bytes),
      drop: () => this.tcp.drop(),
      now: () => performance.now(),
    })
    this.tcp = new TcpLink(port, {
      opened: () => this.opened(),
      received: (bytes) => this.receive(bytes),
      closed: (problem) => this.lost(problem),
    })
  }

  open(): void {
    this.tcp.open()
  }

  close(): void {
    this.tcp.end()
  }
}
