import type { Engine } from '../../core/engine/engine'
import type { Effect, SimulatorValue } from '../../core/engine/input'
import { orderIn } from '../../core/engine/order'
import type { FromHub, ToHub } from '../../core/live/feed'
import { findRows, type ScopeRows, searchTexts } from '../../core/scope/find'
import { Movements, ROW_SAMPLES } from '../../core/scope/movements'
import { typedEventValue, typedValue } from '../../core/scope/typed-value'
import { formatNumber } from '../../core/signal/format'
import type { Tab } from '../tab'
import { type HuntMessage, Hunts } from './hunt'
import type { ScopeTab } from './scope-tab'

/** Nobody reads faster. */
const TELL_MS = 100
/** A simulator that has not answered an order by then is said to be silent about it. */
const ANSWER_MS = 2000
/** Numbers of orders from here on are a hand's own; the engine counts its own from one. */
const FIRST_REQUEST = 1_000_000_000

/** Whether it is open is the hub's business. */
type ScopeMessage = Extract<ToHub, { say: `scope ${string}` }>

const valueWords = (value: number | string): string =>
  typeof value === 'number' ? formatNumber(value) : value

interface Waiting {
  readonly tab: Tab
  readonly name: string
  readonly value: number | string | null
  readonly until: number
}

/** Orders on their way to a source: what is wrong with that, or null. */
export interface ScopeOrders {
  readonly set: (request: number, variable: number, value: number | string) => string | null
  readonly event: (request: number, event: number, value: number | string | null) => string | null
}

/**
 * What Scope is told: of all that the sources say, the rows that a tab asks for, in its order, and of those the ones that
 * it shows. Nothing is counted while nobody looks.
 */
export class Scope {
  private movements = new Movements(0)
  private texts: readonly string[] = []
  private names: readonly string[] = []
  private toldAt = 0
  private nextRequest = FIRST_REQUEST
  private readonly waiting = new Map<number, Waiting>()
  private watching = false
  private traceTurn = 0
  private readonly hunts: Hunts

  constructor(
    private readonly engine: Engine,
    private readonly orders: ScopeOrders,
  ) {
    this.hunts = new Hunts(engine, () => this.movements)
  }

  /** Other names, or names at other places. What was counted of those that are still there stays. */
  describe(now: number): void {
    const { catalogue } = this.engine.variables.index
    const before = { movements: this.movements, names: this.names }
    const was = new Map(before.names.map((n, i) => [n, i]))
    this.names = [...catalogue.variables, ...catalogue.events].map((i) => i.name)
    this.texts = searchTexts(catalogue)
    this.movements = new Movements(this.names.length)
    this.movements.carryOver(before.movements, (i) => was.get(this.names[i] as string))
    this.hunts.beginWatch(now)
  }

  /** Whether any of these looks at everything. */
  look(tabs: Iterable<Tab>, now: number): void {
    const watching = [...tabs].some((t) => t.scope !== null)
    if (watching && !this.watching) this.hunts.beginWatch(now)
    this.watching = watching
  }

  /** A frame of a source, before the engine has it. */
  frame(source: string, indexes: ArrayLike<number>, values: ArrayLike<SimulatorValue>, now: number): void {
    if (!this.watching) return
    const { variables } = this.engine
    const place = variables.placeOf(source)
    if (!place) return
    const [from, until] = place.variables
    for (let i = 0; i < indexes.length; i++) {
      const slot = from + (indexes[i] as number)
      const value = values[i] as SimulatorValue
      if (slot >= until || !variables.differs(slot, value)) continue
      this.movements.note(slot, now)
      this.hunts.note(slot, value, now)
    }
  }

  /** An event has been sent. */
  sent(event: number, now: number): void {
    if (this.watching) this.movements.note(this.engine.variables.told + event, now)
  }

  private rowsFor(tab: ScopeTab): ScopeRows {
    const { variables } = this.engine
    return {
      catalogue: variables.index.catalogue,
      value: (row) => (row < variables.told ? variables.read(row) : null),
      at: this.movements.at,
      counts: this.movements.counts,
      isPinned: (name) => tab.pinned.has(name),
      isMuted: (name) => tab.muted.has(name),
      isBound: (name) => tab.bound.has(name),
    }
  }

  /** A control was operated on the panel. */
  operated(tabs: ReadonlySet<Tab>, partId: string, now: number): void {
    if (this.watching) this.hunts.operated(tabs, partId, now)
  }

  /** A moment was marked in the recording that is played. */
  marked(tabs: Iterable<Tab>, words: string, now: number): void {
    if (this.watching) this.hunts.marked(tabs, now)
    this.note(tabs, words)
  }

  /** A binding has ordered something. */
  ordered(tabs: Iterable<Tab>, effects: readonly Effect[]): void {
    if (!this.watching) return
    const { catalogue } = this.engine.variables.index
    for (const e of effects) {
      const order = orderIn(catalogue, e)
      if (order) this.note(tabs, order.value === null ? order.to : `${order.to} ${valueWords(order.value)}`)
    }
  }

  private note(tabs: Iterable<Tab>, words: string): void {
    for (const tab of tabs) if (tab.scope && !tab.line.isFull()) tab.send({ say: 'scope noted', words })
  }

  hear(tab: Tab, m: ScopeMessage | HuntMessage, now: number): void {
    const { scope } = tab
    if (!scope) return
    switch (m.say) {
      case 'hunt':
      case 'hunt mark':
      case 'hunt unmark':
      case 'hunt part':
        this.hunts.hear(tab, m, now)
        break
      case 'scope lists':
        scope.pinned = new Set(m.pinned)
        scope.muted = new Set(m.muted)
        scope.bound = new Set(m.bound)
        break
      case 'scope find':
        tab.send({
          say: 'scope found',
          ask: m.ask,
          rows: findRows(this.rowsFor(scope), this.texts, m.query),
        })
        break
      case 'scope show':
        scope.shown = m.rows.filter((r) => r < this.names.length)
        scope.fresh = true
        break
      case 'scope write':
        this.write(tab, m.name, m.typed, now)
        break
      case 'scope event':
        this.send(tab, m.name, m.typed, now)
        break
      case 'scope moved':
        tab.send({
          say: 'scope moved',
          names: this.movements.movedSince(now - m.ms).map((i) => this.names[i] as string),
        })
        break
      case 'scope forget':
        this.movements.forget()
        scope.fresh = true
        break
    }
  }

  private answer(
    tab: Tab,
    name: string,
    value: number | string | null,
    problem: string | null,
    sent = true,
  ): void {
    tab.send({ say: 'scope answered', name, value, problem, sent })
  }

  /** Reads what was typed as a value of a variable, and gives it as an order. */
  private write(tab: Tab, name: string, typed: string, now: number): void {
    const { index } = this.engine.variables
    const slot = index.variable.get(name) ?? -1
    const info = index.catalogue.variables[slot]
    if (!info) this.answer(tab, name, null, 'no source tells it any more', false)
    else
      this.order(tab, name, typedValue(info, typed), now, (request, value) =>
        this.orders.set(request, slot, value),
      )
  }

  private send(tab: Tab, name: string, typed: string, now: number): void {
    const { index } = this.engine.variables
    const event = index.event.get(name) ?? -1
    const info = index.catalogue.events[event]
    if (!info) this.answer(tab, name, null, 'no source knows it any more', false)
    else
      this.order(tab, name, typedEventValue(info, typed), now, (request, value) =>
        this.orders.event(request, event, value),
      )
  }

  /** Gives an order with a number of its own and waits for its answer; what keeps it from going is said at once. */
  private order<V extends number | string | null>(
    tab: Tab,
    name: string,
    read: { readonly value: V } | { readonly problem: string },
    now: number,
    give: (request: number, value: V) => string | null,
  ): void {
    if ('problem' in read) {
      this.answer(tab, name, null, read.problem, false)
      return
    }
    const { value } = read
    const request = this.nextRequest++
    const problem = give(request, value)
    if (problem !== null) this.answer(tab, name, value, problem, false)
    else this.waiting.set(request, { tab, name, value, until: now + ANSWER_MS })
  }

  /** A source has answered an order; true where that was a hand's own. */
  answered(request: number, problem: string | null): boolean {
    if (request < FIRST_REQUEST) return false
    const order = this.waiting.get(request)
    this.waiting.delete(request)
    if (order) this.answer(order.tab, order.name, order.value, problem)
    return true
  }

  leave(tab: Tab): void {
    if (tab.scope) this.hunts.end(tab.scope)
    for (const [request, order] of this.waiting) if (order.tab === tab) this.waiting.delete(request)
  }

  /** To every tab that shows some of it, what has changed of that. */
  tell(tabs: ReadonlySet<Tab>, now: number): void {
    for (const [request, { tab, name, value, until }] of this.waiting) {
      if (now < until) continue
      this.waiting.delete(request)
      this.answer(tab, name, value, 'the simulator has not answered')
    }
    if (!this.watching || now - this.toldAt < TELL_MS) return
    this.hunts.tell(tabs, now)
    const since = this.toldAt
    this.toldAt = now
    const sampled = this.movements.sample(
      this.engine.variables.numbers.subarray(0, this.engine.variables.told),
      now,
    )
    for (const tab of tabs) {
      if (tab.scope === null) continue
      if (tab.line.isFull()) tab.scope.fresh = true
      else this.tellTab(tab, tab.scope, since, now, sampled)
    }
  }

  private tellTab(tab: Tab, scope: ScopeTab, since: number, now: number, sampled: boolean): void {
    const { at, counts } = this.movements
    const { variables } = this.engine
    const i: number[] = []
    const v: (number | string | null)[] = []
    const n: number[] = []
    const ago: (number | null)[] = []
    for (const row of scope.shown) {
      const changed = at[row] as number
      if (!scope.fresh && !(changed >= since)) continue
      i.push(row)
      v.push(row < variables.told ? variables.read(row) : null)
      n.push(counts[row] as number)
      ago.push(Number.isNaN(changed) ? null : Math.max(0, Math.round(now - changed)))
    }
    const traces =
      (sampled && this.traceTurn++ % 2 === 0) || scope.fresh
        ? Object.fromEntries(
            scope.shown
              .filter((row) => row < variables.told && variables.isText[row] === 0)
              .map((row) => [row, this.movements.trace(row, ROW_SAMPLES)]),
          )
        : null
    scope.fresh = false
    if (i.length === 0 && traces === null) return
    const message: FromHub = { say: 'scope rows', i, v, n, ago, traces }
    tab.send(message)
  }
}
