import { isControl } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { isWired } from '../harness/wiring'
import type { Diff } from '../rig/edit'
import { emptyRig, type Rig, rowsOf } from '../rig/rig'
import type { Millis } from '../units-of-measure'
import { type Board, Boards, type DrainTimer, type Seat } from './boards'
import type { IndicatorProgram } from './compile-indicator'
import { Controls, type Later } from './controls'
import { dependentsOf, isRead, markLoops, noDependents } from './dependents'
import { type ExerciseTimer, Indicators } from './indicators'
import type { Effect, Exercise, Input, SimulatorValue, State } from './input'
import { Layers } from './layers'
import { partsTouched } from './parts-touched'
import { Reading, type RestTimer } from './reading'
import { SecondSteps } from './second-step'
import { Timers } from './timers'
import { type ControlUnit, type IndicatorUnit, makeUnit, seatsOf, standing, type Unit } from './unit'
import { Variables } from './variables'

type Timer = DrainTimer | ExerciseTimer | RestTimer | { readonly is: 'layer'; readonly setId: string }

/**
 * The live engine: contacts become actions, variables become indicators. A state machine over plain data: the
 * same inputs at the same times give the same effects. A frame costs what changed, not what exists.
 */
export class Engine {
  rig: Rig = emptyRig()
  armed = false
  simulatorUp = false
  /** The link stands, but no frame has come for a while: what is shown may be old. */
  quiet = false
  readonly variables = new Variables()
  readonly units = new Map<string, Unit>()
  readonly boards = new Boards()

  private dependents = noDependents
  private frame = 0
  /** When it was last told something. */
  time: Millis = 0
  /** Indicators that a frame concerns; kept between frames so that none is made anew. */
  private readonly touched: IndicatorUnit[] = []
  private readonly timers = new Timers<Timer | Later>()
  private effects: Effect[] = []
  private readonly emit = (effect: Effect): void => {
    this.effects.push(effect)
  }
  private readonly later = (at: Millis, timer: Timer | Later): void => this.timers.add(at, timer)
  private readonly secondSteps = new SecondSteps()
  readonly layers = new Layers({
    variables: this.variables,
    changed: (slot) => this.ownChanged(slot),
    timeOut: (at, setId) => this.timers.add(at, { is: 'layer', setId }),
  })
  private readonly controls = new Controls({
    variables: this.variables,
    layers: this.layers,
    secondSteps: this.secondSteps,
    later: this.later,
    flowing: () => this.armed && this.simulatorUp,
    emit: this.emit,
  })

  private readonly indicators = new Indicators({
    variables: this.variables,
    layers: this.layers,
    flowing: () => this.armed && this.simulatorUp,
    later: this.later,
    emit: this.emit,
    waits: (board) => this.boards.waits(board as Board),
  })
  private readonly reading = new Reading({
    controls: this.controls,
    later: this.later,
    told: (control) => this.tellOwn(control),
  })

  /** Takes one input in and returns everything that is to be done because of it, in order. */
  step(input: Input, now: Millis): readonly Effect[] {
    this.effects = []
    this.time = now
    switch (input.is) {
      case 'frame':
        this.takeFrame(input.indexes, input.values, now)
        break
      case 'report':
        this.takeReport(input.boardId, input.slot, input.value, now)
        break
      case 'rig':
        this.takeRig(input.rig, input.diff, now)
        break
      case 'catalogue':
        this.variables.describe(input.catalogue)
        this.compileAll(now)
        break
      case 'simulator':
        this.takeSimulator(input.up, now)
        break
      case 'quiet':
        this.quiet = input.quiet
        break
      case 'board':
        this.takeBoard(input, now)
        break
      case 'answer':
        this.controls.answered(input.request, input.problem)
        break
      case 'arm':
        this.takeArm(input.armed, now)
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
    this.runTimers(now)
    this.boards.drain(now, this.emit, this.later)
    const next = this.timers.next()
    if (next !== null) this.effects.push({ is: 'wake', at: next })
    return this.effects
  }

  // --- values -------------------------------------------------------------------------------------------------

  private takeFrame(indexes: ArrayLike<number>, values: ArrayLike<SimulatorValue>, now: Millis): void {
    const { variables } = this
    const { indicators, noticed } = this.dependents
    const frame = ++this.frame
    const { numbers, isText } = variables
    const { touched } = this
    let count = 0
    for (let i = 0; i < indexes.length; i++) {
      const slot = indexes[i] as number
      const value = values[i] as SimulatorValue
      if (typeof value === 'number' && isText[slot] === 0) {
        if (numbers[slot] === value) continue
        numbers[slot] = value
      } else if (!variables.write(slot, value)) continue
      if (noticed[slot] === 1) this.notice(slot, now)
      const list = indicators[slot]
      if (!list) continue
      for (let k = 0; k < list.length; k++) {
        const indicator = list[k] as IndicatorUnit
        if (indicator.seen === frame) continue
        indicator.seen = frame
        touched[count++] = indicator
      }
    }
    for (let i = 0; i < count; i++) this.indicators.settle(touched[i] as IndicatorUnit, now)
  }

  private settleAll(now: Millis): void {
    for (const unit of this.units.values()) for (const i of unit.indicators) this.indicators.settle(i, now)
  }

  private takeExercise(partIds: readonly string[], how: Exercise | null, now: Millis): void {
    for (const id of partIds)
      for (const i of this.units.get(id)?.indicators ?? []) this.indicators.exercise(i, how, now)
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
    if (owner?.is === 'control') this.reading.take(owner, value, now)
  }

  /** Puts what a control stands at where expressions read it. */
  private tellOwn(control: ControlUnit): void {
    const { ownSlot, aspect } = control
    if (aspect.kind === 'encoder') return
    const value = standing(control)
    if (typeof value === 'string') this.variables.texts[ownSlot] = value
    else this.variables.numbers[ownSlot] = value ?? Number.NaN
    this.ownChanged(ownSlot)
  }

  private ownChanged(slot: number): void {
    if (this.dependents.noticed[slot] === 1) this.notice(slot, this.time)
    for (const indicator of this.dependents.indicators[slot] ?? [])
      this.indicators.settle(indicator, this.time)
  }

  /** More than an indicator depends on this slot: a choice of layer, something held, a step that is watched. */
  private notice(slot: number, now: Millis): void {
    if (this.secondSteps.watches(slot)) {
      const name = this.variables.index.catalogue.variables[slot]?.name ?? ''
      this.secondSteps.heard(slot, this.variables.numbers[slot] as number, name, now)
    }
    for (const state of this.dependents.choosers.get(slot) ?? []) this.layers.choose(state)
    for (const state of this.dependents.holders.get(slot) ?? []) this.controls.holdOrLetGo(state, now)
  }

  private *allControls(): Iterable<ControlUnit> {
    for (const unit of this.units.values()) yield* unit.controls
  }

  private takeSimulator(up: boolean, now: Millis): void {
    if (up === this.simulatorUp) return
    this.simulatorUp = up
    this.quiet = false
    this.controls.forget()
    this.callOffAll()
    this.settleAll(now)
    this.meet(now)
  }

  private takeArm(armed: boolean, now: Millis): void {
    if (armed === this.armed) return
    if (!armed) for (const c of this.allControls()) this.controls.letGo(c, now)
    this.armed = armed
    this.callOffAll()
    this.settleAll(now)
    this.meet(now)
  }

  /** Panel and simulator meet: what is held is told anew, and parts of which the panel leads tell their position. */
  private meet(now: Millis): void {
    if (!this.armed || !this.simulatorUp) return
    for (const control of this.allControls()) this.controls.holdAnew(control, now)
    for (const unit of this.units.values())
      if (unit.part.settings.atStart === 'panel') this.tellPosition(unit, now)
  }

  private tellPosition(unit: Unit | undefined, now: Millis): void {
    for (const control of unit?.controls ?? []) {
      const { aspect } = control
      if (aspect.kind === 'travel' && control.output !== null) this.controls.travelled(control, now, true)
      if (aspect.kind !== 'positions' || aspect.momentary || control.position === null) continue
      for (const { gesture } of control.bindings) gesture.pressed = false
      this.controls.moved(control, now)
    }
  }

  /** Nothing begun before goes on by itself after an interruption. */
  private callOffAll(): void {
    for (const control of this.allControls()) this.controls.callOff(control)
  }

  // --- boards -------------------------------------------------------------------------------------------------

  private takeBoard(input: Extract<Input, { is: 'board' }>, now: Millis): void {
    const board = this.boards.changed(input.boardId, input.up, input.loaded)
    for (const unit of this.units.values()) {
      for (const seat of seatsOf(unit)) {
        if (!isWired(seat.wiring) || seat.wiring.boardId !== board.id) continue
        if (seat.is === 'control') this.boardOfControl(seat, input.up, now)
        this.seat(seat, now)
      }
    }
  }

  private boardOfControl(control: ControlUnit, up: boolean, now: Millis): void {
    this.controls.callOff(control)
    if (up) return
    this.controls.letGo(control, now)
    // What it counts from, and where its levers stand, it tells anew when it comes back.
    if (control.aspect.kind !== 'positions') control.raw = null
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
    const layersToo = diff?.some((c) => c.table === 'layer' || c.table === 'layerSet' || c.table === 'part')
    if (layersToo) this.layers.compile(rig, this.variables.index)
    for (const id of touched) this.compileUnit(id, now)
    this.indexDependents()
    if (layersToo) this.chooseLayers()
  }

  private compileAll(now: Millis): void {
    this.variables.makeRoom(ownValues(this.rig))
    for (const id of this.units.keys()) if (!this.rig.part[id]) this.drop(id)
    this.layers.compile(this.rig, this.variables.index)
    for (const part of rowsOf(this.rig, 'part')) this.compileUnit(part.id, now)
    this.indexDependents()
    for (const control of this.allControls()) this.tellOwn(control)
    this.chooseLayers()
  }

  private chooseLayers(): void {
    for (const state of this.layers.sets.values()) this.layers.choose(state)
  }

  private compileUnit(id: string, now: Millis): void {
    const earlier = this.units.get(id)
    const part = this.rig.part[id]
    if (earlier) this.drop(id, part !== undefined)
    if (!part) return
    const slots = { slot: (key: string, isText: boolean) => this.variables.ownSlot(key, isText) }
    const around = { rig: this.rig, index: this.variables.index, values: this.variables, slots }
    const unit = makeUnit(around, part, earlier)
    this.units.set(id, unit)
    for (const seat of seatsOf(unit)) {
      if (this.boards.place(seat) && seat.is === 'indicator') this.indicators.settle(seat, now)
      if (seat.is === 'control') this.controls.takeAsFound(seat)
    }
  }

  /** Takes a unit away. One that is not coming back leaves its indicators dark. */
  private drop(id: string, comesBack = false): void {
    const unit = this.units.get(id)
    if (!unit) return
    this.units.delete(id)
    for (const seat of seatsOf(unit)) {
      if (seat.is === 'control') {
        this.controls.callOff(seat)
        this.controls.letGo(seat, this.time)
      }
      const board = this.boards.leave(seat)
      if (seat.is !== 'indicator' || !board?.up || comesBack) continue
      const before = seat.shown
      seat.shown = seat.presence.rest('out') ?? 0
      this.indicators.send(seat, before)
    }
  }

  private indexDependents(): void {
    const { numbers, index } = this.variables
    const layers = [...this.layers.sets.values()]
    this.dependents = dependentsOf(
      this.units.values(),
      layers,
      numbers.length,
      index.catalogue.variables.length,
    )
    markLoops(this.dependents, layers)
  }

  /** Whether some expression reads a value of the rig's own: where a control stands, which layer is active. */
  isRead(slot: number): boolean {
    return isRead(this.units.values(), this.dependents, slot)
  }

  /** Every variable some binding reads or tells: what the simulator has to be asked for. */
  variablesInUse(): ReadonlySet<number> {
    return this.dependents.inUse
  }

  // --- time ---------------------------------------------------------------------------------------------------

  private runTimers(now: Millis): void {
    for (let timer = this.timers.due(now); timer; timer = this.timers.due(now)) {
      switch (timer.is) {
        case 'drain':
          timer.board.drainPlanned = false
          this.boards.waits(timer.board)
          break
        case 'exercise':
          this.goOnExercising(timer, now)
          break
        case 'rest':
          this.mayHaveRested(timer, now)
          break
        case 'layer':
          this.layers.timedOut(timer.setId, now)
          break
        default:
          this.controls.due(timer, now)
      }
    }
  }

  private goOnExercising({ partId, aspectId }: ExerciseTimer, now: Millis): void {
    const indicator = this.units.get(partId)?.indicators.find((i) => i.aspect.id === aspectId)
    if (indicator) this.indicators.goOnExercising(indicator, now)
  }

  private mayHaveRested({ partId, aspectId }: RestTimer, now: Millis): void {
    const control = this.units.get(partId)?.controls.find((c) => c.aspect.id === aspectId)
    if (control) this.reading.rested(control, now)
  }
}

/** How many values of its own a rig has: what its controls stand at, and its active layers. */
const ownValues = (rig: Rig): number =>
  rowsOf(rig, 'part').reduce(
    (sum, p) => sum + (partKind(p.kind)?.aspects.filter(isControl).length ?? 0),
    Object.keys(rig.layerSet).length,
  )
