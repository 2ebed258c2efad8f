import { randomUUID } from 'node:crypto'
import type { Engine } from '../../core/engine/engine'
import type { Effect, Input } from '../../core/engine/input'
import type { FromHub, ToHub } from '../../core/live/feed'
import type { MarkedBy } from '../../core/recording/moment'
import { placeOfControl } from '../../core/recording/perform'
import type { Source } from '../../core/rig/sources'
import type { Millis } from '../../core/units-of-measure'
import { Recording } from './recording'
import { Replay } from './replay'
import type { Shelf } from './shelf'

/** What is told of recordings is told so often at most. */
const TELL_MS = 100

export const REPLAYED = 'a recording is played, and no simulator hears anything'

export type RecordingMessage = Extract<ToHub, { say: `record${string}` | `replay${string}` }>

export interface RecordingSurroundings {
  readonly engine: Engine
  /** The clock, and the engine's time by it. */
  readonly now: () => Millis
  readonly time: () => Millis
  readonly rigId: () => string | null
  /** The sources as the rig has them. */
  readonly sources: () => readonly Source[]
  readonly step: (input: Input, at?: Millis) => void
  readonly tell: (message: FromHub) => void
  readonly operated: (partId: string) => void
  readonly marked: (words: string) => void
  /** A replay begins: its sources are the sources. Or it is over, and the rig's own are again. */
  readonly began: () => void
  readonly over: () => void
  /** Whether everything has to be asked of the sources has changed. */
  readonly wants: () => void
}

/** A control as it was reported last, by part and aspect. */
type Hands = Map<string, readonly [partId: string, aspectId: string, raw: number]>

/** The recording that is made, if any, and the one that is played. */
export class Recordings {
  private recording: Recording | null = null
  private replay: Replay | null = null
  private beginning = false
  private toldRecording = ''
  private toldReplay = ''
  private toldAt = 0
  /** Where the real controls stand while recorded hands move theirs. */
  private hands: Hands = new Map()

  constructor(
    private readonly shelf: Shelf,
    private readonly around: RecordingSurroundings,
  ) {
    shelf.told = (state) => {
      const { lost } = state
      if (lost && this.recording && (lost.id === null || lost.id === this.recording.id))
        this.stop(`${lost.why}; what was kept until then is there`)
      else this.recording?.told(state)
    }
  }

  /** What is played in place of the sources; null while they speak themselves. */
  get played(): readonly Source[] | null {
    return this.replay?.scene.sources ?? null
  }

  /** Whether recorded hands operate the controls. */
  get hasHands(): boolean {
    return this.replay?.hands ?? false
  }

  /** Whether all that the sources tell is wanted. */
  get wantsAll(): boolean {
    return this.recording !== null
  }

  /** The engine's time where a recording gives it. */
  time(): Millis | null {
    return this.replay?.hands ? this.replay.engineTime() : null
  }

  // --- what the engine is told and wants -----------------------------------------------------------------------

  note(input: Input, at: Millis, told: number): void {
    this.recording?.note(input, at, told)
  }

  /** What came of an input. Orders of hands at the panel are heard by nobody while a recording is played, and told so. */
  ordered(effects: readonly Effect[]): void {
    this.recording?.ordered(effects)
    if (!this.replay) return
    this.replay.ordered(effects)
    if (this.replay.hands) return
    for (const e of effects)
      if (e.is === 'set' || e.is === 'event')
        queueMicrotask(() => this.around.step({ is: 'answer', request: e.request, problem: REPLAYED }))
  }

  /** A real control was operated while recorded hands move theirs. */
  handMoved(boardId: string, slot: number, value: number): void {
    const seat = this.around.engine.boards.get(boardId)?.owners.get(slot)
    if (seat?.is === 'control') this.remember(seat.unit.part.id, seat.aspect.id, value)
  }

  private remember(partId: string, aspectId: string, raw: number): void {
    this.hands.set(JSON.stringify([partId, aspectId]), [partId, aspectId, raw])
  }

  mark(words: string, by: Exclude<MarkedBy, 'hand'>): void {
    this.recording?.mark(words, by, this.around.time())
  }

  operated(part: string): void {
    this.recording?.operated(part, this.around.time())
  }

  // --- what tabs want -------------------------------------------------------------------------------------------

  /** What a tab says; what cannot be done comes back as a sentence. */
  async hear(m: RecordingMessage): Promise<string | null> {
    switch (m.say) {
      case 'record':
        return this.record(m.name, m.names === null ? null : new Set(m.names))
      case 'record end':
        this.stop(null)
        return null
      case 'record mark':
        this.mark(m.words, 'builder')
        if (this.recording) this.around.marked(m.words)
        return null
      case 'replay open':
        return this.open(m.id)
      case 'replay close':
        this.close()
        return null
      case 'replay step':
        await this.replay?.stepBy(m.by)
        return null
      case 'replay change':
        this.change(m)
        return null
    }
  }

  private async record(name: string, names: ReadonlySet<string> | null): Promise<string | null> {
    const { around } = this
    const rigId = around.rigId()
    if (this.recording || this.beginning) return 'A recording is being made already.'
    if (this.replay) return 'A recording is being played; close it before another one is made.'
    if (rigId === null) return 'There is no rig yet.'
    this.beginning = true
    try {
      const sources = around.sources()
      const beginning = { id: randomUUID(), rigId, name, sources }
      await this.shelf.begin(beginning)
      if (around.sources() !== sources || around.rigId() !== rigId) {
        this.shelf.end(beginning.id, 'the sources changed as it began', false)
        return 'The sources changed just now; nothing was recorded.'
      }
      this.recording = new Recording(around.engine, this.shelf, beginning, { names, sources }, around.time())
      around.wants()
      this.tell(true)
      return null
    } catch (error) {
      return `Nothing is recorded: ${(error as Error).message}.`
    } finally {
      this.beginning = false
    }
  }

  /** Ends the recording that is made; `why` where that is not the builder's wish. */
  stop(why: string | null): void {
    const { recording } = this
    if (!recording) return
    this.recording = null
    recording.end(why, this.around.time())
    this.around.wants()
    this.tell(true)
    if (why !== null) this.around.tell({ say: 'problem', message: `The recording has ended: ${why}.` })
    void this.shelf.settled().then(
      () => this.around.tell({ say: 'recordings' }),
      () => {},
    )
  }

  private async open(id: string): Promise<string | null> {
    if (this.recording) return 'A recording is being made; end it before another one is played.'
    try {
      const taken = await this.shelf.take(id)
      if (!taken) return 'There is no such recording any more.'
      if (taken.blocks.length === 0) return 'There is nothing in that recording.'
      if (this.recording) return 'A recording is being made; end it before another one is played.'
      this.close()
      const { around, shelf } = this
      const { engine, now, step, operated, marked } = around
      this.replay = new Replay(taken, {
        engine,
        now,
        read: (n) => shelf.read(id, n),
        step,
        operated,
        marked,
      })
      around.began()
      await this.replay.goTo(taken.from)
      this.tell(true)
      return null
    } catch (error) {
      return `It cannot be played: ${(error as Error).message}.`
    }
  }

  private change(m: Extract<RecordingMessage, { say: 'replay change' }>): void {
    const { replay } = this
    if (!replay) return
    const had = replay.hands
    if (m.hands === true && !had) {
      this.hands.clear()
      for (const unit of this.around.engine.units.values())
        for (const c of unit.controls) if (c.raw !== null) this.remember(unit.part.id, c.aspect.id, c.raw)
    }
    replay.change(m)
    if (had && !replay.hands) this.giveBackHands()
    // Controls are drawn where they are told to be, or where the hands are.
    if (had !== replay.hands) this.around.engine.changes.everything = true
    this.tell(true)
  }

  /** Ends the replay: sources and hands are again what they are. */
  close(): void {
    const { replay } = this
    if (!replay) return
    replay.close()
    this.replay = null
    this.around.over()
    if (replay.hands) this.giveBackHands()
    this.around.engine.changes.everything = true
    this.tell(true)
  }

  /** Controls stand where they really do; nobody has operated them. */
  private giveBackHands(): void {
    for (const [partId, aspectId, value] of this.hands.values()) {
      const place = placeOfControl(this.around.engine, partId, aspectId)
      if (place) this.around.step({ is: 'found', ...place, value })
    }
    this.hands.clear()
  }

  /** Resolves once what was recorded is kept. */
  async end(): Promise<void> {
    const { recording } = this
    this.recording = null
    recording?.end('Clavik was ended', this.around.time())
    await this.shelf.settled().catch(() => {})
  }

  // --- what tabs are told -----------------------------------------------------------------------------------------

  /** Time passes. */
  check(): void {
    this.recording?.check(this.around.time())
  }

  tell(atOnce = false): void {
    const t = this.around.now()
    if (!atOnce && t - this.toldAt < TELL_MS) return
    this.toldAt = t
    for (const message of this.messages()) {
      const told = message.say === 'replay' ? 'toldReplay' : 'toldRecording'
      const text = JSON.stringify(message)
      if (text === this[told]) continue
      this[told] = text
      this.around.tell(message)
    }
  }

  /** How it stands, for a tab that has just come. */
  messages(): FromHub[] {
    return [
      { say: 'recording', recording: this.recording?.state() ?? null },
      { say: 'replay', replay: this.replay?.state() ?? null },
    ]
  }
}
