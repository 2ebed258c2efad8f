import { boardReaders } from '../links/raw-reader'
import { type BoardEvents, BoardTalk } from './board-talk'
import type { Line, LineMaker } from './lines/line'

/** A board at the other end of one connection. */
export class BoardClient extends BoardTalk {
  readonly carries = 'board'
  readonly line: Line

  constructor(
    /** The row of the rig that it is. */
    readonly connection: string,
    /** Whether it is one of the stand-ins; a real board with the same identity goes before it. */
    readonly isSimulated: boolean,
    make: LineMaker,
    events: BoardEvents,
  ) {
    super(events, {
      send: (bytes) => this.line.send(bytes),
      drop: () => this.line.drop(),
      now: () => performance.now(),
    })
    this.line = make({
      opened: () => this.opened(),
      received: (bytes) => this.receive(bytes),
      closed: ({ problem, cure }) => this.lost(problem, cure),
    })
  }

  readonly rawReaders = boardReaders

  open(): void {
    this.line.open()
  }

  /** Lets go of it for good; whoever stood for it knows why. */
  close(why: string): void {
    this.line.end()
    this.lost(why)
  }
}
