import { isControl } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { partsOfSets } from '../rig/craft-sets'
import type { Diff } from '../rig/edit'
import { emptyRig, type Rig, rowsOf } from '../rig/rig'
import type { TableName } from '../rig/rows'
import type { Millis } from '../units-of-measure'
import type { Boards } from './boards'
import type { Changes } from './changes'
import { eventsOfControl, type Program, slotsOfControl } from './compile-binding'
import type { Controls } from './controls/controls'
import { dependentsOf, isRead, markLoops } from './dependents'
import type { Indicators } from './indicators'
import type { Layers } from './layers'
import type { Lighting } from './lighting'
import { type Memories, memoriesIn } from './memories'
import type { Outgoing } from './outgoing'
import { partsTouched } from './parts-touched'
import type { Rounds } from './rounds'
import { type OwnSlots, partKey } from './scope'
import type { Screens } from './screens'
import { type ControlUnit, makeUnit, type PartUnit, seatsOf } from './units'
import type { Variables } from './variables'

/** What a rig is compiled into, and against. */
interface Works {
  readonly variables: Variables
  readonly slots: OwnSlots
  readonly boards: Boards
  readonly changes: Changes
  readonly rounds: Rounds
  readonly controls: Controls
  readonly indicators: Indicators
  readonly layers: Layers
  readonly memories: Memories
  readonly lighting: Lighting
  readonly outgoing: Outgoing
  readonly screens: Screens
}

/** The open rig as it runs: every part compiled, and known who depends on what. An edit compiles what it touches. */
export class RunningRig {
  rig: Rig = emptyRig()
  /** The craft set that holds, or null. */
  craftSet: string | null = null
  readonly units = new Map<string, PartUnit>()

  constructor(private readonly works: Works) {}

  *allControls(): Iterable<ControlUnit> {
    for (const unit of this.units.values()) yield* unit.controls
  }

  /** Takes another rig in, or an edit of this one: what goes on by itself goes on. */
  take(rig: Rig, diff: Diff | null, now: Millis): void {
    const { variables, changes, layers, slots, screens, memories, rounds } = this.works
    const before = this.rig
    this.rig = rig
    const touched = diff === null ? null : partsTouched(before, rig, diff)
    if (touched === null || variables.makeRoom(ownValues(rig))) {
      this.compileAll(now)
      return
    }
    for (const id of touched) changes.part(id)
    const layersToo = diff?.some((c) => c.table === 'layer' || c.table === 'layerSet' || c.table === 'part')
    if (layersToo) layers.compile(rig, variables.index, slots)
    if (layersToo || diff?.some((c) => c.table === 'lighting' || c.table === 'connection'))
      this.compileLoose()
    for (const id of touched) this.compileUnit(id, now)
    const tables = new Set(diff?.map((c) => c.table))
    const named = [...tables].some((t) => readByScreens.has(t))
    if (named || [...tables].some((t) => onScreens.has(t))) screens.compile(rig, slots, named)
    this.indexDependents()
    memories.lookAtFresh(now)
    // A lever whose bands were changed gives something else now.
    for (const id of touched)
      for (const control of this.units.get(id)?.controls ?? []) rounds.tellOwn(control)
    if (layersToo) {
      changes.everything = true
      this.chooseLayers()
    }
  }

  /** Another craft: parts whose bindings differ get them, and what those of before hold is let go. Gives these parts. */
  takeCraftSet(set: string | null, now: Millis): readonly PartUnit[] {
    this.craftSet = set
    const parts = [...partsOfSets(this.rig)]
    for (const id of parts) this.compileUnit(id, now)
    this.indexDependents()
    this.works.memories.lookAtFresh(now)
    this.works.changes.everything = true
    return parts.flatMap((id) => this.units.get(id) ?? [])
  }

  /** Compiles everything anew, as after sources have told of other variables. */
  compileAll(now: Millis): void {
    const { variables, changes, layers, slots, screens, memories, rounds } = this.works
    variables.makeRoom(ownValues(this.rig))
    changes.resize(variables.numbers.length)
    memories.begin()
    for (const id of this.units.keys()) if (!this.rig.part[id]) this.compileUnit(id, now)
    layers.compile(this.rig, variables.index, slots)
    this.compileLoose()
    for (const part of rowsOf(this.rig, 'part')) this.compileUnit(part.id, now)
    screens.compile(this.rig, slots, true)
    this.indexDependents()
    for (const control of this.allControls()) rounds.tellOwn(control)
    memories.lookAtFresh(now)
    this.chooseLayers()
  }

  /** Compiles what belongs to no part: what dims groups of lights, what connections send. */
  private compileLoose(): void {
    const { lighting, outgoing, variables, slots } = this.works
    lighting.compile(this.rig, variables.index, variables, slots)
    outgoing.compile(this.rig, slots)
  }

  private chooseLayers(): void {
    const { layers } = this.works
    layers.choose(layers.sets.values())
  }

  private compileUnit(id: string, now: Millis): void {
    const { variables, slots, boards, indicators, controls } = this.works
    const earlier = this.units.get(id)
    const part = this.rig.part[id]
    const { rig, craftSet } = this
    const around = { rig, craftSet, index: variables.index, values: variables, slots }
    const unit = part ? makeUnit(around, part, earlier) : undefined
    for (const program of unit?.programs ?? []) program.needs = this.needsOf(program)
    if (earlier) this.replace(earlier, unit, now)
    if (!unit) return
    this.units.set(id, unit)
    for (const seat of seatsOf(unit)) {
      if (boards.place(seat) && seat.is === 'indicator') indicators.settle(seat, now)
      if (seat.is === 'control') controls.takeFreshAsFound(seat)
    }
  }

  private needsOf(program: Program): number {
    const { variables } = this.works
    return program.kind === 'indicator'
      ? variables.needs(program.reads)
      : variables.needs(slotsOfControl(program), eventsOfControl(program))
  }

  /** A unit makes way for a new version of itself, or goes: what does not go on is ended, what hangs nowhere is dark. */
  private replace(unit: PartUnit, by: PartUnit | undefined, now: Millis): void {
    const { controls, variables, boards, indicators } = this.works
    this.units.delete(unit.part.id)
    const goOn = new Set(by?.controls.flatMap((c) => c.bindings.map((b) => b.gesture)))
    for (const seat of seatsOf(unit)) {
      if (seat.is === 'control') {
        for (const state of seat.bindings) if (!goOn.has(state.gesture)) controls.retire(state, now)
        if (!by) variables.free(partKey(unit.part.id, seat.aspect.id))
      }
      const board = boards.leave(seat)
      if (seat.is !== 'indicator' || !board?.up || by) continue
      const before = seat.shown
      seat.shown = seat.presence.rest('out') ?? 0
      indicators.send(seat, before)
    }
    controls.commit(now)
  }

  private indexDependents(): void {
    const { rounds, variables, memories, outgoing, screens } = this.works
    rounds.keepTouched((i) => this.units.get(i.unit.part.id) === i.unit)
    const { numbers, index } = variables
    const layers = [...this.works.layers.sets.values()]
    memories.keep(this.slotsRead())
    rounds.dependents = dependentsOf(
      this.units.values(),
      layers,
      numbers.length,
      index.catalogue.variables.length,
      [...outgoing.reads, ...screens.reads],
      memories.dependents(),
    )
    markLoops(rounds.dependents, layers)
  }

  /** Every slot that something of the rig reads. */
  private slotsRead(): Set<number> {
    const { outgoing, screens, lighting, layers } = this.works
    const read = new Set([...outgoing.reads, ...screens.reads])
    for (const slot of lighting.reads) read.add(slot)
    for (const { chosen } of layers.sets.values()) for (const slot of chosen?.reads ?? []) read.add(slot)
    for (const unit of this.units.values())
      for (const p of unit.programs)
        for (const slot of p.kind === 'indicator' ? p.reads : slotsOfControl(p)) read.add(slot)
    return read
  }

  /** Whether some expression reads a value of the rig's own: where a control stands, which layer is active. */
  isRead(slot: number): boolean {
    return isRead(this.units.values(), this.works.rounds.dependents, slot)
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
