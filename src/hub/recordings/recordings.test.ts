import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { MemoryShelf } from '../../../tests/memory-shelf'
import { actionsOf, catalogue, control, craft, lamp, smallRig, V, Workbench } from '../../../tests/rigs'
import type { Effect, Input } from '../../core/engine/input'
import type { FromHub } from '../../core/live/feed'
import type { Source } from '../../core/rig/sources'
import { REPLAYED, Recordings } from './recordings'
import type { Shelf } from './shelf'

const rig = smallRig({
  lamp: lamp(),
  lever: control(),
  button: control({ when: 'long', value: null, actions: [{ do: 'event', event: 'horn.cancel' }] }),
})

/** An engine, its sources and its clock, as the hub has them round its recordings. */
class World {
  now = 1000
  readonly shelf: MemoryShelf
  readonly bench = new Workbench(rig)
  readonly recordings: Recordings
  readonly told: FromHub[] = []
  readonly done: { readonly at: number; readonly effect: Effect }[] = []
  private readonly own: readonly Source[] = [craft(catalogue)]
  sources: readonly Source[] = this.own

  constructor(mostBytes?: number) {
    this.shelf = new MemoryShelf(mostBytes)
    this.bench.live()
    this.recordings = new Recordings(this.shelf, {
      engine: this.bench.engine,
      now: () => this.now,
      time: () => this.time(),
      rigId: () => 'rig',
      sources: () => this.sources,
      step: (input, at) => this.step(input, at),
      tell: (m) => this.told.push(m),
      operated: () => {},
      marked: () => {},
      began: () => this.take(this.recordings.played ?? this.own),
      over: () => {
        this.take(this.own)
        this.step({ is: 'source', source: 'craft', up: false })
      },
      wants: () => {},
    })
    vi.setSystemTime(0)
  }

  private time(): number {
    return this.recordings?.time() ?? Math.max(this.now, this.bench.engine.time)
  }

  private take(sources: readonly Source[]): void {
    this.sources = sources
    this.step({ is: 'sources', sources })
  }

  step(input: Input, at = this.time()): void {
    this.recordings.note(input, at, Number.NaN)
    const effects = this.bench.engine.step(input, at, this.now)
    this.recordings.ordered(effects)
    for (const effect of effects) this.done.push({ at: this.now, effect })
  }

  /** Time passes, for the clock and whoever waits for it, and for an engine that has its time from it. */
  async pass(ms: number): Promise<void> {
    for (const end = this.now + ms; this.now < end; ) {
      this.now++
      const due = this.recordings.hasHands ? null : this.bench.engine.nextAt()
      if (due !== null && due <= this.now) this.step({ is: 'time' })
      await vi.advanceTimersByTimeAsync(1)
      this.recordings.check()
    }
  }

  frame(values: Partial<Record<keyof typeof V, number | null>>): void {
    const names = Object.keys(values) as (keyof typeof V)[]
    const of = { indexes: names.map((n) => V[n]), values: names.map((n) => values[n] ?? null) }
    this.step({ is: 'frame', source: 'craft', ...of })
  }

  report(partId: string, value: number): void {
    const slot = this.bench.engine.units.get(partId)?.controls[0]?.slot ?? -1
    if (this.recordings.hasHands) this.recordings.handMoved('board', slot, value)
    else this.step({ is: 'report', boardId: 'board', slot, value })
  }

  /** What was ordered since, by name and value, and what the lamp showed, each time that it changed. */
  since(mark: number): { orders: unknown[]; lamp: number[] } {
    const effects = this.done.slice(mark).map((d) => d.effect)
    const orders = actionsOf(effects).map((e) => (e.is === 'set' ? [V.lever, e.value] : ['horn']))
    const slot = this.bench.engine.units.get('lamp')?.indicators[0]?.slot
    const lampStates = effects.flatMap((e) =>
      e.is === 'output' ? e.outputs.filter((o) => o.slot === slot).map((o) => Number(o.state)) : [],
    )
    return { orders, lamp: lampStates }
  }

  async session(): Promise<{ id: string; since: ReturnType<World['since']> }> {
    expect(await this.recordings.hear({ say: 'record', name: 'Trial', names: null })).toBeNull()
    const [id = ''] = this.shelf.kept.keys()
    const mark = this.done.length
    await this.pass(500)
    this.report('lever', 0b01)
    await this.pass(300)
    this.frame({ gear: 0.5 })
    this.report('lever', 0b10)
    await this.pass(400)
    // A short press does nothing; a long one does.
    this.report('button', 1)
    await this.pass(100)
    this.report('button', 0)
    await this.pass(200)
    this.report('button', 1)
    await this.pass(1500)
    this.report('button', 0)
    this.frame({ gear: 1 })
    await this.pass(9000)
    this.frame({ gear: 0 })
    await this.pass(800)
    const since = this.since(mark)
    await this.recordings.hear({ say: 'record end' })
    await this.shelf.settled()
    return { id, since }
  }

  get replay() {
    return this.recordings.messages().flatMap((m) => (m.say === 'replay' && m.replay ? [m.replay] : []))[0]
  }
}

let world: World
beforeEach(async () => {
  vi.useFakeTimers()
  world = new World()
  world.report('lever', 0b00)
  await world.pass(100)
})
afterEach(() => {
  vi.useRealTimers()
})

describe('a replay with its hands', () => {
  it.each([0.5, 1, 4, 16])('does what was done, at %d times the speed', async (speed) => {
    const { id, since } = await world.session()
    await world.pass(1000)
    await world.recordings.hear({ say: 'replay open', id })
    await world.recordings.hear({ say: 'replay change', hands: true, speed })
    const mark = world.done.length
    await world.recordings.hear({ say: 'replay change', playing: true })
    await world.pass(13_000 / speed + 200)
    expect(world.replay).toMatchObject({ playing: false, speed })
    expect(world.since(mark)).toEqual(since)
    expect(since.orders).toHaveLength(3)
  })

  it('stands still while it is paused, however long: a press that was short stays short', async () => {
    const { id, since } = await world.session()
    await world.recordings.hear({ say: 'replay open', id })
    await world.recordings.hear({ say: 'replay change', hands: true })
    const mark = world.done.length
    while ((world.replay?.at ?? 0) < (world.replay?.until ?? 0)) {
      await world.recordings.hear({ say: 'replay change', playing: true })
      await world.pass(107)
      await world.recordings.hear({ say: 'replay change', playing: false })
      await world.pass(1700)
    }
    expect(world.since(mark)).toEqual(since)
  })

  it('goes frame by frame, there and back', async () => {
    const { id } = await world.session()
    await world.recordings.hear({ say: 'replay open', id })
    await world.recordings.hear({ say: 'replay step', by: 1 })
    expect(world.replay?.at).toBeCloseTo(800_000, -4)
    expect(world.bench.engine.variables.read(V.gear)).toBe(0.5)
    await world.recordings.hear({ say: 'replay step', by: 1 })
    expect(world.bench.engine.variables.read(V.gear)).toBe(1)
    // The last frame is in another block.
    await world.recordings.hear({ say: 'replay step', by: 1 })
    expect(world.bench.engine.variables.read(V.gear)).toBe(0)
    expect(world.replay?.at).toBeCloseTo(12_000_000, -5)
    for (const gear of [1, 0.5]) {
      await world.recordings.hear({ say: 'replay step', by: -1 })
      expect(world.bench.engine.variables.read(V.gear)).toBe(gear)
    }
  })

  it.each([
    [
      'that somebody else has deleted meanwhile',
      (): Promise<null> => Promise.resolve(null),
      'nothing there any more',
    ],
    [
      'whose shelf is away',
      (): Promise<null> => Promise.reject(new Error('The database is away')),
      'The database is away',
    ],
  ] as const satisfies readonly (readonly [string, Shelf['read'], string])[])(
    '%s stands still, and says so; once it can be read it goes on',
    async (_, read, words) => {
      const { id } = await world.session()
      const reads = world.shelf.read.bind(world.shelf)
      world.shelf.read = read
      await world.recordings.hear({ say: 'replay open', id })
      expect(world.replay?.problem).toContain(words)
      expect(world.replay?.playing).toBe(false)
      world.shelf.read = reads
      await world.recordings.hear({ say: 'replay open', id })
      await world.recordings.hear({ say: 'replay change', playing: true })
      await world.pass(1000)
      expect(world.replay).toMatchObject({ problem: null, playing: true })
    },
  )

  it('lists what hands did once for each time, and every mark of the builder', async () => {
    await world.recordings.hear({ say: 'record', name: 'Trial', names: null })
    const [id = ''] = world.shelf.kept.keys()
    for (let i = 0; i < 5000; i++) world.recordings.operated('Knob')
    await world.pass(2000)
    world.recordings.operated('Knob')
    for (let i = 0; i < 50; i++) await world.recordings.hear({ say: 'record mark', words: `Mark ${i}` })
    await world.recordings.hear({ say: 'record end' })
    await world.shelf.settled()
    const marks = (await world.shelf.take(id))?.marks ?? []
    expect(marks.filter((m) => m.by === 'hand')).toHaveLength(2)
    expect(marks.filter((m) => m.by === 'builder')).toHaveLength(50)
  })

  it('begins again at its end when it is told to', async () => {
    const { id } = await world.session()
    await world.recordings.hear({ say: 'replay open', id })
    await world.recordings.hear({ say: 'replay change', loop: true, playing: true, speed: 16 })
    await world.pass(1000)
    expect(world.replay?.playing).toBe(true)
    expect(world.replay?.at).toBeLessThan(5_000_000)
  })

  it('gives the controls back as they stand, and nothing is ordered because of that', async () => {
    const { id } = await world.session()
    world.report('lever', 0b01)
    await world.pass(100)
    await world.recordings.hear({ say: 'replay open', id })
    await world.recordings.hear({ say: 'replay change', hands: true, playing: true })
    await world.pass(1000)
    const at = () => world.bench.engine.units.get('lever')?.controls[0]?.position
    expect(at()).toBe('down')
    // The hand goes on meanwhile.
    world.report('lever', 0b00)
    expect(at()).toBe('down')
    const mark = world.done.length
    await world.recordings.hear({ say: 'replay close' })
    await world.pass(2000)
    expect(at()).toBe('off')
    expect(world.since(mark).orders).toEqual([])
  })
})

describe('a replay with the hands at the panel', () => {
  it('shows what was told; what they order is heard by nobody, and that is said', async () => {
    const { id } = await world.session()
    await world.recordings.hear({ say: 'replay open', id })
    await world.recordings.hear({ say: 'replay change', playing: true })
    const mark = world.done.length
    await world.pass(1000)
    expect(world.since(mark).lamp).not.toEqual([])
    expect(world.since(mark).orders).toEqual([])
    world.report('lever', 0b01)
    await world.pass(5)
    expect(world.since(mark).orders).toHaveLength(1)
    const last = world.bench.engine.units.get('lever')?.controls[0]?.bindings[0]?.last
    expect(last?.problem).toBe(REPLAYED)
  })

  it('is refused while a recording is made, and the other way round', async () => {
    const { id } = await world.session()
    await world.recordings.hear({ say: 'record', name: 'Second', names: null })
    expect(await world.recordings.hear({ say: 'replay open', id })).toContain('A recording is being made')
    await world.recordings.hear({ say: 'record end' })
    await world.recordings.hear({ say: 'replay open', id })
    expect(await world.recordings.hear({ say: 'record', name: 'Third', names: null })).toContain('close it')
    expect(await world.recordings.hear({ say: 'replay open', id: 'nobody' })).toContain('no such recording')
  })
})

describe('where it is kept', () => {
  it('that is away: it waits, is said, and nothing is missing afterwards', async () => {
    await world.recordings.hear({ say: 'record', name: 'Trial', names: null })
    const [id = ''] = world.shelf.kept.keys()
    world.shelf.refuses = new Error('The database is away')
    for (let i = 0; i < 60; i++) {
      world.frame({ height: i })
      await world.pass(500)
    }
    const state = () =>
      world.recordings
        .messages()
        .flatMap((m) => (m.say === 'recording' && m.recording ? [m.recording] : []))[0]
    expect(state()?.problem).toBe('The database is away')
    expect(state()?.waitingBytes).toBeGreaterThan(0)
    world.shelf.refuses = null
    await world.pass(100)
    expect(state()).toMatchObject({ problem: null, waitingBytes: 0 })
    await world.recordings.hear({ say: 'record end' })
    await world.pass(100)
    const heights: number[] = []
    for (const { n } of world.shelf.kept.get(id)?.blocks ?? []) {
      const block = await world.shelf.read(id, n)
      heights.push(...(block?.frames.values ?? []))
    }
    expect(heights).toEqual(Array.from({ length: 60 }, (_, i) => i))
  })

  it('that stays away for too long: it ends, says why, and what waited is kept once it can be', async () => {
    world = new World(1000)
    await world.recordings.hear({ say: 'record', name: 'Trial', names: null })
    const [id = ''] = world.shelf.kept.keys()
    world.shelf.refuses = new Error('The disk of the database is full')
    for (let i = 0; i < 200; i++) {
      world.frame({ height: Math.sqrt(i), speed: Math.sqrt(i + 0.5) })
      await world.pass(250)
    }
    const problems = world.told.flatMap((m) => (m.say === 'problem' ? [m.message] : []))
    expect(problems).toEqual([
      'The recording has ended: The disk of the database is full, and no more of it can wait here; what was kept until then is there.',
    ])
    world.shelf.refuses = null
    await world.pass(100)
    const kept = world.shelf.kept.get(id)
    expect(kept?.why).toContain('disk of the database is full')
    // What there is is there without a hole.
    expect(kept?.blocks.length).toBeGreaterThan(0)
    for (const [i, block] of (kept?.blocks ?? []).entries()) {
      expect(block.n).toBe(i)
      expect(block.from).toBe(i === 0 ? 0 : kept?.blocks[i - 1]?.until)
    }
  })

  it('that is away when one is to begin: nothing is recorded, and why', async () => {
    world.shelf.refuses = new Error('The database is away')
    expect(await world.recordings.hear({ say: 'record', name: 'Trial', names: null })).toBe(
      'Nothing is recorded: The database is away.',
    )
    expect(world.recordings.wantsAll).toBe(false)
  })
})
