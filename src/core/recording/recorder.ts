import type { Engine } from '../engine/engine'
import type { Effect, Input, SimulatorValue } from '../engine/input'
import { orderIn } from '../engine/order'
import { numberOf, textOf } from '../engine/variables'
import type { Source } from '../rig/sources'
import type { Micros, Millis } from '../units-of-measure'
import type { Block } from './block'
import { BlockBuilder } from './block-builder'
import { type MarkedBy, type Standing, startsOf, type What } from './moment'

/** So long is a block: what is lost at most if this process ends without a word. */
export const BLOCK_US: Micros = 10_000_000
/** Where more changes than that come, a block is shorter. */
const MOST_CHANGES = 2_000_000

/** Reads how an engine stands, beside its values. */
export const standingOf = (engine: Engine): Standing => {
  const { variables } = engine
  const bits = (of: number) => variables.places.flatMap((_, i) => ((of >> i) & 1 ? [i] : []))
  return {
    armed: engine.armed,
    ...(engine.craftSet === null ? {} : { craftSet: engine.craftSet }),
    up: bits(variables.up),
    quiet: bits(variables.quiet),
    boards: [...engine.boards.everyone()].filter((b) => b.up).map((b) => b.id),
    controls: [...engine.units.values()].flatMap((u) =>
      u.controls.flatMap((c) => (c.raw === null ? [] : [[u.part.id, c.aspect.id, c.raw] as const])),
    ),
  }
}

/**
 * Writes down what an engine is told, each input before the engine has it, and hands it over block by block. Its time
 * begins with zero.
 */
export class Recorder {
  private begun: BlockBuilder
  private readonly starts: readonly number[]
  /** Names of what was ordered, until that is answered. */
  private readonly orders = new Map<number, string>()
  private now: Micros = 0

  constructor(
    private readonly engine: Engine,
    sources: readonly Source[],
    /** By variable, whether it is recorded. */
    private readonly chosen: Uint8Array,
    private readonly beginsAt: Millis,
    private readonly handOver: (block: Block) => void,
  ) {
    this.starts = startsOf(sources)
    this.begun = this.begin(0)
  }

  /** How long it is so far. */
  get length(): Micros {
    return this.now
  }

  private begin(from: Micros, before: BlockBuilder | null = null): BlockBuilder {
    const { variables } = this.engine
    const first = variables.numbers.slice(0, this.chosen.length)
    const begun = new BlockBuilder(from, standingOf(this.engine), first, before)
    for (let v = 0; v < first.length; v++) {
      if (this.chosen[v] === 0) first[v] = Number.NaN
      else if (variables.isText[v] === 1) begun.putFirst(v, variables.texts[v] ?? null)
    }
    return begun
  }

  /** The time of a recording goes on in whole microseconds. */
  private at(now: Millis): Micros {
    this.now = Math.max(this.now, Math.round((now - this.beginsAt) * 1000))
    return this.now
  }

  /** Hands over what there is if it is long enough. */
  check(now: Millis): void {
    const at = this.at(now)
    if (at - this.begun.from < BLOCK_US && this.begun.changes < MOST_CHANGES) return
    this.handOver(this.begun.done(at))
    this.begun = this.begin(at, this.begun)
  }

  /** The last of it. */
  end(now: Millis): void {
    this.handOver(this.begun.done(this.at(now)))
  }

  /** An input, before the engine takes it; `told` is a source's own time with a frame of it. */
  note(input: Input, now: Millis, told = Number.NaN): void {
    this.check(now)
    if (input.is === 'frame') this.frame(input, told)
    else {
      const what = this.whatOf(input)
      if (what) this.begun.moment(this.now, what)
    }
  }

  private frame(input: Extract<Input, { is: 'frame' }>, told: number): void {
    const { variables } = this.engine
    const source = variables.places.findIndex((p) => p.id === input.source)
    const from = this.starts[source]
    const until = this.starts[source + 1]
    if (from === undefined || until === undefined) return
    const { begun, chosen } = this
    let empty = true
    for (let i = 0; i < input.indexes.length; i++) {
      const v = from + (input.indexes[i] as number)
      const value = input.values[i] as SimulatorValue
      if (v >= until || chosen[v] === 0 || !variables.differs(v, value)) continue
      if (empty) begun.beginFrame(this.now, told, source)
      empty = false
      begun.change(v, variables.isText[v] === 1 ? begun.text(textOf(value)) : numberOf(value))
    }
  }

  private whatOf(input: Input): What | null {
    const { engine } = this
    const sourceAt = (id: string) => engine.variables.places.findIndex((p) => p.id === id)
    switch (input.is) {
      case 'report': {
        const seat = engine.boards.get(input.boardId)?.owners.get(input.slot)
        if (seat?.is !== 'control') return null
        return { is: 'report', partId: seat.unit.part.id, aspectId: seat.aspect.id, value: input.value }
      }
      case 'source':
        return { is: 'source', source: sourceAt(input.source), up: input.up }
      case 'quiet':
        return { is: 'quiet', source: sourceAt(input.source), quiet: input.quiet }
      case 'board':
        return { is: 'board', boardId: input.boardId, up: input.up }
      case 'answer': {
        const to = this.orders.get(input.request)
        this.orders.delete(input.request)
        return to === undefined ? null : { is: 'answer', to, problem: input.problem }
      }
      case 'arm':
      case 'craft set':
      case 'exercise':
      case 'settle':
        return input
      default:
        return null
    }
  }

  /** What the engine wanted done: orders are kept, so that their answers can be told apart. */
  ordered(effects: readonly Effect[]): void {
    const { catalogue } = this.engine.variables.index
    for (const e of effects) {
      const order = orderIn(catalogue, e)
      if (!order) continue
      const { to, request, value } = order
      this.orders.set(request, to)
      this.begun.moment(this.now, { is: 'order', to, value })
    }
  }

  mark(words: string, by: MarkedBy, now: Millis): Micros {
    this.begun.moment(this.at(now), { is: 'mark', words, by })
    return this.now
  }
}
