import { readsOfHold, slotsOfControl } from './compile-binding'
import type { LayerState } from './layers'
import { type Follower, loopsAmong } from './loops'
import type { MemoryCell } from './memories'
import type { ControlState, IndicatorUnit, PartUnit } from './units'

/** Who is to look when a value changes, by the value's slot. Made anew when the rig changes; a frame only reads it. */
export interface Dependents {
  readonly indicators: readonly (readonly IndicatorUnit[] | undefined)[]
  /** 1 for each slot on which more depends than what indicators show. */
  readonly noticed: Uint8Array
  /** Held things by the slots that their conditions and values read. */
  readonly holders: ReadonlyMap<number, readonly ControlState[]>
  /** Layer sets by the slots that their choices read. */
  readonly choosers: ReadonlyMap<number, readonly LayerState[]>
  /** What is remembered by the slots that it is made of. */
  readonly memories: ReadonlyMap<number, readonly MemoryCell[]>
  /** The simulator's variables that something reads or tells. */
  readonly inUse: ReadonlySet<number>
  /** Parts of which something that is told of them can change with a value. */
  readonly showing: ReadonlyMap<number, ReadonlySet<string>>
}

export const noDependents: Dependents = {
  indicators: [],
  noticed: new Uint8Array(0),
  holders: new Map(),
  choosers: new Map(),
  memories: new Map(),
  inUse: new Set(),
  showing: new Map(),
}

/** `slots` is how many values there are, `told` how many of them the simulator tells. */
export const dependentsOf = (
  units: Iterable<PartUnit>,
  layers: Iterable<LayerState>,
  slots: number,
  told: number,
  /** What is read for nothing that hangs on a panel. */
  further: Iterable<number> = [],
  memories: ReadonlyMap<number, readonly MemoryCell[]> = new Map(),
): Dependents => {
  const indicators: IndicatorUnit[][] = []
  const noticed = new Uint8Array(slots)
  const inUse = new Set<number>()
  const holders = new Map<number, ControlState[]>()
  const choosers = new Map<number, LayerState[]>()
  const showing = new Map<number, Set<string>>()
  const shows = (slot: number, partId: string) => {
    const parts = showing.get(slot)
    if (parts) parts.add(partId)
    else showing.set(slot, new Set([partId]))
  }
  const use = (slot: number) => {
    if (slot < told) inUse.add(slot)
  }
  for (const slot of further) use(slot)
  for (const slot of memories.keys()) {
    use(slot)
    noticed[slot] = 1
  }
  for (const unit of units) {
    const partId = unit.part.id
    for (const program of unit.programs) {
      for (const slot of program.kind === 'indicator' ? program.reads : slotsOfControl(program))
        shows(slot, partId)
      if (program.layer) shows(program.layer.slot, partId)
    }
    for (const control of unit.controls) shows(control.ownSlot, partId)
    for (const indicator of unit.indicators) {
      for (const slot of new Set(indicator.programs.flatMap((p) => p.reads))) {
        use(slot)
        const list = indicators[slot]
        if (list) list.push(indicator)
        else indicators[slot] = [indicator]
      }
    }
    for (const state of unit.controls.flatMap((c) => c.bindings)) {
      const { program } = state
      for (const slot of slotsOfControl(program)) use(slot)
      for (const t of program.targets) if ('variable' in t && t.do !== 'set') noticed[t.variable] = 1
      if (program.settings.when !== 'hold') continue
      for (const slot of readsOfHold(program)) {
        noticed[slot] = 1
        push(holders, slot, state)
      }
    }
  }
  for (const set of layers) {
    for (const slot of set.chosen?.reads ?? []) {
      use(slot)
      noticed[slot] = 1
      push(choosers, slot, set)
    }
  }
  return { indicators, noticed, holders, choosers, memories, inUse, showing }
}

/** Held things and choices of layers that would set each other off for ever are marked, so that they stop and say so. */
export const markLoops = ({ holders }: Dependents, layers: readonly LayerState[]): void => {
  const followers: Follower[] = layers.map((s) => ({
    id: s.set.id,
    reads: s.chosen?.reads ?? [],
    writes: [s.slot],
  }))
  const held = new Set([...holders.values()].flat())
  for (const { program } of held) {
    const reads = program.onlyWhile?.reads ?? []
    const slots = new Map(layers.map((s) => [s.set.id, s.slot]))
    const writes = program.targets.flatMap((t) => {
      if ('variable' in t) return [t.variable]
      const slot = t.do === 'layer' ? slots.get(t.set) : undefined
      return slot === undefined ? [] : [slot]
    })
    followers.push({ id: program.row.id, reads, writes })
  }
  const looping = loopsAmong(followers)
  for (const s of layers) s.looping = looping.has(s.set.id)
  for (const state of held) state.looping = looping.has(state.program.row.id)
}

/** Whether some expression reads a value of the rig's own: where a control stands, which layer is active. */
export const isRead = (
  units: Iterable<PartUnit>,
  { choosers, memories }: Dependents,
  slot: number,
): boolean => {
  for (const unit of units) {
    for (const p of unit.programs) {
      if (p.kind === 'indicator' ? p.reads.includes(slot) : slotsOfControl(p).includes(slot)) return true
    }
  }
  return choosers.has(slot) || memories.has(slot)
}

const push = <T>(lists: Map<number, T[]>, slot: number, item: T): void => {
  const list = lists.get(slot)
  if (list) list.push(item)
  else lists.set(slot, [item])
}
