import type { Engine } from '../engine/engine'
import type { Effect } from '../engine/input'
import { orderIn } from '../engine/order'
import { isReached, type PartUnit } from '../engine/units'
import { shownWords } from '../engine/words'
import type { Rig } from '../rig/rig'
import type { State } from '../signal/state'
import type { Micros } from '../units-of-measure'
import type { Block } from './block'
import type { RecordingHead } from './moment'
import { Performance } from './perform'

/** What something was over time: each state with when it began. */
export type Track = readonly (readonly [at: Micros, state: State | null])[]

/** What a panel showed while a recording was played, and what was ordered of the sources. */
export interface ExampleShown {
  readonly indicators: readonly {
    readonly partId: string
    readonly aspectId: string
    readonly name: string
    readonly track: Track
  }[]
  readonly orders: readonly { readonly to: string; readonly track: Track }[]
  readonly until: Micros
}

/** One part, or one order, of which something else is shown or told now. */
export interface Difference {
  /** Null for an order, which goes to what `name` says. */
  readonly partId: string | null
  readonly aspectId: string | null
  readonly name: string
  /** When it differs first, and for how long in all. */
  readonly at: Micros
  readonly for: Micros
  /** In words, what it was then and is now; null where nothing. */
  readonly was: string | null
  readonly is: string | null
}

interface Watched {
  readonly partId: string
  readonly aspectId: string
  readonly name: string
  readonly track: (readonly [Micros, State])[]
}

const keyOf = (partId: string, aspectId: string): string => JSON.stringify([partId, aspectId])

/** Plays a recording with a rig and keeps what its panels show. */
export class Example {
  private readonly performance: Performance
  private readonly watched = new Map<string, Watched>()
  private readonly orders = new Map<string, (readonly [Micros, State | null])[]>()
  private until: Micros = 0

  constructor(
    head: RecordingHead,
    rig: Rig,
    private readonly from: Micros,
    private readonly to: Micros,
  ) {
    this.performance = new Performance(head, rig, (effects, at) => this.look(effects, at))
  }

  /** The next of its blocks. */
  play(block: Block): void {
    const until = Math.min(block.until, this.to)
    this.performance.play(block, Math.max(block.from, this.from), until)
    this.until = until
  }

  private look(effects: readonly Effect[], at: Micros): void {
    const { engine } = this.performance
    const { changes, units } = engine
    if (changes.everything) for (const unit of units.values()) this.lookAt(unit, at)
    else for (const id of changes.parts) this.lookAt(units.get(id), at)
    changes.clear()
    const { catalogue } = engine.variables.index
    for (const e of effects) {
      const order = orderIn(catalogue, e)
      if (!order) continue
      const track = this.orders.get(order.to) ?? []
      track.push([at, order.value])
      this.orders.set(order.to, track)
    }
  }

  private lookAt(unit: PartUnit | undefined, at: Micros): void {
    for (const i of unit?.indicators ?? []) {
      if (!isReached(i)) continue
      const key = keyOf(i.unit.part.id, i.aspect.id)
      let one = this.watched.get(key)
      if (!one) {
        one = { partId: i.unit.part.id, aspectId: i.aspect.id, name: i.unit.part.name, track: [] }
        this.watched.set(key, one)
      }
      const last = one.track.at(-1)
      if (last?.[1] === i.shown) continue
      // What it was within one moment nobody has seen.
      if (last?.[0] === at) one.track.pop()
      if (one.track.at(-1)?.[1] !== i.shown) one.track.push([at, i.shown])
    }
  }

  /** What was shown, once all blocks were played. */
  shown(): ExampleShown {
    return {
      indicators: [...this.watched.values()],
      orders: [...this.orders].map(([to, track]) => ({ to, track })),
      until: this.until,
    }
  }

  get engine(): Engine {
    return this.performance.engine
  }
}

/** When two tracks differ first, for how long in all, and what they are then; null where never. */
const compare = (was: Track, is: Track, until: Micros) => {
  const times = [...new Set([...was, ...is].map(([at]) => at))].sort((a, b) => a - b)
  let [i, k] = [-1, -1]
  let first: { at: Micros; was: State | null; is: State | null } | null = null
  let length = 0
  for (const [n, at] of times.entries()) {
    while ((was[i + 1]?.[0] ?? Number.POSITIVE_INFINITY) <= at) i++
    while ((is[k + 1]?.[0] ?? Number.POSITIVE_INFINITY) <= at) k++
    const [a, b] = [was[i]?.[1] ?? null, is[k]?.[1] ?? null]
    if (a === b) continue
    first ??= { at, was: a, is: b }
    length += (times[n + 1] ?? until) - at
  }
  return first && { ...first, for: length }
}

/** Orders differ where another one is given, or one at another moment. */
const firstOrder = (was: Track, is: Track) => {
  const n = Array.from({ length: Math.max(was.length, is.length) }, (_, i) => i).find(
    (i) => was[i]?.[0] !== is[i]?.[0] || was[i]?.[1] !== is[i]?.[1],
  )
  if (n === undefined) return null
  const [a, b] = [was[n], is[n]]
  return {
    at: Math.min(a?.[0] ?? Number.POSITIVE_INFINITY, b?.[0] ?? Number.POSITIVE_INFINITY),
    was: a,
    is: b,
  }
}

const orderWords = (order: Track[number] | undefined): string | null =>
  order ? (order[1] === null ? 'sent' : String(order[1])) : null

/** What a panel shows now, and tells the sources, that it did not when the example was kept, part by part. */
export const differences = (expected: ExampleShown, now: ExampleShown, engine: Engine): Difference[] => {
  const { until } = now
  const before = new Map(expected.indicators.map((i) => [keyOf(i.partId, i.aspectId), i]))
  const after = new Map(now.indicators.map((i) => [keyOf(i.partId, i.aspectId), i]))
  const found: Difference[] = []
  for (const key of new Set([...before.keys(), ...after.keys()])) {
    const one = after.get(key) ?? before.get(key)
    const d = compare(before.get(key)?.track ?? [], after.get(key)?.track ?? [], until)
    if (!one || !d) continue
    const unit = engine.units.get(one.partId)
    const aspect = unit?.indicators.find((i) => i.aspect.id === one.aspectId)?.aspect
    const words = (state: State | null) =>
      state === null || state === -1
        ? null
        : unit && aspect
          ? shownWords(aspect, unit.part.settings, state)
          : 'something'
    const { partId, aspectId, name } = one
    found.push({ partId, aspectId, name, at: d.at, for: d.for, was: words(d.was), is: words(d.is) })
  }
  const ordersBefore = new Map(expected.orders.map((o) => [o.to, o.track]))
  const ordersAfter = new Map(now.orders.map((o) => [o.to, o.track]))
  for (const name of new Set([...ordersBefore.keys(), ...ordersAfter.keys()])) {
    const d = firstOrder(ordersBefore.get(name) ?? [], ordersAfter.get(name) ?? [])
    if (d)
      found.push({
        partId: null,
        aspectId: null,
        name,
        at: d.at,
        for: 0,
        was: orderWords(d.was),
        is: orderWords(d.is),
      })
  }
  return found.sort((a, b) => a.at - b.at)
}
