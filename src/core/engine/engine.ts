import { isControl } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { isWired } from '../harness/wiring'
import { partsOfSets } from '../rig/craft-sets'
import type { Diff } from '../rig/edit'
import { emptyRig, type Rig, rowsOf } from '../rig/rig'
import type { TableName } from '../rig/rows'
import type { Source, SourcePlace } from '../rig/sources'
import type { State } from '../signal/state'
import type { Millis } from '../units-of-measure'
import { type Board, Boards, CONFIRM_MS, type DrainTimer, type Seat } from './boards'
import { Changes } from './changes'
import { eventsOfControl, type Program, slotsOfControl } from './compile-binding'
import type { IndicatorProgram } from './compile-indicator'
import { Controls } from './controls/controls'
import { ALL } from './controls/decisions'
import type { Later } from './controls/later'
import { dependentsOf, isRead, markLoops, noDependents } from './dependents'
import type { Exercise } from './exercise'
import { type ExerciseTimer, Indicators } from './indicators'
import type { Effect, Input, Shown, SimulatorValue } from './input'
import { type LayerState, Layers } from './layers'
import { Lighting } from './lighting'
import { Memories, type MemoryCell, type MemoryTimer, memoriesIn } from './memories'
import { Outgoing } from './outgoing'
import { partsTouched } from './parts-touched'
import { Reading, type RestTimer } from './reading'
import { type OwnSlots, partKey } from './scope'
import { Screens } from './screens'
import { SecondSteps } from './second-step'
import { Timers } from './timers'
import {
  type ControlState,
  type ControlUnit,
  type IndicatorUnit,
  makeUnit,
  type PartUnit,
  seatsOf,
  standing,
} from './units'
import { Variables } from './variables'

type Timer = ExerciseTimer | RestTimer | MemoryTimer | { readonly is: 'layer'; readonly setId: string }

type LineTimer = DrainTimer | { readonly is: 'confirm' }

/** Rounds of deciding and committing that one input may set off. More is a loop, which is stopped and said. */
const MOST_ROUNDS = 24

/**
 * The live engine: contacts become actions, variables become indicators. A state machine over plain data: the
 * same inputs at the same times give the same effects. A frame costs what changed, not what exists.
 *
 * A step takes its input in, then goes round in two phases until nothing moves any more. Decide: every binding that is
 * concerned is asked, against values and layers that stand still. Commit: what was decided takes effect.
 */
export class Engine {
  rig: Rig = emptyRig()
  armed = false
  /** The craft set that holds, or null. */
  craftSet: string | null = null
  readonly variables = new Variables()
  readonly units = new Map<string, PartUnit>()
  readonly boards = new Boards()
  readonly changes = new Changes()

  private dependents = noDependents
  private frame = 0
  /** When it was last told something, and when that was on the lines to the boards. */
  time: Millis = 0
  lineTime: Millis = 0
  /** Indicators that a step concerns; kept between steps so that none is made anew. */
  private readonly touched: IndicatorUnit[] = []
  private touches = 0
  /** Values on which more depends than what indicators show, and that have changed in this round. */
  private noticed: number[] = []
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
    changed: (slot) => this.ownChanged(slot),
    later: (at, timer) => this.timers.add(at, timer),
  })
  private readonly slots: OwnSlots = {
    slot: (key, isText) => this.variables.ownSlot(key, isText),
    memory: this.memories.place,
  }
  readonly layers = new Layers(this.variables, {
    changed: (slot) => this.ownChanged(slot),
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
    told: (control) => this.tellOwn(control),
  })

  /**
   * Takes one input in and returns everything that is to be done because of it, in order. Lines to boards have a time of
   * their own, which goes on where that of a recording stands still or runs faster.
   */
  step(input: Input, now: Millis, lineTime: Millis = now): readonly Effect[] {
    this.effects = []
    this.time = now
    this.lineTime = lineTime
    this.frame++
    this.touches = 0
    this.take(input, now)
    this.goRound(now)
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
        this.takeFrame(input.source, input.indexes, input.values)
        break
      case 'report':
        this.takeReport(input.boardId, input.slot, input.value, now)
        break
      case 'found':
        this.takeFound(input.boardId, input.slot, input.value, now)
        break
      case 'rig':
        this.takeRig(input.rig, input.diff, now)
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

  /** Decides and commits until nothing moves any more, then looks at the indicators that are concerned. */
  private goRound(now: Millis): void {
    for (let round = 0; this.controls.waiting || this.noticed.length > 0; round++) {
      if (round === MOST_ROUNDS) {
        this.stopLoop()
        break
      }
      this.decide(now)
      this.controls.commit(now)
    }
    for (let i = 0; i < this.touches; i++) this.indicators.settle(this.touched[i] as IndicatorUnit, now)
    this.touches = 0
    this.frame++
  }

  /** Asks whoever depends on what has changed: what is stepped, choices of layers, what is held. */
  private decide(now: Millis): void {
    if (this.noticed.length === 0) return
    const { noticed } = this
    this.noticed = []
    const choosers = new Set<LayerState>()
    const holders = new Set<ControlState>()
    const remembered = new Set<MemoryCell>()
    for (const slot of noticed) {
      for (const cell of this.dependents.memories.get(slot) ?? []) remembered.add(cell)
      this.hearStepped(slot, now)
      for (const set of this.dependents.choosers.get(slot) ?? []) choosers.add(set)
      for (const state of this.dependents.holders.get(slot) ?? []) holders.add(state)
    }
    for (const cell of remembered) this.memories.look(cell, now)
    this.layers.choose(choosers)
    for (const state of holders) this.controls.holdOrLetGo(state, now)
  }

  /** What goes round for ever, although no way was found that leads round: all that is still moving is stopped. */
  private stopLoop(): void {
    for (const slot of this.noticed) {
      for (const state of this.dependents.holders.get(slot) ?? []) state.looping = true
      for (const set of this.dependents.choosers.get(slot) ?? []) set.looping = true
    }
    this.noticed = []
    this.controls.abandon()
    this.changes.everything = true
  }

  // --- values -------------------------------------------------------------------------------------------------

  private takeFrame(source: string, indexes: ArrayLike<number>, values: ArrayLike<SimulatorValue>): void {
    const { variables, changes } = this
    const place = variables.placeOf(source)
    if (!place) return
    const [from, until] = place.variables
    const { indicators, noticed } = this.dependents
    const { frame, touched } = this
    const { numbers, isText } = variables
    let count = 0
    for (let i = 0; i < indexes.length; i++) {
      const slot = from + (indexes[i] as number)
      // Behind its own values come those of others, which are none of its business.
      if (slot >= until) continue
      const value = values[i] as SimulatorValue
      if (typeof value === 'number' && isText[slot] === 0) {
        if (numbers[slot] === value) continue
        numbers[slot] = value
      } else if (!variables.write(slot, value)) continue
      changes.slot(slot)
      if (noticed[slot] === 1) this.noticed.push(slot)
      const list = indicators[slot]
      if (!list) continue
      for (let k = 0; k < list.length; k++) {
        const indicator = list[k] as IndicatorUnit
        if (indicator.seen === frame) continue
        indicator.seen = frame
        touched[count++] = indicator
      }
    }
    this.touches = count
  }

  private touch(indicator: IndicatorUnit): void {
    if (indicator.seen === this.frame) return
    indicator.seen = this.frame
    this.touched[this.touches++] = indicator
  }

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

  /** Puts what a control stands at where expressions read it. */
  private tellOwn(control: ControlUnit): void {
    const { ownSlot, aspect } = control
    if (aspect.kind === 'encoder') return
    if (this.variables.writeOwn(ownSlot, standing(control))) this.ownChanged(ownSlot)
  }

  /** A value of the rig's own has changed: its dependents look once the round is over. */
  private ownChanged(slot: number): void {
    this.changes.slot(slot)
    if (this.dependents.noticed[slot] === 1) this.noticed.push(slot)
    for (const indicator of this.dependents.indicators[slot] ?? []) this.touch(indicator)
  }

  /** A variable that is stepped has changed. */
  private hearStepped(slot: number, now: Millis): void {
    const value = this.variables.numbers[slot] as number
    this.controls.heard(slot, value)
    if (!this.secondSteps.watches(slot)) return
    const name = this.variables.index.catalogue.variables[slot]?.name ?? ''
    this.secondSteps.heard(slot, value, name, now)
  }

  private takeAnswer(request: number, problem: string | null): void {
    const control = this.controls.answered(request, problem)
    if (control) this.changes.part(control.unit.part.id)
  }

  private *allControls(): Iterable<ControlUnit> {
    for (const unit of this.units.values()) yield* unit.controls
  }

  /** Other sources, or other names of theirs: numbers of variables mean something else from here on. */
  private takeSources(sources: readonly Source[], now: Millis): void {
    this.controls.forget(ALL)
    this.memories.forget()
    this.variables.describe(sources)
    this.compileAll(now)
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
    if (!armed) for (const c of this.allControls()) this.controls.letGo(c, now)
    this.armed = armed
    this.changes.everything = true
    this.callOff(ALL)
    this.settleAll(now)
    this.meet(now)
  }

  /** Panel and simulator meet: what is held is told anew, and parts of which the panel leads tell their position. */
  private meet(now: Millis): void {
    if (!this.armed) return
    for (const control of this.allControls()) this.controls.holdAnew(control, now)
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
    for (const control of this.allControls())
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

  private takeRig(rig: Rig, diff: Diff | null, now: Millis): void {
    const before = this.rig
    this.rig = rig
    const touched = diff === null ? null : partsTouched(before, rig, diff)
    if (touched === null || this.variables.makeRoom(ownValues(rig))) {
      this.compileAll(now)
      return
    }
    for (const id of touched) this.changes.part(id)
    const layersToo = diff?.some((c) => c.table === 'layer' || c.table === 'layerSet' || c.table === 'part')
    if (layersToo) this.layers.compile(rig, this.variables.index, this.slots)
    if (layersToo || diff?.some((c) => c.table === 'lighting' || c.table === 'connection'))
      this.compileLoose()
    for (const id of touched) this.compileUnit(id, now)
    const tables = new Set(diff?.map((c) => c.table))
    const named = [...tables].some((t) => readByScreens.has(t))
    if (named || [...tables].some((t) => onScreens.has(t))) this.screens.compile(rig, this.slots, named)
    this.indexDependents()
    this.memories.lookAtFresh(now)
    // A lever whose bands were changed gives something else now.
    for (const id of touched) for (const control of this.units.get(id)?.controls ?? []) this.tellOwn(control)
    if (layersToo) {
      this.changes.everything = true
      this.chooseLayers()
    }
  }

  /**
   * Another craft: parts whose bindings differ get them, what those of before hold is let go, and nothing is done because of
   * where controls stand, as at the start; where the panel leads it tells its positions.
   */
  private takeCraftSet(set: string | null, now: Millis): void {
    if (set === this.craftSet) return
    this.craftSet = set
    const parts = partsOfSets(this.rig)
    for (const id of parts) this.compileUnit(id, now)
    this.indexDependents()
    this.memories.lookAtFresh(now)
    this.changes.everything = true
    if (!this.armed) return
    for (const id of parts) {
      const unit = this.units.get(id)
      if (unit?.part.settings.atStart === 'panel') this.tellPosition(unit, now)
    }
  }

  private compileAll(now: Millis): void {
    this.variables.makeRoom(ownValues(this.rig))
    this.changes.resize(this.variables.numbers.length)
    this.memories.begin()
    for (const id of this.units.keys()) if (!this.rig.part[id]) this.compileUnit(id, now)
    this.layers.compile(this.rig, this.variables.index, this.slots)
    this.compileLoose()
    for (const part of rowsOf(this.rig, 'part')) this.compileUnit(part.id, now)
    this.screens.compile(this.rig, this.slots, true)
    this.indexDependents()
    for (const control of this.allControls()) this.tellOwn(control)
    this.memories.lookAtFresh(now)
    this.chooseLayers()
  }

  /** Compiles what belongs to no part: what dims groups of lights, what connections send. */
  private compileLoose(): void {
    const { slots } = this
    this.lighting.compile(this.rig, this.variables.index, this.variables, slots)
    this.outgoing.compile(this.rig, slots)
  }

  private chooseLayers(): void {
    this.layers.choose(this.layers.sets.values())
  }

  private compileUnit(id: string, now: Millis): void {
    const earlier = this.units.get(id)
    const part = this.rig.part[id]
    const { slots } = this
    const around = {
      rig: this.rig,
      craftSet: this.craftSet,
      index: this.variables.index,
      values: this.variables,
      slots,
    }
    const unit = part ? makeUnit(around, part, earlier) : undefined
    for (const program of unit?.programs ?? []) program.needs = this.needsOf(program)
    if (earlier) this.replace(earlier, unit, now)
    if (!unit) return
    this.units.set(id, unit)
    for (const seat of seatsOf(unit)) {
      if (this.boards.place(seat) && seat.is === 'indicator') this.indicators.settle(seat, now)
      if (seat.is === 'control') this.controls.takeFreshAsFound(seat)
    }
  }

  private needsOf(program: Program): number {
    return program.kind === 'indicator'
      ? this.variables.needs(program.reads)
      : this.variables.needs(slotsOfControl(program), eventsOfControl(program))
  }

  /** A unit makes way for a new version of itself, or goes: what does not go on is ended, what hangs nowhere is dark. */
  private replace(unit: PartUnit, by: PartUnit | undefined, now: Millis): void {
    this.units.delete(unit.part.id)
    const goOn = new Set(by?.controls.flatMap((c) => c.bindings.map((b) => b.gesture)))
    for (const seat of seatsOf(unit)) {
      if (seat.is === 'control') {
        for (const state of seat.bindings) if (!goOn.has(state.gesture)) this.controls.retire(state, now)
        if (!by) this.variables.free(partKey(unit.part.id, seat.aspect.id))
      }
      const board = this.boards.leave(seat)
      if (seat.is !== 'indicator' || !board?.up || by) continue
      const before = seat.shown
      seat.shown = seat.presence.rest('out') ?? 0
      this.indicators.send(seat, before)
    }
    this.controls.commit(now)
  }

  private indexDependents(): void {
    // Those that made way are nobody's business any more.
    const kept = this.touched.slice(0, this.touches).filter((i) => this.units.get(i.unit.part.id) === i.unit)
    this.touches = 0
    for (const indicator of kept) this.touched[this.touches++] = indicator
    const { numbers, index } = this.variables
    const layers = [...this.layers.sets.values()]
    this.memories.keep(this.slotsRead())
    this.dependents = dependentsOf(
      this.units.values(),
      layers,
      numbers.length,
      index.catalogue.variables.length,
      [...this.outgoing.reads, ...this.screens.reads],
      this.memories.dependents(),
    )
    markLoops(this.dependents, layers)
  }

  /** Every slot that something of the rig reads. */
  private slotsRead(): Set<number> {
    const read = new Set([...this.outgoing.reads, ...this.screens.reads])
    for (const slot of this.lighting.reads) read.add(slot)
    for (const { chosen } of this.layers.sets.values()) for (const slot of chosen?.reads ?? []) read.add(slot)
    for (const unit of this.units.values())
      for (const p of unit.programs)
        for (const slot of p.kind === 'indicator' ? p.reads : slotsOfControl(p)) read.add(slot)
    return read
  }

  /** Whether some expression reads a value of the rig's own: where a control stands, which layer is active. */
  isRead(slot: number): boolean {
    return isRead(this.units.values(), this.dependents, slot)
  }

  /** Parts of which something that is told of them can change with this value. */
  partsShowing(slot: number): Iterable<string> {
    return this.dependents.showing.get(slot) ?? []
  }

  /** Parts that hang on a board. */
  partsOnBoard(boardId: string): Set<string> {
    const parts = new Set<string>()
    for (const owner of this.boards.get(boardId)?.owners.values() ?? []) parts.add(owner.unit.part.id)
    return parts
  }

  /** Every variable some binding reads or tells: what the simulator has to be asked for. */
  variablesInUse(): ReadonlySet<number> {
    return this.dependents.inUse
  }

  // --- time ---------------------------------------------------------------------------------------------------

  private runTimers(now: Millis): void {
    for (let timer = this.timers.due(now); timer; timer = this.timers.due(now)) {
      this.ring(timer, now)
      this.goRound(now)
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

/** What screens are made of, and what their expressions may name. */
const onScreens: ReadonlySet<TableName> = new Set(['screen', 'element'])
const readByScreens: ReadonlySet<TableName> = new Set(['part', 'layer', 'layerSet', 'connection'])

/** How many values of its own a rig has: what its controls stand at, its active layers, what is remembered. */
const ownValues = (rig: Rig): number =>
  rowsOf(rig, 'part').reduce(
    (sum, p) => sum + (partKind(p.kind)?.aspects.filter(isControl).length ?? 0),
    Object.keys(rig.layerSet).length + memoriesIn(rig),
  )
