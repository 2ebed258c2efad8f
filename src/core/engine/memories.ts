import type { Rig } from '../rig/rig'
import type { MemoryArgument } from '../signal/expression/checked'
import { type Compiled, finish } from '../signal/expression/compile'
import type { ValueType } from '../signal/expression/value-type'
import { type MemoryName, memoryKind, memoryKinds } from '../signal/memory/kinds'
import type { Millis } from '../units-of-measure'
import { evaluate } from './evaluate'
import type { Variables } from './variables'

/** A function with a memory somewhere in the rig: what it is given, what it remembers, where what it gives is kept. */
export interface MemoryCell {
  readonly key: string
  readonly name: MemoryName
  slot: number
  given: readonly Compiled[]
  readonly reads: Set<number>
  readonly state: unknown
  /** When it next has something to say by itself, and when it is looked after that: one timer serves however often that changes. */
  wakeAt: Millis | null
  armedAt: Millis | null
  fresh: boolean
}

/** A memory may have something else to say. */
export interface MemoryTimer {
  readonly is: 'memory'
  readonly cell: MemoryCell
  readonly at: Millis
}

interface MemorySurroundings {
  readonly variables: Variables
  /** What it gives has changed. */
  readonly changed: (slot: number) => void
  readonly later: (at: Millis, timer: MemoryTimer) => void
}

/**
 * What is remembered, call by call. The same call over the same values is one, however many expressions make it, and goes on
 * remembering while the rig around it is edited.
 */
export class Memories {
  private readonly cells = new Map<string, MemoryCell>()
  private readonly bySlot = new Map<number, MemoryCell>()

  constructor(private readonly around: MemorySurroundings) {}

  /** Where a call keeps what it gives; the beginning of its memory, where there is none yet. */
  readonly place = (
    name: MemoryName,
    given: readonly MemoryArgument[],
    type: ValueType,
  ): { readonly slot: number; readonly type: ValueType } => {
    const { variables } = this.around
    // Code speaks of slots by their order; what makes a call the same is which they are.
    const key = `memory ${name} ${given.map(({ checked, uses }) => `${checked.type.is} ${checked.code} ${uses.order.join(' ')}`).join(' | ')}`
    const slot = variables.ownSlot(key, type.is === 'text')
    const known = this.cells.get(key)
    const cell: MemoryCell = known ?? {
      ...{ key, name, slot, given: [], reads: new Set(), wakeAt: null, armedAt: null, fresh: true },
      state: memoryKind(name).begin(),
    }
    cell.slot = slot
    cell.given = given.map(({ checked, uses }) => finish(checked, uses, variables))
    cell.reads.clear()
    for (const c of cell.given) for (const s of c.reads) cell.reads.add(s)
    cell.fresh = true
    this.cells.set(key, cell)
    this.bySlot.set(slot, cell)
    variables.derived.set(slot, variables.needs(cell.reads))
    return { slot, type }
  }

  /** Slots mean other variables: nothing that is remembered is of them. */
  forget(): void {
    this.cells.clear()
  }

  /** All slots are given out anew: whoever is still called says so. */
  begin(): void {
    this.bySlot.clear()
    this.around.variables.derived.clear()
  }

  /** Forgets those that nobody calls any more; these slots are read. */
  keep(read: ReadonlySet<number>): void {
    const kept = new Set<MemoryCell>()
    const visit = (slot: number) => {
      const cell = this.bySlot.get(slot)
      if (!cell || kept.has(cell)) return
      kept.add(cell)
      for (const s of cell.reads) visit(s)
    }
    for (const slot of read) visit(slot)
    for (const cell of this.cells.values()) {
      if (kept.has(cell)) continue
      this.cells.delete(cell.key)
      if (this.bySlot.get(cell.slot) !== cell) continue
      this.bySlot.delete(cell.slot)
      this.around.variables.derived.delete(cell.slot)
      this.around.variables.free(cell.key)
    }
  }

  /** Who is to look when a value changes, by its slot. */
  dependents(): ReadonlyMap<number, readonly MemoryCell[]> {
    const found = new Map<number, MemoryCell[]>()
    for (const cell of this.cells.values())
      for (const slot of cell.reads) {
        const list = found.get(slot)
        if (list) list.push(cell)
        else found.set(slot, [cell])
      }
    return found
  }

  /** Looks at those that were just made, or made anew. */
  lookAtFresh(now: Millis): void {
    for (const cell of this.cells.values()) if (cell.fresh) this.look(cell, now)
  }

  look(cell: MemoryCell, now: Millis): void {
    cell.fresh = false
    const given = cell.given.map((c) => evaluate(c, null))
    const { value, next } = memoryKind(cell.name).step(cell.state, given, now)
    if (this.around.variables.writeOwn(cell.slot, value)) this.around.changed(cell.slot)
    cell.wakeAt = next
    if (next !== null && (cell.armedAt === null || next < cell.armedAt)) this.arm(cell, next)
  }

  private arm(cell: MemoryCell, at: Millis): void {
    cell.armedAt = at
    this.around.later(at, { is: 'memory', cell, at })
  }

  /** Its time has come, or has been put off meanwhile. */
  due({ cell, at }: MemoryTimer, now: Millis): void {
    if (cell.armedAt !== at || this.cells.get(cell.key) !== cell) return
    cell.armedAt = null
    if (cell.wakeAt === null) return
    if (now < cell.wakeAt) this.arm(cell, cell.wakeAt)
    else this.look(cell, now)
  }
}

const CALLS = new RegExp(`\\b(?:${Object.keys(memoryKinds).join('|')})\\s*\\(`, 'g')

/** Found once for each row: rows are never mutated. */
const counted = new WeakMap<object, number>()

/** How many calls with a memory the expressions of a rig may hold, at most. */
export const memoriesIn = ({ binding, layerSet, lighting, connection, screen, element }: Rig): number => {
  let sum = 0
  for (const table of [binding, layerSet, lighting, connection, screen, element])
    for (const row of Object.values(table)) {
      let count = counted.get(row)
      if (count === undefined) {
        count = JSON.stringify(row.settings).match(CALLS)?.length ?? 0
        counted.set(row, count)
      }
      sum += count
    }
  return sum
}
