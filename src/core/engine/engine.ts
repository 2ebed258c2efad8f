import { isWired, slotKey } from '../harness/configuration'
import type { Diff } from '../rig/edit'
import { emptyRig, type Rig, rowsOf } from '../rig/rig'
import { LIT, OUT } from '../signal/lamp-state'
import type { Millis } from '../units-of-measure'
import type { BoardState } from './board-state'
import type { LampProgram } from './compile-binding'
import { Controls, type Later } from './controls'
import type { Effect, Input, SimulatorValue } from './input'
import { OutputQueue } from './output-queue'
import { Timers } from './timers'
import { type LampUnit, makeUnit, positionOf, type Unit } from './unit'
import { Variables } from './variables'

type Timer =
  | { readonly is: 'drain'; readonly board: BoardState }
  | { readonly is: 'exercise-end'; readonly partId: string }

/** How long an exercise lasts at most: it ends by itself. */
export const EXERCISE_MS = 5000

/**
 * The live engine: contacts become actions, variables become indicators. A state machine over plain data: the
 * same inputs at the same times give the same effects. A frame costs what changed, not what exists.
 */
export class Engine {
  rig: Rig = emptyRig()
  armed = false
  simulatorUp = false
  readonly variables = new Variables()
  readonly units = new Map<string, Unit>()
  readonly boards = new Map<string, BoardState<Unit>>()

  private dependents: LampUnit[][] = []
  private inUse: ReadonlySet<number> = new Set()
  private frame = 0
  /** Lamps that a frame concerns; kept between frames so that none is made anew. */
  private readonly touched: LampUnit[] = []
  private readonly timers = new Timers<Timer | Later>()
  private effects: Effect[] = []
  private readonly stale = new Set<BoardState>()
  private readonly controls = new Controls({
    variables: this.variables,
    later: (at, what) => this.timers.add(at, what),
    flowing: () => this.armed && this.simulatorUp,
    emit: (effect) => this.effects.push(effect),
    unitOf: (partId) => this.units.get(partId),
  })

  /** Takes one input in and returns everything that is to be done because of it, in order. */
  step(input: Input, now: Millis): readonly Effect[] {
    this.effects = []
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
        this.takeExercise(input.partIds, input.packed, now)
        break
      case 'time':
        break
    }
    this.runTimers(now)
    this.drain(now)
    return this.effects
  }

  private takeExercise(partIds: readonly string[], packed: number | null, now: Millis): void {
    for (const id of partIds) {
      const lamp = this.units.get(id)?.lamp
      if (!lamp) continue
      lamp.exercise = packed === null ? null : { packed, until: now + EXERCISE_MS }
      if (packed !== null) this.timers.add(now + EXERCISE_MS, { is: 'exercise-end', partId: id })
      this.settle(lamp, now)
    }
  }

  private takeFrame(indexes: ArrayLike<number>, values: ArrayLike<SimulatorValue>, now: Millis): void {
    const { variables, dependents } = this
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
      const list = dependents[slot]
      if (!list) continue
      for (let k = 0; k < list.length; k++) {
        const lamp = list[k] as LampUnit
        if (lamp.seen === frame) continue
        lamp.seen = frame
        touched[count++] = lamp
      }
    }
    for (let i = 0; i < count; i++) this.settle(touched[i] as LampUnit, now)
  }

  /** Works out what a lamp shows and hands it to its board's queue when that is news. */
  private settle(lamp: LampUnit, now: Millis): void {
    const packed = this.wanted(lamp, now)
    if (packed === lamp.shown) {
      this.proveLamp(lamp)
      return
    }
    lamp.shown = packed
    lamp.changedAt = now
    const { slot, board } = lamp.unit
    if (slot < 0 || !board?.up) return
    board.queue.put(slot, packed)
    this.stale.add(board)
    this.proveLamp(lamp)
  }

  private proveLamp(lamp: LampUnit): void {
    const owner = lamp.programs[0]
    if (!lamp.live || !owner || (lamp.provenLit && lamp.provenOut)) return
    if (lamp.unit.slot < 0 || !lamp.unit.board?.up) return
    if ((lamp.shown & 255) > 0) lamp.provenLit = true
    else lamp.provenOut = true
    if (lamp.provenLit && lamp.provenOut) this.effects.push({ is: 'proven', bindingId: owner.row.id })
  }

  private wanted(lamp: LampUnit, now: Millis): number {
    lamp.live = false
    if (lamp.exercise !== null && lamp.exercise.until > now) return lamp.exercise.packed
    if (this.armed && this.simulatorUp) {
      const { programs } = lamp
      for (let i = 0; i < programs.length; i++) {
        const packed = this.showing(programs[i] as LampProgram)
        if (packed < 0) continue
        lamp.live = true
        return packed
      }
    }
    return this.resting(lamp)
  }

  /** What a binding makes its lamp show now, packed, or -1 when it has no say. */
  showing(p: LampProgram): number {
    if (p.shows === null) return -1
    let input: number | string | null
    if (p.sourceIsText) input = this.variables.texts[p.source] ?? null
    else {
      input = this.variables.numbers[p.source] as number
      if (Number.isNaN(input)) return -1
    }
    if (input === null || (p.condition !== null && p.condition(null) !== 1)) return -1
    const packed = p.shows(input) as number
    return packed >= 0 ? packed : -1
  }

  /** What the craft would have a lamp show, armed or not; null where no binding has a say. */
  wantedNow(unit: Unit): number | null {
    for (const p of unit.lamp?.programs ?? []) {
      const packed = this.showing(p)
      if (packed >= 0) return packed
    }
    return unit.lamp ? this.resting(unit.lamp) : null
  }

  private resting(lamp: LampUnit): number {
    const rest = lamp.programs[0]?.settings.rest ?? 'out'
    if (rest === 'keep') return Math.max(0, lamp.shown)
    return rest === 'lit' ? LIT : OUT
  }

  private takeReport(boardId: string, slot: number, bits: number, now: Millis): void {
    const unit = this.boards.get(boardId)?.owners.get(slot)
    if (!unit?.aspect) return
    const first = unit.bits === null
    unit.bits = bits
    const position = positionOf(unit.aspect, unit.terminals, bits)
    unit.contradiction = position === null
    if (position === null || position === unit.position) return
    unit.position = position
    if (first) {
      if (unit.part.settings.atStart === 'panel') this.controls.moved(unit, now)
      return
    }
    this.controls.moved(unit, now)
  }

  private takeSimulator(up: boolean, now: Millis): void {
    if (up === this.simulatorUp) return
    this.simulatorUp = up
    this.controls.forget()
    this.callOffAll()
    this.settleAll(now)
    if (up) this.leadFromPanel(now)
  }

  private takeArm(armed: boolean, now: Millis): void {
    if (armed === this.armed) return
    this.armed = armed
    this.callOffAll()
    this.settleAll(now)
    if (armed) this.leadFromPanel(now)
  }

  /** Parts of which the panel leads tell the simulator their position when the two meet. */
  private leadFromPanel(now: Millis): void {
    for (const unit of this.units.values()) {
      if (unit.part.settings.atStart === 'panel' && unit.position !== null && !unit.aspect?.momentary)
        this.controls.moved(unit, now)
    }
  }

  /** Nothing begun before goes on by itself after an interruption. */
  private callOffAll(): void {
    for (const unit of this.units.values()) this.controls.callOff(unit)
  }

  private settleAll(now: Millis): void {
    for (const unit of this.units.values()) if (unit.lamp) this.settle(unit.lamp, now)
  }

  private takeBoard(input: Extract<Input, { is: 'board' }>, now: Millis): void {
    const board = this.boardState(input.boardId)
    board.up = input.up
    board.queue.forget()
    board.slots = new Map(input.loaded.map((slot, i) => [slotKey(slot), i]))
    board.owners.clear()
    for (const unit of this.units.values()) {
      if (unit.board === board) this.controls.callOff(unit)
      this.seat(unit, now)
    }
  }

  private boardState(id: string): BoardState<Unit> {
    let board = this.boards.get(id)
    if (!board) {
      board = {
        id,
        up: false,
        slots: new Map(),
        owners: new Map(),
        queue: new OutputQueue(),
        drainPlanned: false,
      }
      this.boards.set(id, board)
    }
    return board
  }

  /** Finds a unit's place in what its board holds and tells the board the lamp's state anew. */
  private seat(unit: Unit, now: Millis): void {
    if (!isWired(unit.wiring)) return
    const board = this.boardState(unit.wiring.boardId)
    unit.board = board
    const slot = board.slots.get(slotKey(unit.wiring.slot))
    unit.slot = slot ?? -1
    if (slot === undefined) return
    board.owners.set(slot, unit)
    if (!unit.lamp || !board.up) return
    unit.lamp.shown = unit.lamp.programs[0]?.settings.rest === 'keep' ? unit.lamp.shown : -1
    this.settle(unit.lamp, now)
    board.queue.put(slot, Math.max(0, unit.lamp.shown))
    this.stale.add(board)
  }

  private takeRig(rig: Rig, diff: Diff | null, now: Millis): void {
    const before = this.rig
    this.rig = rig
    const touched = diff === null ? null : partsTouched(before, rig, diff)
    if (touched === null) this.compileAll(now)
    else for (const id of touched) this.compileUnit(id, now)
    if (touched !== null) this.indexDependents()
  }

  private compileAll(now: Millis): void {
    for (const id of this.units.keys()) if (!this.rig.part[id]) this.drop(id)
    for (const part of rowsOf(this.rig, 'part')) this.compileUnit(part.id, now)
    this.indexDependents()
  }

  private compileUnit(id: string, now: Millis): void {
    const earlier = this.units.get(id)
    const part = this.rig.part[id]
    if (earlier) this.drop(id, part !== undefined)
    if (!part) return
    const unit = makeUnit(this.rig, part, this.variables.index, this.variables, earlier)
    this.units.set(id, unit)
    if (!isWired(unit.wiring)) return
    const board = this.boardState(unit.wiring.boardId)
    unit.board = board
    unit.slot = board.slots.get(slotKey(unit.wiring.slot)) ?? -1
    if (unit.slot < 0) return
    board.owners.set(unit.slot, unit)
    if (unit.lamp) this.settle(unit.lamp, now)
  }

  /** Takes a unit away. One that is not coming back leaves its lamp out. */
  private drop(id: string, comesBack = false): void {
    const unit = this.units.get(id)
    if (!unit) return
    this.units.delete(id)
    this.controls.callOff(unit)
    if (!isWired(unit.wiring) || unit.slot < 0) return
    const board = this.boardState(unit.wiring.boardId)
    if (board.owners.get(unit.slot) !== unit) return
    board.owners.delete(unit.slot)
    if (unit.lamp && board.up && !comesBack) {
      board.queue.put(unit.slot, OUT)
      this.stale.add(board)
    }
  }

  private indexDependents(): void {
    const dependents: LampUnit[][] = []
    for (const { lamp } of this.units.values()) {
      if (!lamp) continue
      const slots = new Set<number>()
      for (const p of lamp.programs) {
        if (p.source >= 0) slots.add(p.source)
        for (const s of p.show?.reads ?? []) slots.add(s)
        for (const s of p.onlyWhile?.reads ?? []) slots.add(s)
      }
      for (const slot of slots) {
        const list = dependents[slot]
        if (list) list.push(lamp)
        else dependents[slot] = [lamp]
      }
    }
    this.dependents = dependents
    this.inUse = this.findInUse()
  }

  private runTimers(now: Millis): void {
    for (let timer = this.timers.due(now); timer; timer = this.timers.due(now)) {
      if (timer.is === 'drain') {
        timer.board.drainPlanned = false
        this.stale.add(timer.board)
      } else if (timer.is === 'exercise-end') this.endExercise(timer.partId, now)
      else this.controls.due(timer, now)
    }
  }

  private endExercise(partId: string, now: Millis): void {
    const lamp = this.units.get(partId)?.lamp
    if (!lamp?.exercise || lamp.exercise.until > now) return
    lamp.exercise = null
    this.settle(lamp, now)
  }

  private drain(now: Millis): void {
    for (const board of this.stale) {
      const boardId = board.id
      const outputs = board.queue.take(now)
      if (outputs.length > 0) this.effects.push({ is: 'output', boardId, outputs })
      if (board.queue.size > 0 && !board.drainPlanned) {
        board.drainPlanned = true
        this.timers.add(board.queue.readyAt(now), { is: 'drain', board })
      }
    }
    this.stale.clear()
    const next = this.timers.next()
    if (next !== null) this.effects.push({ is: 'wake', at: next })
  }

  /** Every variable some binding reads or tells: what the simulator has to be asked for. */
  variablesInUse(): ReadonlySet<number> {
    return this.inUse
  }

  private findInUse(): Set<number> {
    const slots = new Set<number>()
    for (const unit of this.units.values()) {
      for (const p of unit.lamp?.programs ?? []) {
        if (p.source >= 0) slots.add(p.source)
        for (const s of [...(p.show?.reads ?? []), ...(p.onlyWhile?.reads ?? [])]) slots.add(s)
      }
      for (const { program } of unit.controls) {
        for (const s of [...(program.value?.reads ?? []), ...(program.onlyWhile?.reads ?? [])]) slots.add(s)
        for (const t of program.targets) if ('variable' in t) slots.add(t.variable)
      }
    }
    return slots
  }
}

/** The parts that an edit concerns, or null when it may concern all. */
export const partsTouched = (before: Rig, after: Rig, diff: Diff): Set<string> | null => {
  const parts = new Set<string>()
  for (const c of diff) {
    if (c.table === 'curve' || c.table === 'layer') return null
    if (c.table === 'part') parts.add(c.id)
    if (c.table === 'binding' || c.table === 'lead') {
      for (const rig of [before, after]) {
        const row = rig[c.table][c.id]
        if (row) parts.add(row.partId)
      }
    }
    if (c.table === 'board')
      for (const l of rowsOf(after, 'lead')) if (l.boardId === c.id) parts.add(l.partId)
  }
  return parts
}
