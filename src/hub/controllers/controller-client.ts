import { FULL_LEVEL } from '../../core/aspects/travel'
import type { Capabilities } from '../../core/controllers/capabilities'
import { EventReader } from '../../core/controllers/event-reader'
import { GivenSlots } from '../../core/controllers/given-slots'
import { type ButtonGroup, GroupWatch } from '../../core/controllers/groups'
import { Standing } from '../../core/controllers/standing'
import {
  BLANK,
  type Configuration,
  emptyConfiguration,
  encodeConfiguration,
  fingerprint,
  pinsOf,
} from '../../core/harness/slot'
import type { Millis } from '../../core/units-of-measure'
import type { SlotNoted } from '../../links/notes'
import { controllerReaders } from '../../links/raw-controller'
import type { RawReaders } from '../../links/raw-reader'
import type { BoardClient } from '../board-client'
import type { BoardEvents, Probe } from '../board-talk'
import type { Line, LineMaker } from '../lines/line'
import { Rate } from '../rate'

/** An axis has been touched when it has gone by this share of its way; less may be its own unrest. */
const TOUCH_SHARE = 0.02
/** How often an axis that is measured is noted, whether or not it moves. */
const NOTE_MS = 5

/** What of a controller was touched last. */
export interface Touch {
  readonly pin: number
  readonly at: Millis
}

/** A bought controller: it says what changes, and is never told anything. */
export class ControllerClient implements BoardClient {
  readonly carries = 'board'
  readonly holdsAnything = true
  readonly line: Line
  readonly program = null
  readonly delayMs = null
  readonly limits = null
  readonly loading = null
  readonly missed = 0
  readonly badThere = 0
  readonly noteObjection = null
  model = ''
  up = false
  problem: string | null = 'not connected yet'
  cure: string | null = null
  holds: Configuration = emptyConfiguration
  fingerprint = BLANK
  boot = 0
  bad = 0
  readonly rate = new Rate(performance.now())
  hello: Capabilities | null = null
  standing: Standing | null = null
  touched: Touch | null = null
  private reader = new EventReader()
  private slots: GivenSlots | null = null
  private watch: GroupWatch | null = null
  private timer: NodeJS.Timeout | null = null
  private probing: Probe = null
  private ticks: NodeJS.Timeout | null = null
  private readonly rested = new Map<number, number>()

  constructor(
    readonly connection: string,
    readonly identity: string,
    readonly isSimulated: boolean,
    make: LineMaker,
    private readonly events: BoardEvents,
    private readonly now: () => Millis = () => performance.now(),
  ) {
    this.line = make({
      opened: () => {
        this.reader = new EventReader()
        this.problem = 'it is open, and has not said yet who it is'
      },
      received: (bytes) => this.receive(bytes),
      closed: ({ problem, cure }) => this.lost(problem, cure),
    })
  }

  readonly rawReaders = (): RawReaders => controllerReaders(this.hello)

  open(): void {
    this.line.open()
  }

  close(why: string): void {
    this.line.end()
    this.lost(why, null)
  }

  private receive(bytes: Uint8Array): void {
    for (const heard of this.reader.push(bytes)) {
      this.rate.add()
      if (heard.is === 'hello') this.takeHello(heard.hello)
      else this.takeReport(heard)
    }
    const { problem } = this.reader
    if (problem === null) return
    this.bad++
    this.line.drop()
    this.lost(problem, 'Unplug it and plug it in again; its bytes are in the raw view.')
  }

  private takeHello(hello: Capabilities): void {
    this.hello = hello
    this.model = hello.name
    this.standing = new Standing(hello)
    this.slots = new GivenSlots(this.standing)
    const { standing } = this
    const buttons = standing.inputs.filter((i) => i.is === 'button')
    this.watch = new GroupWatch(buttons.filter((i) => standing.isClosed(i.pin)).map((i) => i.pin))
    this.rested.clear()
    for (const { pin, is } of standing.inputs) if (is === 'axis') this.rested.set(pin, standing.share(pin))
    this.holds = emptyConfiguration
    this.fingerprint = BLANK
    this.boot++
    this.up = true
    this.problem = null
    this.cure = null
    this.events.changed(this)
  }

  private takeReport({
    events,
    atMicros,
  }: {
    readonly events: Parameters<Standing['take']>[0]
    readonly atMicros: number
  }): void {
    const { standing } = this
    if (!standing) return
    const changed = standing.take(events)
    if (changed.size === 0) return
    // What the hand did goes on first; what is only looked at can wait.
    this.look(changed)
    this.note(changed, atMicros)
    this.feel(standing, changed)
  }

  /** What a hand has touched, and which buttons take turns. */
  private feel(standing: Standing, changed: ReadonlySet<number>): void {
    const at = this.now()
    const buttons: { pin: number; closed: boolean }[] = []
    for (const { pin, is } of standing.inputs) {
      if (!changed.has(pin)) continue
      if (is === 'axis') {
        const share = standing.share(pin)
        if (Math.abs(share - (this.rested.get(pin) ?? share)) < TOUCH_SHARE) continue
        this.rested.set(pin, share)
      } else if (is === 'button') buttons.push({ pin, closed: standing.isClosed(pin) })
      else if (!standing.isClosed(pin)) continue
      this.touched = { pin, at }
    }
    // Of a pair that takes turns, what closed is where the hand has gone.
    const closes = buttons.find((b) => b.closed)
    if (closes) this.touched = { pin: closes.pin, at }
    if (buttons.length > 0) this.watch?.take(buttons, at)
  }

  /** Buttons that are one switch, as far as has been seen since it was plugged in. */
  groups(): ButtonGroup[] {
    return this.watch?.groups(this.now()) ?? []
  }

  /** Tells what has changed of what it holds; looks again when something may have settled. */
  private look(changed?: Iterable<number>): void {
    const { slots } = this
    if (!slots) return
    for (const { slot, value } of slots.look(this.now(), changed)) this.events.report(this, slot, value)
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
    const next = slots.nextAt
    if (next === null) return
    this.timer = setTimeout(
      () => {
        this.timer = null
        this.look()
      },
      Math.max(1, next - this.now()),
    )
  }

  async load(configuration: Configuration): Promise<string | null> {
    if (!this.up || !this.slots) return 'it is not there'
    this.holds = configuration
    this.fingerprint = fingerprint(encodeConfiguration(configuration))
    this.slots.hold(configuration.slots)
    this.events.changed(this)
    this.look()
    return null
  }

  /** Nothing of it can be driven. */
  outputs(): void {}

  askEcho(heard: ((ms: Millis) => void) | null = null): void {
    heard?.(0)
  }

  probe(what: Probe): void {
    if (what === this.probing) return
    this.probing = what
    if (this.ticks) clearInterval(this.ticks)
    this.ticks = null
    if (typeof what !== 'number') return
    // A level at rest says nothing by itself, and rest is what is measured first.
    this.ticks = setInterval(() => {
      const slot = this.holds.slots[what]
      if (this.up && slot?.kind === 'analog') this.note(new Set(pinsOf(slot)), this.now() * 1000)
    }, NOTE_MS)
  }

  private note(changed: ReadonlySet<number>, atMicros: number): void {
    const { standing, probing } = this
    if (!standing || probing === null || !this.events.noted) return
    const notes: SlotNoted[] = []
    for (const [i, slot] of this.holds.slots.entries()) {
      const wanted = probing === 'all contacts' ? slot.kind === 'contacts' : probing === i
      const pins = pinsOf(slot)
      if (!wanted || !pins.some((p) => changed.has(p))) continue
      // Bounces are timed by the device; a level is noted by this computer's clock as well, and has only that one.
      notes.push(
        slot.kind === 'analog'
          ? { at: this.now() * 1000, slot: i, value: standing.share(slot.pin) * FULL_LEVEL }
          : { at: atMicros, slot: i, value: standing.bits(pins) },
      )
    }
    if (notes.length > 0) this.events.noted(this, notes, 0)
  }

  private lost(problem: string, cure: string | null): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
    if (this.ticks) clearInterval(this.ticks)
    this.ticks = null
    this.probing = null
    // Why it cannot be read is a better reason than that its line has ended.
    if (this.reader.problem === null) {
      this.problem = problem
      this.cure = cure
    } else {
      this.problem = this.reader.problem
      this.cure = cure ?? this.cure
    }
    this.slots = null
    if (!this.up) return
    this.up = false
    this.events.changed(this)
  }

  check(): void {}
  excuse(): void {}
}
