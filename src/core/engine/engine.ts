import { isWired } from '../harness/wiring'
import type { Rig } from '../rig/rig'
import type { Source, SourcePlace } from '../rig/sources'
import type { State } from '../signal/state'
import type { Millis } from '../units-of-measure'
import { type Board, Boards, CONFIRM_MS, type DrainTimer, type Seat } from './boards'
import { Changes } from './changes'
import type { IndicatorProgram } from './compile-indicator'
import { Controls } from './controls/controls'
import { ALL } from './controls/decisions'
import type { Later } from './controls/later'
import type { Exercise } from './exercise'
import { type ExerciseTimer, Indicators } from './indicators'
import type { Effect, Input, Shown } from './input'
import { Layers } from './layers'
import { Lighting } from './lighting'
import { Memories, type MemoryTimer } from './memories'
import { Outgoing } from './outgoing'
import { Reading, type RestTimer } from './reading'
import { Rounds } from './rounds'
import { RunningRig } from './running-rig'
import type { OwnSlots } from './scope'
import { Screens } from './screens'
import { SecondSteps } from './second-step'
import { Timers } from './timers'
import { type ControlUnit, type IndicatorUnit, type PartUnit, seatsOf } from './units'
import { Variables } from './variables'

type Timer = ExerciseTimer | RestTimer | MemoryTimer | { readonly is: 'layer'; readonly setId: string }

type LineTimer = DrainTimer | { readonly is: 'confirm' }

/**
 * The live engine: contacts become actions, variables become indicators. A state machine over plain data: the
 * same inputs at the same times give the same effects. A frame costs what changed, not what exists.
 *
 * A step takes its input in, then goes round until nothing moves any more (`rounds.ts`), and lets timers and boards have their
 * turn. The rig it runs is compiled in `running-rig.ts`.
 */
export class Engine {
  armed = false
  readonly variables = new Variables()
  readonly boards = new Boards()
  readonly changes = new Changes()

  /** When it was last told something, and when that was on the lines to the boards. */
  time: Millis = 0
  lineTime: Millis = 0
  private confirmPlanned = false
  private readonly timers = new Timers<Timer | Later>()
  /** What waits for a line, or for a board's word. */
  private readonly lineTimers = new Timers<LineTimer>()
  private effects: Effect[] = []
  private readonly emit = (effect: Effect): void => {
    this.effects.push(effect)
  }
  private readonly later = (at: Millis, timer: Timer | Later): void => this.timers.add(at, timer)
  private readonly laterOnLine = (at: Millis, timer: LineTimer): void => this.lineTimers.add(at, timer)
  private readonly flowing = (needs: number): boolean => this.armed && (needs & ~this.variables.up) === 0
  private readonly secondSteps = new SecondSteps()
  readonly lighting = new Lighting()
  readonly outgoing = new Outgoing(this.variables)
  readonly screens = new Screens(this.variables)
  private readonly memories = new Memories({
    variables: this.variables,
    changed: (slot) => this.rounds.ownChanged(slot),
    later: (at, timer) => this.timers.add(at, timer),
  })
  private readonly slots: OwnSlots = {
    slot: (key, isText) => this.variables.ownSlot(key, isText),
    memory: this.memories.place,
  }
  readonly layers = new Layers(this.variables, {
    changed: (slot) => this.rounds.ownChanged(slot),
    timeOut: (at, setId) => this.timers.add(at, { is: 'layer', setId }),
  })
  private readonly controls = new Controls({
    variables: this.variables,
    layers: this.layers,
    secondSteps: this.secondSteps,
    later: this.later,
    flowing: this.flowing,
    emit: this.emit,
  })

  private readonly indicators = new Indicators({
    variables: this.variables,
    layers: this.layers,
    flowing: this.flowing,
    later: this.later,
    emit: this.emit,
    waits: (board) => this.boards.waits(board as Board),
    lineTime: () => this.lineTime,
    changed: (indicator) => this.changes.seat(indicator),
  })
  private readonly reading = new Reading({
    controls: this.controls,
    later: this.later,
    told: (control) => this.rounds.tellOwn(control),
  })
  private readonly rounds: Rounds = new Rounds({
    variables: this.variables,
    changes: this.changes,
    layers: this.layers,
    memories: this.memories,
    controls: this.controls,
    indicators: this.indicators,
    secondSteps: this.secondSteps,
  })
  private readonly running = new RunningRig({
    variables: this.variables,
    slots: this.slots,
    boards: this.boards,
    changes: this.changes,
    rounds: this.rounds,
    controls: this.controls,
    indicators: this.indicators,
    layers: this.layers,
    memories: this.memories,
    lighting: this.lighting,
    outgoing: this.outgoing,
    screens: this.screens,
  })
  readonly units = this.running.units

  get rig(): Rig {
    return this.running.rig
  }

  /** The craft set that holds, or null. */
  get craftSet(): string | null {
    return this.running.craftSet
  }

  /**
   * Takes one input in and returns everything that is to be done because of it, in order. Lines to boards have a time of
   * their own, which goes on where that of a recording stands still or runs faster.
   */
  step(input: Input, now: Millis, lineTime: Millis = now): readonly Effect[] {
    this.effects = []
    this.time = now
    this.lineTime = lineTime
    this.rounds.begin()
    this.take(input, now)
    this.rounds.go(now)
    this.runTimers(now)
    this.boards.drain(lineTime, this.emit, this.laterOnLine)
    this.planConfirm()
    const next = this.nextAt()
    if (next !== null) this.effects.push({ is: 'wake', at: next })
    return this.effects
  }

  /** When it next wants time by itself, or null; `onLine` only for what waits for a line, in the time of lines. */
  nextAt(onLine = false): Millis | null {
    const line = this.lineTimers.next()
    if (onLine) return line
    const own = this.timers.next()
    const ofLine = line === null ? null : line - this.lineTime + this.time
    return own === null || (ofLine !== null && ofLine < own) ? ofLine : own
  }

  private take(input: Input, now: Millis): void {
    switch (input.is) {
      case 'frame':
        this.rounds.takeFrame(input.source, input.indexes, input.values)
        break
      case 'report':
        this.takeReport(input.boardId, input.slot, input.value, now)
        break
      case 'found':
        this.takeFound(input.boardId, input.slot, input.value, now)
        break
      case 'rig':
        this.running.take(input.rig, input.diff, now)
        break
      case 'sources':
        this.takeSources(input.sources, now)
        break
      case 'source':
        this.takeSource(input.source, input.up, now)
        break
      case 'quiet':
        this.takeQuiet(input.source, input.quiet)
        break
      case 'board':
        this.takeBoard(input, now)
        break
      case 'shown':
        this.takeShown(input.boardId, input.shown)
        break
      case 'answer':
        this.takeAnswer(input.request, input.problem)
        break
      case 'arm':
        this.takeArm(input.armed, now)
        break
      case 'craft set':
        this.takeCraftSet(input.set, now)
        break
      case 'exercise':
        this.takeExercise(input.partIds, input.how, now)
        break
      case 'settle':
        for (const id of input.partIds) this.tellPosition(this.units.get(id), now)
        break
      case 'time':
        break
    }
  }

  // --- values -------------------------------------------------------------------------------------------------

  private settleAll(now: Millis): void {
    for (const unit of this.units.values()) for (const i of unit.indicators) this.indicators.settle(i, now)
  }

  private takeExercise(partIds: readonly string[], how: Exercise | null, now: Millis): void {
    for (const id of partIds)
      for (const i of this.units.get(id)?.indicators ?? []) {
        // An angle is that of one needle; what else the part has is left alone.
        if (how?.as !== 'trial' || how.aspectId === i.aspect.id) this.indicators.exercise(i, how, now)
      }
    for (const id of partIds) this.changes.part(id)
  }

  /** What a binding makes its indicator show now, or null when it has no say. */
  showing(p: IndicatorProgram): State | null {
    return this.indicators.showing(p)
  }

  /** What the craft would have an indicator show, armed or not. */
  wantedNow(indicator: IndicatorUnit): State {
    return this.indicators.wantedNow(indicator)
  }

  // --- controls -----------------------------------------------------------------------------------------------

  private takeReport(boardId: string, slot: number, value: number, now: Millis): void {
    const owner = this.boards.get(boardId)?.owners.get(slot)
    if (owner?.is !== 'control') return
    this.changes.part(owner.unit.part.id)
    this.reading.take(owner, value, now)
  }

  /** Where a control stands now, although nobody has operated it: nothing comes of that but that it is known. */
  private takeFound(boardId: string, slot: number, value: number, now: Millis): void {
    const owner = this.boards.get(boardId)?.owners.get(slot)
    if (owner?.is !== 'control') return
    this.controls.callOff(owner)
    this.controls.letGo(owner, now)
    owner.raw = null
    this.takeReport(boardId, slot, value, now)
  }

  private takeAnswer(request: number, problem: string | null): void {
    const control = this.controls.answered(request, problem)
    if (control) this.changes.part(control.unit.part.id)
  }

  /** Other sources, or other names of theirs: numbers of variables mean something else from here on. */
  private takeSources(sources: readonly Source[], now: Millis): void {
    this.controls.forget(ALL)
    this.memories.forget()
    this.variables.describe(sources)
    this.running.compileAll(now)
  }

  /** A source comes or goes: what needs it begins anew or rests, and nothing else notices. */
  private takeSource(source: string, up: boolean, now: Millis): void {
    const { variables } = this
    const bit = variables.bitOf(source)
    if (bit === 0 || up === ((variables.up & bit) !== 0)) return
    variables.up ^= bit
    variables.quiet &= ~bit
    this.changes.everything = true
    this.controls.forget(bit)
    this.callOff(bit)
    this.settleAll(now)
    this.controls.onlyFor(bit, () => this.meet(now))
  }

  private takeQuiet(source: string, quiet: boolean): void {
    const { variables } = this
    const bit = variables.bitOf(source)
    variables.quiet = quiet ? variables.quiet | bit : variables.quiet & ~bit
    this.changes.everything = true
  }

  /** The first of the sources that something needs that is not there, or null. */
  missing(needs: number): SourcePlace | null {
    const gone = needs & ~this.variables.up
    return gone === 0 ? null : (this.variables.places[31 - Math.clz32(gone & -gone)] ?? null)
  }

  /** Whether a source that something needs has told nothing for a while, although it is there. */
  isStale(needs: number): boolean {
    return (needs & this.variables.quiet) !== 0
  }

  private takeArm(armed: boolean, now: Millis): void {
    if (armed === this.armed) return
    if (!armed) for (const c of this.running.allControls()) this.controls.letGo(c, now)
    this.armed = armed
    this.changes.everything = true
    this.callOff(ALL)
    this.settleAll(now)
    this.meet(now)
  }

  /** Panel and simulator meet: what is held is told anew, and parts of which the panel leads tell their position. */
  private meet(now: Millis): void {
    if (!this.armed) return
    for (const control of this.running.allControls()) this.controls.holdAnew(control, now)
    for (const unit of this.units.values())
      if (unit.part.settings.atStart === 'panel') this.tellPosition(unit, now)
  }

  private tellPosition(unit: PartUnit | undefined, now: Millis): void {
    for (const control of unit?.controls ?? []) {
      const { aspect } = control
      if (aspect.kind === 'travel' && control.output !== null) this.controls.travelled(control, now, true)
      if (aspect.kind !== 'positions' || aspect.momentary || control.position === null) continue
      for (const { gesture } of control.bindings) gesture.pressed = false
      this.controls.moved(control, now)
    }
  }

  /** Nothing begun before goes on by itself after an interruption. */
  private callOff(sources: number): void {
    for (const control of this.running.allControls())
      if (sources === ALL || control.bindings.some((b) => (b.program.needs & sources) !== 0))
        this.controls.callOff(control)
  }

  // --- boards -------------------------------------------------------------------------------------------------

  private takeBoard(input: Extract<Input, { is: 'board' }>, now: Millis): void {
    const board = this.boards.changed(input.boardId, input.up, input.loaded, input.bytesPerS)
    const startedAnew = input.up && board.boot !== input.boot
    if (input.up) board.boot = input.boot
    for (const unit of this.units.values()) {
      for (const seat of seatsOf(unit)) {
        if (!isWired(seat.wiring) || seat.wiring.boardId !== board.id) continue
        this.changes.part(unit.part.id)
        if (seat.is === 'control') this.boardOfControl(seat, input.up, startedAnew, now)
        this.seat(seat, now)
      }
    }
  }

  /** What a board says that it shows: what differs is told again. */
  private takeShown(boardId: string, shown: Shown): void {
    const board = this.boards.get(boardId)
    if (!board?.up) return
    for (const [slot] of board.queue.unconfirmed()) this.changesAt(board, slot)
    if (shown.is === 'confirmed') board.queue.confirm(shown.batch)
    else {
      board.queue.again(shown.all, this.lineTime)
      for (const [slot] of board.queue.unconfirmed()) this.changesAt(board, slot)
      this.boards.waits(board)
    }
  }

  /** Whether a board was told something that it has not confirmed yet. */
  waitsForWord(boardId: string): boolean {
    return this.boards.get(boardId)?.queue.isUnconfirmed ?? false
  }

  private changesAt(board: Board, slot: number): void {
    const owner = board.owners.get(slot)
    if (owner) this.changes.part(owner.unit.part.id)
  }

  /** What waits too long for a board's word is said to wait: somebody has to look then. */
  private planConfirm(): void {
    if (this.confirmPlanned || !this.boards.isUnconfirmed()) return
    this.confirmPlanned = true
    this.laterOnLine(this.lineTime + CONFIRM_MS, { is: 'confirm' })
  }

  private lookForConfirmations(): void {
    this.confirmPlanned = false
    for (const board of this.boards.everyone())
      for (const [slot] of board.queue.unconfirmed()) this.changesAt(board, slot)
  }

  private boardOfControl(control: ControlUnit, up: boolean, startedAnew: boolean, now: Millis): void {
    this.controls.callOff(control)
    if (!up) this.controls.letGo(control, now)
    // What it counts from, and where its levers stand, it tells anew when it comes back.
    if ((!up || startedAnew) && control.aspect.kind !== 'positions') control.raw = null
  }

  /** Finds an aspect's place in what its board holds and tells the board an indicator's state anew. */
  private seat(seat: Seat, now: Millis): void {
    if (!this.boards.place(seat) || seat.is !== 'indicator' || !seat.board?.up) return
    const keeps = seat.resting === null
    if (!keeps) seat.shown = -1
    this.indicators.settle(seat, now)
    if (keeps && seat.shown !== -1) this.indicators.send(seat, -1)
  }

  // --- the rig ------------------------------------------------------------------------------------------------

  /**
   * Another craft: what those of before hold is let go, and nothing is done because of where controls stand, as at the
   * start; where the panel leads it tells its positions.
   */
  private takeCraftSet(set: string | null, now: Millis): void {
    if (set === this.craftSet) return
    const units = this.running.takeCraftSet(set, now)
    if (!this.armed) return
    for (const unit of units) if (unit.part.settings.atStart === 'panel') this.tellPosition(unit, now)
  }

  /** Whether some expression reads a value of the rig's own: where a control stands, which layer is active. */
  isRead(slot: number): boolean {
    return this.running.isRead(slot)
  }

  /** Parts of which something that is told of them can change with this value. */
  partsShowing(slot: number): Iterable<string> {
    return this.rounds.dependents.showing.get(slot) ?? []
  }

  /** Parts that hang on a board. */
  partsOnBoard(boardId: string): Set<string> {
    const parts = new Set<string>()
    for (const owner of this.boards.get(boardId)?.owners.values() ?? []) parts.add(owner.unit.part.id)
    return parts
  }

  /** Every variable some binding reads or tells: what the simulator has to be asked for. */
  variablesInUse(): ReadonlySet<number> {
    return this.rounds.dependents.inUse
  }

  // --- time ---------------------------------------------------------------------------------------------------

  private runTimers(now: Millis): void {
    for (let timer = this.timers.due(now); timer; timer = this.timers.due(now)) {
      this.ring(timer, now)
      this.rounds.go(now)
    }
    for (let t = this.lineTimers.due(this.lineTime); t; t = this.lineTimers.due(this.lineTime)) {
      if (t.is === 'confirm') this.lookForConfirmations()
      else {
        t.board.drainPlanned = false
        this.boards.waits(t.board)
      }
    }
  }

  private ring(timer: Timer | Later, now: Millis): void {
    switch (timer.is) {
      case 'exercise':
        this.goOnExercising(timer, now)
        break
      case 'rest':
        this.mayHaveRested(timer, now)
        break
      case 'layer':
        this.layers.timedOut(timer.setId, now)
        break
      case 'memory':
        this.memories.due(timer, now)
        break
      default:
        this.changes.part(timer.gesture.state.control.unit.part.id)
        this.controls.due(timer, now)
    }
  }

  private goOnExercising({ partId, aspectId }: ExerciseTimer, now: Millis): void {
    const indicator = this.units.get(partId)?.indicators.find((i) => i.aspect.id === aspectId)
    if (indicator) this.indicators.goOnExercising(indicator, now)
    this.changes.part(partId)
  }

  private mayHaveRested({ partId, aspectId }: RestTimer, now: Millis): void {
    const control = this.units.get(partId)?.controls.find((c) => c.aspect.id === aspectId)
    if (control) this.reading.rested(control, now)
  }
}
