/** Why a line does not stand, in words, and what the builder can do about it. */
export interface Trouble {
  readonly problem: string
  readonly cure: string | null
}

export const trouble = (problem: string, cure: string | null = null): Trouble => ({ problem, cure })

export interface LineEvents {
  readonly opened: () => void
  /** What came, in memory that is used again for what comes next. */
  readonly received: (bytes: Uint8Array) => void
  readonly closed: (why: Trouble) => void
}

/** Whoever looks at what goes over a line. */
export type Tap = (direction: 'in' | 'out', data: Uint8Array | string) => void

const FIRST_PAUSE_MS = 100
const LONGEST_PAUSE_MS = 1500
/** Reading may take so much of each second; a line that says more is read no further until the second is over. */
const WINDOW_MS = 1000
const MOST_READING_MS = 400
/** How long it is said that a line floods after it last did. */
const FLOOD_SAID_MS = 3000

/** Bytes to and from somewhere. It comes back by itself, with a pause that grows while nobody answers, until it is ended. */
export abstract class Line {
  tap: Tap | null = null
  private pauseMs = FIRST_PAUSE_MS
  private retry: NodeJS.Timeout | null = null
  private resume: NodeJS.Timeout | null = null
  private ended = false
  /** Whether it stands. */
  isUp = false
  private windowFrom = 0
  private reading = 0
  private floodedAt = Number.NEGATIVE_INFINITY

  constructor(private readonly events: LineEvents) {}

  /** Where it leads now, as people say it. */
  abstract get where(): string
  /** Begins to open; ends in `isOpen` or `isClosed`. */
  protected abstract connect(): void
  protected abstract write(data: Uint8Array | string): void
  protected abstract hold(on: boolean): void
  /** Drops the connection; it comes back by itself unless ended. */
  abstract drop(): void
  /** Lets what was said last go out, then closes. */
  protected abstract finish(): void

  open(): void {
    this.retry = null
    if (!this.ended) this.connect()
  }

  send(data: Uint8Array | string): void {
    this.tap?.('out', data)
    this.write(data)
  }

  /** Something has changed that makes it worth while to try at once. */
  tryNow(): void {
    this.pauseMs = FIRST_PAUSE_MS
    if (!this.retry) return
    clearTimeout(this.retry)
    this.open()
  }

  end(): void {
    this.ended = true
    if (this.retry) clearTimeout(this.retry)
    if (this.resume) clearTimeout(this.resume)
    this.finish()
  }

  /** That more comes than can be read, or null. */
  get flooded(): Trouble | null {
    return performance.now() - this.floodedAt < FLOOD_SAID_MS
      ? trouble(
          'it says more than can be read; some of the time it is not listened to',
          'Look what it sends in the raw view, and let it send less or less often.',
        )
      : null
  }

  protected isOpen(): void {
    this.isUp = true
    this.pauseMs = FIRST_PAUSE_MS
    this.events.opened()
  }

  protected take(bytes: Uint8Array): void {
    const began = performance.now()
    this.tap?.('in', bytes)
    this.events.received(bytes)
    this.spare(began, performance.now())
  }

  /** One that floods is made to wait, so that everything else goes on. */
  private spare(began: number, ended: number): void {
    if (ended - this.windowFrom > WINDOW_MS) {
      this.windowFrom = began
      this.reading = 0
    }
    this.reading += ended - began
    if (this.reading < MOST_READING_MS || this.resume) return
    this.floodedAt = ended
    this.hold(true)
    this.resume = setTimeout(
      () => {
        this.resume = null
        this.hold(false)
      },
      Math.max(20, this.windowFrom + WINDOW_MS - ended),
    )
  }

  protected isClosed(why: Trouble): void {
    this.isUp = false
    this.events.closed(why)
    if (this.ended || this.retry) return
    this.retry = setTimeout(() => this.open(), this.pauseMs)
    this.pauseMs = Math.min(LONGEST_PAUSE_MS, this.pauseMs * 2)
  }
}

/** How a line to somewhere is made, for whoever listens to it. */
export type LineMaker<L extends Line = Line> = (events: LineEvents) => L
