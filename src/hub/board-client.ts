import type { Output } from '../core/engine/input'
import type { BoardLimits } from '../core/harness/board-limits'
import type { Configuration } from '../core/harness/slot'
import type { Millis } from '../core/units-of-measure'
import { boardReaders, type RawReaders } from '../links/raw-reader'
import { type BoardEvents, BoardTalk, type Probe, type SomeBoard } from './board-talk'
import type { Line, LineMaker } from './lines/line'
import type { Rate } from './rate'

/** Whoever speaks for one board, whatever it is: one with the board link, or a bought controller. */
export interface BoardClient extends SomeBoard {
  readonly carries: 'board'
  /** The row of the rig that it is. */
  readonly connection: string
  /** Whether it is one of the stand-ins; a real board with the same identity goes before it. */
  readonly isSimulated: boolean
  /** Whether it holds whatever it is given at once and for nothing, so that nobody has to ask for it. */
  readonly holdsAnything: boolean
  readonly line: Line
  readonly model: string
  /** The number of its program, where it is Clavik's own. */
  readonly program: number | null
  readonly problem: string | null
  readonly cure: string | null
  readonly delayMs: number | null
  readonly holds: Configuration
  readonly fingerprint: string
  /** Another number after each start. */
  readonly boot: number | null
  readonly limits: BoardLimits | null
  /** Share loaded so far, while a load runs. */
  readonly loading: number | null
  readonly rate: Rate
  /** What came damaged, or not at all, in either direction. */
  readonly bad: number
  readonly missed: number
  readonly badThere: number
  /** Why it cannot note how its inputs move, or null where it can. */
  readonly noteObjection: string | null
  readonly rawReaders: () => RawReaders
  open(): void
  /** Lets go of it for good; whoever stood for it knows why. */
  close(why: string): void
  probe(what: Probe): void
  outputs(outputs: readonly Output[], batch: number): void
  /** Has it hold this; ends in what was wrong, or null. */
  load(configuration: Configuration): Promise<string | null>
  askEcho(heard?: ((ms: Millis) => void) | null): void
  check(now: number): void
  excuse(now: number): void
}

/** A board with the board link at the other end of one connection. */
export class LinkedBoard extends BoardTalk implements BoardClient {
  readonly carries = 'board'
  readonly holdsAnything = false
  readonly line: Line

  constructor(
    readonly connection: string,
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

  close(why: string): void {
    this.line.end()
    this.lost(why)
  }
}
