import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalogue, control, craft, lamp, smallRig, V, Workbench } from '../../../tests/rigs'
import type { Effect, Input } from '../engine/input'
import { changeRow } from '../rig/edit'
import type { Rig } from '../rig/rig'
import { type Block, decodeBlock, encodeBlock } from './block'
import { differences, Example } from './example'
import { packSeries, unpackSeries } from './packed-series'
import { Performance } from './perform'
import { Recorder } from './recorder'
import { Reel } from './reel'
import { SeriesOf } from './series-of'

const rig = smallRig({
  lamp: lamp(),
  lever: control(),
  button: control({ when: 'press', value: null, actions: [{ do: 'event', event: 'horn.cancel' }] }),
  rocker: control({
    when: 'long',
    value: null,
    actions: [{ do: 'set', variable: 'speed', value: '120' }],
  } as never),
  slide: control({ when: 'move', value: 'input * 100', actions: [{ do: 'set', variable: 'way' }] }),
})

/** A bench on which everything is written down from when it is live; time passes as the engine wants it. */
class Recorded extends Workbench {
  readonly blocks: Block[] = []
  readonly done: Effect[] = []
  private recorder: Recorder | null = null
  private readonly sources = [craft(catalogue)]

  record(): this {
    this.now += 1000
    this.step({ is: 'time' })
    const chosen = new Uint8Array(catalogue.variables.length).fill(1)
    this.recorder = new Recorder(this.engine, this.sources, chosen, this.now, (b) =>
      this.blocks.push(decodeBlock(encodeBlock(b))),
    )
    this.done.length = 0
    return this
  }

  override step(input: Input): readonly Effect[] {
    this.recorder?.note(input, this.now, this.now / 1000)
    const effects = this.engine.step(input, this.now)
    this.recorder?.ordered(effects)
    this.done?.push(...effects)
    return effects
  }

  override wait(ms: number): readonly Effect[] {
    const until = this.now + ms
    for (let next = this.engine.nextAt(); next !== null && next < until; next = this.engine.nextAt()) {
      this.now = next
      this.step({ is: 'time' })
    }
    this.now = until
    return []
  }

  end(): this {
    this.recorder?.end(this.now)
    return this
  }
}

const head = { sources: [craft(catalogue)], armed: true }

/** What is done while it is played, without numbers that count from wherever an engine began. */
const played = (blocks: readonly Block[], of: Rig = rig): { begin: number; effects: Effect[] } => {
  const effects: Effect[] = []
  let begin = 0
  const performance = new Performance(head, of, (done, at) => {
    if (at === 0) begin = effects.length + done.length
    effects.push(...done)
  })
  for (const block of blocks) performance.play(block)
  return { begin, effects }
}

/** Orders, outputs and proofs, with requests and batches counted from their first. */
const plain = (effects: readonly Effect[]): unknown[] => {
  let [request, batch] = [Number.NaN, Number.NaN]
  return effects.flatMap((e): unknown[] => {
    if (e.is === 'wake' || e.is === 'proven') return []
    if (e.is === 'output') {
      if (Number.isNaN(batch)) batch = e.batch
      return [{ ...e, batch: e.batch - batch }]
    }
    if (Number.isNaN(request)) request = e.request
    return [{ ...e, request: e.request - request }]
  })
}

const act = fc.oneof(
  fc.record({ do: fc.constant('gear' as const), value: fc.constantFrom(0, 0.25, 0.5, 1, null) }),
  fc.record({ do: fc.constant('lever' as const), value: fc.constantFrom(0b01, 0b00, 0b10) }),
  fc.record({ do: fc.constant('button' as const), value: fc.constantFrom(0, 1) }),
  fc.record({ do: fc.constant('rocker' as const), value: fc.constantFrom(0b00, 0b01, 0b10) }),
  fc.record({ do: fc.constant('slide' as const), value: fc.integer({ min: 0, max: 1023 }) }),
  fc.record({ do: fc.constant('wait' as const), value: fc.integer({ min: 1, max: 4000 }) }),
  fc.record({ do: fc.constant('armed' as const), value: fc.boolean() }),
  fc.record({ do: fc.constant('up' as const), value: fc.boolean() }),
  fc.record({ do: fc.constant('board' as const), value: fc.boolean() }),
)
type Act = typeof act extends fc.Arbitrary<infer A> ? A : never

const doIt = (bench: Recorded, a: Act): void => {
  switch (a.do) {
    case 'gear':
      bench.frame({ gear: a.value })
      break
    case 'wait':
      bench.wait(a.value)
      break
    case 'armed':
      bench.step({ is: 'arm', armed: a.value })
      break
    case 'up':
      bench.step({ is: 'source', source: 'craft', up: a.value })
      break
    case 'board':
      bench.board(a.value)
      break
    default:
      bench.report(a.do, a.value)
  }
  // Whatever came of it takes a moment.
  bench.wait(7)
}

const session = (acts: readonly Act[]): Recorded => {
  const bench = new Recorded(rig).live()
  bench.report('lever', 0b01)
  bench.report('slide', 200)
  bench.wait(5000)
  bench.record().wait(3)
  for (const a of acts) doIt(bench, a)
  bench.wait(6000)
  return bench.end()
}

describe('a recording', () => {
  it('gives the same effects each time that it is played, byte for byte', () => {
    fc.assert(
      fc.property(fc.array(act, { maxLength: 40 }), (acts) => {
        const { blocks } = session(acts)
        expect(JSON.stringify(played(blocks).effects)).toBe(JSON.stringify(played(blocks).effects))
      }),
      { numRuns: 40 },
    )
  })

  it('gives the effects that there were when it was made, in their order', () => {
    fc.assert(
      fc.property(fc.array(act, { maxLength: 40 }), (acts) => {
        const bench = session(acts)
        const { begin, effects } = played(bench.blocks)
        expect(plain(effects.slice(begin))).toEqual(plain(bench.done))
      }),
      { numRuns: 200 },
    )
  })

  it('can be entered anywhere: everything is what it was then', () => {
    const bench = new Recorded(rig).live().record()
    const at: number[] = []
    const was: (number | null)[] = []
    for (let i = 0; i < 400; i++) {
      bench.frame({ gear: i / 400, height: i % 3 === 0 ? null : i })
      at.push((bench.now - 2000) * 1000)
      was.push(i % 3 === 0 ? null : i)
      bench.wait(100)
    }
    bench.end()
    expect(bench.blocks.length).toBeGreaterThan(3)
    for (const [i, t] of at.entries()) {
      const block = bench.blocks.findLast((b) => b.from <= t) as Block
      const { kept } = new Reel(block).skipTo(t)
      expect(kept[V.gear]).toBe(i / 400)
      expect(Number.isNaN(kept[V.height] as number) ? null : kept[V.height]).toBe(was[i])
    }
  })

  it('gives what values were over all of it, or a stretch, also as bytes', () => {
    const bench = new Recorded(rig).live().record()
    for (let i = 0; i < 250; i++) {
      bench.wait(100)
      bench.frame({ gear: i / 250, ...(i % 50 === 0 ? { height: i } : {}), advice: `${i}` })
    }
    bench.end()
    const series = (from: number, until: number) => {
      const of = new SeriesOf(head, ['height', 'gear.position', 'advice', 'nobody'], from, until)
      for (const b of bench.blocks) if (b.until >= from && b.from <= until) of.play(b)
      return of.done()
    }
    const whole = series(0, Number.POSITIVE_INFINITY)
    expect(whole.map((s) => s.name)).toEqual(['height', 'gear.position'])
    expect([...(whole[0]?.values ?? [])]).toEqual([100, 0, 50, 100, 150, 200])
    expect(whole[1]?.times.length).toBe(250)
    // Of a stretch, from its own beginning, with what was so then.
    const [, gear] = series(12_050_000, 14_000_000)
    expect([gear?.times[0], gear?.values[0]]).toEqual([0, 119 / 250])
    expect([gear?.times[1], gear?.values[1]]).toEqual([50_000, 120 / 250])
    expect(gear?.times.at(-1)).toBe(1_950_000)
    expect(unpackSeries(packSeries(whole).slice().buffer)).toEqual(whole)
  })

  it('leaves out what was not chosen', () => {
    const bench = new Workbench(rig).live()
    const chosen = new Uint8Array(catalogue.variables.length)
    chosen[V.gear] = 1
    const blocks: Block[] = []
    const recorder = new Recorder(bench.engine, head.sources, chosen, bench.now, (b) => blocks.push(b))
    const input: Input = { is: 'frame', source: 'craft', indexes: [V.gear, V.height], values: [0.5, 700] }
    recorder.note(input, bench.now + 10)
    recorder.end(bench.now + 20)
    expect([...(blocks[0]?.frames.variables ?? [])]).toEqual([V.gear])
    expect(blocks[0]?.first[V.height]).toBeNaN()
  })
})

describe('an example', () => {
  const bench = session([
    { do: 'gear', value: 0.5 },
    { do: 'wait', value: 2000 },
    { do: 'gear', value: 1 },
    { do: 'lever', value: 0b10 },
    { do: 'wait', value: 1000 },
  ])
  const showing = (of: Rig) => {
    const example = new Example(head, of, 0, Number.POSITIVE_INFINITY)
    for (const block of bench.blocks) example.play(block)
    return example
  }
  const before = showing(rig).shown()
  const against = (of: Rig) => {
    const now = showing(of)
    return differences(before, now.shown(), now.engine)
  }
  const edited = (table: 'binding' | 'part', id: string, change: (row: never) => object): Rig => {
    const row = rig[table][id] as never as { id: string }
    const changed = changeRow(table, row as never, { ...row, ...change(row as never) } as never)
    return { ...rig, [table]: { ...rig[table], [id]: { ...row, ...change(row as never) } } } as Rig &
      typeof changed
  }

  it('does not differ from itself', () => {
    expect(against(rig)).toEqual([])
  })

  it('names the part of which something else is shown, when first, for how long, and what', () => {
    const other = edited('binding', 'lamp-1', () => ({ settings: lamp({ show: 'input > 0.2 ? on : off' }) }))
    const [d, ...more] = against(other)
    expect(more).toEqual([])
    expect(d).toMatchObject({ partId: 'lamp', name: 'Lamp', was: 'blink 2 Hz', is: 'lit' })
    // From the first frame to the one that lights it for good.
    expect((d?.for ?? 0) / 1e6).toBeCloseTo(2.014, 2)
  })

  it('names what is told differently', () => {
    const other = edited('binding', 'lever-1', () => ({
      settings: control({ value: 'match(input, "up", 0, "off", 1, "down", 1)' }),
    }))
    expect(against(other)).toEqual([
      expect.objectContaining({ partId: null, name: 'gear.lever', was: '2', is: '1' }),
    ])
  })

  it('names what is gone', () => {
    const { lamp: _, ...part } = rig.part
    const other = { ...rig, part, binding: { 'lever-1': rig.binding['lever-1'] } } as Rig
    expect(against(other)).toContainEqual(expect.objectContaining({ partId: 'lamp', name: 'Lamp', is: null }))
  })
})
