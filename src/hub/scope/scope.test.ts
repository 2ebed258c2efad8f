import { describe, expect, it } from 'vitest'
import { catalogue, control, smallRig, Workbench } from '../../../tests/rigs'
import type { FromHub } from '../../core/live/feed'
import { Tab } from '../tab'
import { Scope, type ScopeOrders } from './scope'
import { ScopeTab } from './scope-tab'

const everything = {
  ...{ search: '', only: 'all' as const, group: null },
  sort: { by: 'told' as const, down: false },
}

/** Scope over an engine with a craft, one tab that has it open, and an ear for what that is told. */
class World {
  readonly told: FromHub[] = []
  readonly orders: (readonly [kind: 'set' | 'event', request: number, what: number, value: unknown])[] = []
  away: string | null = null
  now = 1000
  readonly bench = new Workbench(smallRig({ lever: control(), rotary: control() })).live()
  readonly tab = new Tab({ send: (text) => void this.told.push(JSON.parse(text)), isFull: () => false })
  readonly scope = new Scope(this.bench.engine, this.makeOrders())

  constructor(open = true) {
    this.scope.describe(this.now)
    if (open) this.tab.scope = new ScopeTab()
    this.scope.look([this.tab], this.now)
  }

  private makeOrders(): ScopeOrders {
    return {
      set: (request, variable, value) => this.order('set', request, variable, value),
      event: (request, event, value) => this.order('event', request, event, value),
    }
  }

  private order(kind: 'set' | 'event', request: number, what: number, value: unknown): string | null {
    if (this.away === null) this.orders.push([kind, request, what, value])
    return this.away
  }

  hear(m: Parameters<Scope['hear']>[1]): this {
    this.scope.hear(this.tab, m, this.now)
    return this
  }

  frame(values: Readonly<Record<string, number | string | null>>): this {
    const indexes = Object.keys(values).map((n) => catalogue.variables.findIndex((v) => v.name === n))
    this.scope.frame('craft', indexes, Object.values(values), this.now)
    this.bench.step({ is: 'frame', source: 'craft', indexes, values: Object.values(values) })
    return this
  }

  pass(ms: number): this {
    for (const end = this.now + ms; this.now < end; ) {
      this.now += 50
      this.scope.tell(new Set([this.tab]), this.now)
    }
    return this
  }

  last<S extends FromHub['say']>(say: S): Extract<FromHub, { say: S }> | undefined {
    return this.told.filter((m): m is Extract<FromHub, { say: S }> => m.say === say).at(-1)
  }

  row(name: string): number {
    return [...catalogue.variables, ...catalogue.events].findIndex((i) => i.name === name)
  }
}

const first = catalogue.variables.find((v) => v.writable && v.type === 'number' && v.range) as {
  name: string
  range: [number, number]
}
const event = catalogue.events[0] as { name: string }

describe('the rows of Scope', () => {
  it('are found in the order that was asked for, variables before events', () => {
    const world = new World().hear({ say: 'scope find', ask: 3, query: everything })
    const found = world.last('scope found')
    expect(found?.ask).toBe(3)
    expect(found?.rows).toHaveLength(catalogue.variables.length + catalogue.events.length)
    const one = world.hear({ say: 'scope find', ask: 4, query: { ...everything, search: first.name } })
    expect(one.last('scope found')?.rows).toContain(world.row(first.name))
  })

  it('are told only while they are on the screen, and only what has changed of them', () => {
    const world = new World()
    const row = world.row(first.name)
    world.hear({ say: 'scope show', rows: [row] }).pass(200)
    expect(world.last('scope rows')?.i).toEqual([row])
    const { length } = world.told
    world.pass(100)
    expect(world.told.slice(length).flatMap((m) => (m.say === 'scope rows' ? m.i : []))).toEqual([])
    world.frame({ [first.name]: 7 }).pass(200)
    expect(world.last('scope rows')).toMatchObject({ i: [row], v: [7], n: [1] })
    // The same again is no change; another variable is none of this screen’s business.
    world.frame({ [first.name]: 7, 'bus.volts': 12 }).pass(1000)
    expect(world.told.flatMap((m) => (m.say === 'scope rows' ? m.i : [])).filter((i) => i !== row)).toEqual(
      [],
    )
    world.frame({ [first.name]: 8 }).pass(200)
    expect(world.last('scope rows')?.n).toEqual([2])
    world.hear({ say: 'scope forget' }).pass(200)
    expect(world.last('scope rows')).toMatchObject({ n: [0], ago: [null] })
  })

  it('count nothing while nobody looks', () => {
    const world = new World(false)
    world.frame({ [first.name]: 3 })
    world.tab.scope = new ScopeTab()
    world.scope.look([world.tab], world.now)
    world.hear({ say: 'scope show', rows: [world.row(first.name)] }).pass(200)
    expect(world.last('scope rows')).toMatchObject({ v: [3], n: [0] })
  })

  it('say which have moved by themselves', () => {
    const world = new World().frame({ [first.name]: 1 })
    world.now += 4000
    world.frame({ 'bus.volts': 11 })
    expect(world.hear({ say: 'scope moved', ms: 1000 }).last('scope moved')?.names).toEqual(['bus.volts'])
  })
})

describe('an order by hand', () => {
  it('is read, sent under a number of its own, and answered', () => {
    const world = new World().hear({ say: 'scope write', name: first.name, typed: String(first.range[1]) })
    const [kind, request, what, value] = world.orders[0] ?? []
    expect([kind, what, value]).toEqual(['set', world.row(first.name), first.range[1]])
    expect(world.scope.answered(5, null)).toBe(false)
    expect(world.scope.answered(request as number, 'it is too late')).toBe(true)
    expect(world.last('scope answered')).toMatchObject({ problem: 'it is too late', sent: true })
    world.hear({ say: 'scope event', name: event.name, typed: '' })
    world.scope.sent(world.orders[1]?.[2] as number, world.now)
    expect(world.orders[1]?.[0]).toBe('event')
    world.scope.answered(world.orders[1]?.[1] as number, null)
    expect(world.last('scope answered')).toMatchObject({ name: event.name, problem: null })
    world.hear({ say: 'scope show', rows: [world.row(event.name)] }).pass(200)
    expect(world.last('scope rows')?.n).toEqual([1])
  })

  it('is refused with a sentence where it makes no sense, and goes nowhere then', () => {
    const world = new World()
    const refusal = (name: string, typed: string) =>
      world.hear({ say: 'scope write', name, typed }).last('scope answered')?.problem
    expect(refusal(first.name, String(first.range[1] + 1))).toContain('it is one of')
    expect(refusal('no.such', '1')).toBe('no source tells it any more')
    expect(
      world.hear({ say: 'scope event', name: 'no.such', typed: '' }).last('scope answered')?.problem,
    ).toBe('no source knows it any more')
    expect(world.orders).toEqual([])
    world.away = 'Skerry 12 is away'
    expect(refusal(first.name, '1')).toBe('Skerry 12 is away')
  })

  it('that nobody answers is said to be unanswered', () => {
    const world = new World().hear({ say: 'scope write', name: first.name, typed: '1' }).pass(2200)
    expect(world.last('scope answered')).toMatchObject({
      problem: 'the simulator has not answered',
      sent: true,
    })
  })
})

describe('a hunt', () => {
  const operate = (world: World) => world.scope.operated(new Set([world.tab]), 'lever', world.now)

  it('ranks what moved with the marks, and goes on when a mark is taken back', () => {
    const world = new World().hear({ say: 'hunt', on: true })
    world.pass(4000)
    for (const value of [3, 5]) {
      world.frame({ [first.name]: value, 'bus.volts': 20 + value })
      world.pass(100).hear({ say: 'hunt mark' })
      world.pass(2000).frame({ 'bus.volts': 21 }).pass(2000)
    }
    const hunt = world.last('hunt')
    expect(hunt?.marks).toHaveLength(2)
    expect(hunt?.guesses[0]).toMatchObject({ row: world.row(first.name), partner: null })
    expect(hunt?.guesses[0]?.words).toContain('at all 2 marks, never otherwise')
    world.hear({ say: 'hunt unmark' }).pass(600)
    expect(world.last('hunt')?.marks).toHaveLength(1)
  })

  it('is for the part that was touched, and marks what the hand does with it', () => {
    const world = new World().hear({ say: 'hunt', on: true })
    world.pass(3000)
    operate(world)
    world.pass(600)
    expect(world.last('hunt')).toMatchObject({ part: { id: 'lever' }, marks: [] })
    world.pass(1000)
    operate(world)
    // It bounces: one movement is one mark.
    world.now += 30
    operate(world)
    world.pass(600)
    expect(world.last('hunt')?.marks).toHaveLength(1)
  })

  it('finds by two touches alone what was worked in the simulator after the panel', () => {
    const world = new World().hear({ say: 'hunt', on: true })
    world.pass(5000).frame({ 'bus.volts': 25 }).pass(3000)
    operate(world)
    world.pass(1500)
    for (const value of [1, 2, 0]) world.frame({ [first.name]: value, 'bus.volts': 20 + value }).pass(1200)
    const hunt = world.last('hunt')
    expect(hunt?.guesses[0]?.row).toBe(world.row(first.name))
    expect(hunt?.guesses[0]?.words).toMatch(/moved 3 times since, never before; \d levels/)
  })

  it('of one window goes on as it was when another begins one', () => {
    const world = new World().hear({ say: 'hunt', on: true })
    world
      .pass(4000)
      .frame({ [first.name]: 3 })
      .pass(100)
      .hear({ say: 'hunt mark' })
    world.pass(2000)
    const second = new Tab({ send: () => {}, isFull: () => false })
    second.scope = new ScopeTab()
    world.scope.hear(second, { say: 'hunt', on: true }, world.now)
    world.pass(600)
    expect(world.last('hunt')?.guesses[0]?.row).toBe(world.row(first.name))
    world.scope.leave(second)
    expect(second.scope.hunt).toBeNull()
    world
      .frame({ [first.name]: 5 })
      .pass(100)
      .hear({ say: 'hunt mark' })
      .pass(600)
    expect(world.last('hunt')?.guesses[0]?.words).toContain('at all 2 marks, never otherwise')
  })

  it('takes a part without positions that was turned twice for touched, not for marked by hand', () => {
    const world = new World().hear({ say: 'hunt', on: true })
    world.pass(8000)
    for (let click = 0; click < 3; click++) {
      world.scope.operated(new Set([world.tab]), 'knob', world.now)
      world.pass(600)
    }
    expect(world.last('hunt')?.marks.map((m) => m.byHand)).toEqual([false, false])
    world.pass(1000)
    for (const value of [4, 5, 6]) world.frame({ height: value }).pass(900)
    expect(world.last('hunt')?.guesses[0]?.words).toContain('moved 3 times since, never before')
  })

  it('gives levels of a simulator that keeps 32-bit floats as they were meant', () => {
    const world = new World().hear({ say: 'hunt', on: true })
    world.frame({ height: Math.fround(0.1) }).pass(5000)
    for (const value of [0.3, 0.7]) {
      world
        .frame({ height: Math.fround(value) })
        .pass(100)
        .hear({ say: 'hunt mark' })
      world.pass(2500)
    }
    expect(world.last('hunt')?.guesses[0]).toMatchObject({
      row: world.row('height'),
      levels: [0.1, 0.3, 0.7],
    })
  })

  it('does not take for it what goes on moving after the hand, and that nobody can write', () => {
    const world = new World().hear({ say: 'hunt', on: true })
    world.frame({ height: 100 }).pass(8000)
    operate(world)
    world.pass(1500)
    for (const value of [1, 2, 0]) world.frame({ [first.name]: value }).pass(1200)
    for (let i = 0; i < 12; i++) world.frame({ 'bus.volts': 20 + (i % 3) }).pass(1000)
    expect(world.last('hunt')?.guesses[0]?.row).toBe(world.row(first.name))
  })
})
