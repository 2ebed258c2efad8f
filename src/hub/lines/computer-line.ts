import { line, readerOfClavik, SIMULATOR_LINK_VERSION, type ToSimulator } from '../../links/simulator-link'
import { busyMeter, type ClockMoment, type ComputerValue, computerValues, warmest } from './computer-values'
import { Line, type LineEvents, trouble } from './line'

/** The clock is told in the first quarter of each of its seconds. */
const EVERY_MS = 250
const WARMTH_EVERY_MS = 5000
/** How busy it is would be but noise from one quarter of a second to the next. */
const BUSY_EVERY_MS = 1000

/** The computer's own clock, load and warmth: a source that speaks the simulator link as any other, without a socket. */
export class ComputerLine extends Line {
  readonly where = 'the computer that Clavik runs on'
  private reader = readerOfClavik()
  private timer: NodeJS.Timeout | null = null
  private asked: 'all' | readonly number[] = []
  private told: (number | null | undefined)[] = []
  private busyOf = busyMeter()
  private busy: number | null = null
  private busyAt = Number.NEGATIVE_INFINITY
  private warmestC: number | null = null
  private warmthAt = Number.NEGATIVE_INFINITY

  constructor(
    events: LineEvents,
    private readonly clock: () => Date = () => new Date(),
    private readonly values: readonly ComputerValue[] = computerValues,
  ) {
    super(events)
  }

  protected connect(): void {
    this.reader = readerOfClavik()
    this.asked = []
    this.told = []
    this.timer = setInterval(() => this.tell(), EVERY_MS)
    this.isOpen()
  }

  /** What Clavik says is heard in the next turn, as over any other line. */
  protected write(data: Uint8Array | string): void {
    const heard = this.reader.push(typeof data === 'string' ? data : new TextDecoder().decode(data))
    setImmediate(() => {
      if (this.timer) for (const m of heard) this.answer(m)
    })
  }

  private say(message: Parameters<typeof line>[0]): void {
    this.take(new TextEncoder().encode(line(message)))
  }

  private answer(m: ToSimulator): void {
    switch (m.say) {
      case 'hello':
        this.say({
          say: 'hello',
          link: 'clavik simulator',
          version: SIMULATOR_LINK_VERSION,
          craft: 'This computer',
        })
        this.say({
          say: 'catalogue',
          variables: this.values.map(({ read: _, ...v }) => ({ ...v, type: 'number', writable: false })),
          events: [],
        })
        break
      case 'subscribe':
        this.asked = m.i
        this.told = []
        this.tell()
        break
      default:
        this.say({ say: 'error', id: m.id, message: 'the computer is only read' })
    }
  }

  private tell(): void {
    const now = this.clock()
    const at = now.getTime()
    if (at - this.busyAt >= BUSY_EVERY_MS) {
      this.busyAt = at
      this.busy = this.busyOf()
    }
    if (at - this.warmthAt >= WARMTH_EVERY_MS) {
      this.warmthAt = at
      void warmest().then((c) => {
        this.warmestC = c
      })
    }
    const moment: ClockMoment = { now, busy: this.busy, warmestC: this.warmestC }
    const i: number[] = []
    const v: (number | null)[] = []
    for (const [index, value] of this.values.entries()) {
      if (this.asked !== 'all' && !this.asked.includes(index)) continue
      const is = value.read(moment)
      if (is === this.told[index]) continue
      this.told[index] = is
      i.push(index)
      v.push(is)
    }
    this.say({ say: 'frame', t: at / 1000, i, v })
  }

  protected hold(_on: boolean): void {}

  drop(): void {
    this.finish()
    this.isClosed(trouble('it is opened anew'))
  }

  protected finish(): void {
    if (this.timer) clearInterval(this.timer)
    this.timer = null
    this.isUp = false
  }
}
