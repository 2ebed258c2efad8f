import type { Engine } from '../../core/engine/engine'
import type { Effect, Input } from '../../core/engine/input'
import { Trembling } from '../../core/engine/trembling'
import type { ReplayState } from '../../core/live/recording-states'
import type { Block } from '../../core/recording/block'
import type { Moment } from '../../core/recording/moment'
import { inputOf, OpenOrders, standingInputs } from '../../core/recording/perform'
import { Reel, Scene } from '../../core/recording/reel'
import type { Micros, Millis } from '../../core/units-of-measure'
import type { TakenRecording } from './shelf'

/** So long it works on at most before others have their turn. */
const WORK_MS = 8
/** A wait that is longer is looked at again before. */
const LONGEST_WAIT_MS = 250
/** So far behind, it is slower than it was asked to be. */
const BEHIND_US = 300_000

export interface ReplaySurroundings {
  readonly engine: Engine
  readonly now: () => Millis
  readonly read: (n: number) => Promise<Block | null>
  /** An input for the engine, at a moment of its time where it is not the present one. */
  readonly step: (input: Input, at?: Millis) => void
  /** A part was operated, or a moment marked, in the recording. */
  readonly operated: (partId: string) => void
  readonly marked: (words: string) => void
}

/** What can be changed of a replay; what is left out stays. */
export interface ReplayChange {
  readonly playing?: boolean | undefined
  readonly speed?: number | undefined
  readonly loop?: boolean | undefined
  readonly hands?: boolean | undefined
  readonly at?: Micros | undefined
}

/**
 * A recording in place of the sources. Where its hands are played too, the engine's time is the recording's, so that every
 * timing rule holds at any speed; otherwise hands at the panel have the time of the clock.
 */
export class Replay {
  readonly scene: Scene
  private readonly orders: OpenOrders
  private reel: Reel | null = null
  /** Which block it is in. */
  private place = 0
  private at: Micros
  private playing = false
  private speed = 1
  private loop = false
  private behind = false
  private problem: string | null = null
  hands = false
  /** When it was where, as long as it plays. */
  private anchor: { wall: Millis; at: Micros }
  /** The engine's time at the recording's beginning, where that is its time. */
  private base: Millis = 0
  private timer: NodeJS.Timeout | null = null
  private readonly cache = new Map<number, Promise<Block | null>>()
  /** Counts wherever it was sent to: what was read for another place is too late. */
  private sent = 0
  /** What each control told last, and what of it was a hand. */
  private readonly told = new Map<string, number>()
  private readonly trembling = new Trembling()
  private ended = false
  private waiting = false

  constructor(
    readonly recording: TakenRecording,
    private readonly around: ReplaySurroundings,
  ) {
    this.scene = new Scene(recording.head.sources)
    this.orders = new OpenOrders(around.engine)
    this.at = recording.from
    this.anchor = { wall: around.now(), at: this.at }
  }

  state(): ReplayState {
    const { id, name, from, until, marks } = this.recording
    const { playing, speed, loop, hands, behind, problem } = this
    const at = this.playing && !this.waiting ? Math.min(until, Math.max(this.at, this.target())) : this.at
    const sources = this.scene.sources.map((source) => source.id)
    return { id, name, from, until, marks, sources, at, playing, speed, loop, hands, behind, problem }
  }

  /** The engine's time now, where that is the recording's. */
  engineTime(): Millis {
    return Math.max(this.around.engine.time, this.base + this.at / 1000)
  }

  ordered(effects: readonly Effect[]): void {
    this.orders.ordered(effects)
  }

  close(): void {
    this.ended = true
    this.sent++
    if (this.timer) clearTimeout(this.timer)
  }

  change(change: ReplayChange): void {
    this.comeUp()
    if (change.speed !== undefined) this.speed = change.speed
    if (change.loop !== undefined) this.loop = change.loop
    if (change.playing !== undefined) this.playing = change.playing
    this.settleTime()
    this.behind = false
    const { until, from } = this.recording
    if (change.hands !== undefined && change.hands !== this.hands) {
      this.hands = change.hands
      void this.goTo(this.at)
    } else if (change.at !== undefined) void this.goTo(change.at)
    else if (this.playing && this.at >= until) void this.goTo(from)
    else this.schedule()
  }

  /** It is where it has come to by now, as far as nothing was due on the way. */
  private comeUp(): void {
    if (!this.playing || this.waiting) return
    const end = Math.min(this.reel?.block.until ?? this.at, this.recording.until)
    this.at = Math.max(this.at, Math.min(this.target(), this.due() ?? end, end))
  }

  /** From now on counted from here. */
  private settleTime(): void {
    this.anchor = { wall: this.around.now(), at: this.at }
  }

  private target(): Micros {
    return this.anchor.at + (this.around.now() - this.anchor.wall) * 1000 * this.speed
  }

  private block(place: number): Promise<Block | null> {
    let block = this.cache.get(place)
    if (!block) {
      const n = this.recording.blocks[place]?.n
      block = n === undefined ? Promise.resolve(null) : this.around.read(n)
      block.catch(() => this.cache.delete(place))
      this.cache.set(place, block)
      for (const other of this.cache.keys())
        if (Math.abs(other - this.place) > 1 && other !== place) this.cache.delete(other)
    }
    return block
  }

  /** Everything as it was at a moment: values, sources, and where its hands are played the controls. */
  async goTo(wanted: Micros): Promise<void> {
    const { from, until, blocks } = this.recording
    const at = Math.min(until, Math.max(from, wanted))
    const sent = ++this.sent
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
    this.waiting = true
    const place = Math.max(
      0,
      blocks.findLastIndex((b) => b.from <= at),
    )
    const block = await this.block(place).catch((error: Error) => this.cannot(error.message))
    if (sent !== this.sent || this.ended || block === undefined) return
    if (block === null) {
      this.cannot('it has nothing there any more')
      return
    }
    this.problem = null
    this.stand(block, place, at)
    this.settleTime()
    this.schedule()
    void this.block(place + 1).catch(() => {})
  }

  private cannot(why: string): undefined {
    this.problem = `It cannot be read: ${why}.`
    this.playing = false
    this.waiting = false
  }

  private stand(block: Block, place: number, at: Micros): void {
    const { engine } = this.around
    this.waiting = false
    this.place = place
    this.at = at
    this.reel = new Reel(block)
    const stood = this.reel.skipTo(at)
    for (const [partId, aspectId, raw] of stood.standing.controls)
      this.told.set(JSON.stringify([partId, aspectId]), raw)
    // Time never goes back, wherever the recording does.
    this.base = engine.time + 1 - at / 1000
    for (const input of standingInputs(engine, this.scene, block, stood, this.hands)) this.step(input)
  }

  private step(input: Input): void {
    if (this.hands) this.around.step(input, this.engineTime())
    else this.around.step(input)
  }

  /** When something is to be done next. */
  private due(): Micros | null {
    const item = this.reel?.nextAt() ?? null
    const timer = this.hands ? this.around.engine.nextAt() : null
    const wakes = timer === null ? null : (timer - this.base) * 1000
    return item !== null && wakes !== null ? Math.min(item, wakes) : (item ?? wakes)
  }

  private schedule(): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
    if (!this.playing || this.ended || this.waiting) return
    const end = Math.min(this.reel?.block.until ?? this.at, this.recording.until)
    const next = Math.min(this.due() ?? end, end)
    const ms = (next - this.target()) / 1000 / this.speed
    this.timer = setTimeout(() => this.run(), Math.min(LONGEST_WAIT_MS, Math.max(0, ms)))
  }

  private run(): void {
    const { reel, around } = this
    if (!reel || !this.playing || this.ended) return
    const end = Math.min(reel.block.until, this.recording.until)
    const wanted = this.target()
    const until = Math.min(wanted, end)
    const workUntil = around.now() + WORK_MS
    for (let due = this.due(); due !== null && due <= until; due = this.due()) {
      this.passOne(due)
      if (around.now() < workUntil) continue
      this.behind = wanted - due > BEHIND_US
      if (this.behind) this.settleTime()
      this.timer = setTimeout(() => this.run(), 0)
      return
    }
    this.at = Math.max(this.at, until)
    if (wanted >= end) void this.goOn()
    else this.schedule()
  }

  /** What is due at a moment: a wake of the engine, or what was recorded next. */
  private passOne(due: Micros): void {
    this.at = Math.max(this.at, due)
    const { reel, around } = this
    const next = reel?.nextAt() ?? null
    if (next === null || next > due) {
      around.step({ is: 'time' }, this.base + due / 1000)
      return
    }
    const item = reel?.take()
    if (!reel || !item) return
    if (item.is === 'frame') this.step(this.scene.frameInput(reel.block, item.frame))
    else this.moment(item.moment)
  }

  private moment(m: Moment): void {
    const { around } = this
    if (m.is === 'mark' && m.by === 'builder') around.marked(m.words)
    // Whether it is armed is for the builder to say, now as ever.
    if (m.is === 'arm' || (!this.hands && m.is !== 'source' && m.is !== 'quiet')) {
      if (m.is === 'report') this.operated(m)
      return
    }
    const input = inputOf(around.engine, this.scene, this.orders, m)
    if (input) this.step(input)
    if (m.is === 'report') this.operated(m)
  }

  /** A hand has operated something in the recording, if it did not only tremble. */
  private operated({ partId, aspectId, value }: Extract<Moment, { is: 'report' }>): void {
    const control = this.around.engine.units.get(partId)?.controls.find((c) => c.aspect.id === aspectId)
    const key = JSON.stringify([partId, aspectId])
    const from = this.told.get(key) ?? null
    this.told.set(key, value)
    if (control && this.trembling.isOperated(control, from, value)) this.around.operated(partId)
  }

  /** The block is over: on with the next, from the beginning, or no further. */
  private async goOn(): Promise<void> {
    const { until, from, blocks } = this.recording
    const ended = this.reel?.block.until ?? until
    const next = blocks[this.place + 1]
    if (ended >= until || next === undefined || next.from >= until) {
      this.at = until
      if (this.loop) await this.goTo(from)
      else this.playing = false
      return
    }
    const sent = ++this.sent
    this.waiting = true
    const place = this.place + 1
    const block = await this.block(place).catch((error: Error) => this.cannot(error.message))
    if (sent !== this.sent || this.ended || block === undefined) return
    if (block === null) {
      this.cannot('a piece of it is missing')
      return
    }
    this.waiting = false
    // Where something is missing between them everything stands elsewhere.
    if (block.from > ended) this.stand(block, place, block.from)
    else {
      this.place = place
      this.reel = new Reel(block)
    }
    if (this.target() - this.at > BEHIND_US) this.settleTime()
    this.schedule()
    void this.block(place + 1).catch(() => {})
  }

  /** To the next frame, or the one before. */
  async stepBy(by: 1 | -1): Promise<void> {
    this.comeUp()
    this.playing = false
    if (this.timer) clearTimeout(this.timer)
    if (by === -1) {
      await this.stepBack()
      return
    }
    const { reel } = this
    if (!reel || this.waiting) return
    for (let due = this.due(); due !== null && due <= this.recording.until; due = this.due()) {
      const isFrame = reel.isFrameNext && reel.nextAt() === due
      this.passOne(due)
      if (isFrame) return
    }
    if (this.at < this.recording.until) {
      await this.goOn()
      if (this.reel !== reel) await this.stepBy(1)
    }
  }

  private async stepBack(): Promise<void> {
    const before = (block: Block | null | undefined) => block?.frames.at.findLast((t) => t < this.at)
    const here = before(this.reel?.block)
    const target = here ?? before(await this.block(this.place - 1).catch(() => null))
    await this.goTo(target ?? this.recording.from)
  }
}
