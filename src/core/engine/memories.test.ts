import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { actionsOf, catalogue, control, craft, digits, lamp, smallRig, Workbench } from '../../../tests/rigs'
import { wantedConfiguration } from '../harness/configuration'
import { addRow, changeRow } from '../rig/edit'
import { emptyRig } from '../rig/rig'
import { compile } from '../signal/expression/compile'
import { LIT, OUT } from '../signal/lamp-state'
import { Engine } from './engine'
import type { Effect } from './input'
import { Memories, type MemoryTimer } from './memories'
import { scopeFor } from './scope'
import { trace } from './trace'
import { Variables } from './variables'

/** Lets time pass as the engine asks for it, in seconds. */
const pass = (bench: Workbench, seconds: number): void => {
  const until = bench.now + seconds * 1000
  for (let next = bench.engine.nextAt(); next !== null && next < until; next = bench.engine.nextAt()) {
    bench.now = Math.max(bench.now, next)
    bench.step({ is: 'time' })
  }
  bench.now = until
  bench.step({ is: 'time' })
}

/** What the digits show, without how bright they are. */
const wordsOf = (bench: Workbench): string => String(bench.shown('window')).slice(1).trim()

const recent = lamp({ variable: 'height', show: 'recent(input, 3)', onlyWhile: null })

describe('what is remembered in the rig', () => {
  it('lights a lamp for some seconds after a change, and the engine asks for the time when it ends', () => {
    const bench = new Workbench(smallRig({ lamp: recent })).live()
    expect(bench.shown('lamp')).toBe(OUT)
    const effects = bench.frame({ height: 200 })
    expect(bench.shown('lamp')).toBe(LIT)
    expect(effects.find((e) => e.is === 'wake')?.at).toBeLessThanOrEqual(bench.now + 3000)
    pass(bench, 2.9)
    expect(bench.shown('lamp')).toBe(LIT)
    pass(bench, 0.2)
    expect(bench.shown('lamp')).toBe(OUT)
  })

  it('is shown by digits in the unit that it is of, smoothed as time passes', () => {
    const bench = new Workbench(smallRig({ window: digits({ show: 'round(smoothed(input, 2))' }) })).live()
    bench.frame({ height: 1100 })
    pass(bench, 2)
    // 100 + 1000 × (1 − 1/e) = 732.1
    expect(wordsOf(bench)).toBe('732')
    pass(bench, 60)
    expect(wordsOf(bench)).toBe('1100')
  })

  it('holds in conditions and in each other, and takes limits in other units', () => {
    const over = 'delayed(hysteresis(height, to(unit(100, "m"), "ft"), unit(50, "m")), 1)'
    const bench = new Workbench(
      smallRig({ lamp: lamp({ variable: null, show: 'on', onlyWhile: over }) }),
    ).live()
    const seen: unknown[] = []
    for (const height of [0, 400, 200, 100]) {
      bench.frame({ height })
      pass(bench, 1.5)
      seen.push(bench.shown('lamp'))
    }
    // 328 ft on, 164 ft off.
    expect(seen).toEqual([OUT, LIT, LIT, OUT])
  })

  it('acts for controls as well, but not on what a control was just moved to', () => {
    const press = control({ when: 'press', value: '1', actions: [{ do: 'set', variable: 'pump.switch' }] })
    const bench = new Workbench(
      smallRig({ button: { ...press, onlyWhile: 'recent(height, 2)' } as typeof press }),
    ).live()
    bench.report('button', 0)
    bench.frame({ height: 900 })
    expect(actionsOf(bench.report('button', 1))).toHaveLength(1)
    bench.report('button', 0)
    pass(bench, 3)
    expect(actionsOf(bench.report('button', 1))).toEqual([])
    const over = new Workbench(
      smallRig({ lever: control({ value: 'smoothed(number(input == "up"), 2)' }) }),
    ).live()
    expect(trace(over.engine, 'lever')[0]?.stop?.reason).toContain('is over at once')
  })

  it('goes on while the rig around it is edited, and is forgotten with the last that asks for it', () => {
    const bench = new Workbench(smallRig({ lamp: recent, window: digits() })).live()
    bench.frame({ height: 300 })
    pass(bench, 1)
    const part = bench.rig.part.window
    const changed = part && changeRow('part', part, { ...part, name: 'Another name' })
    bench.edit(changed ? [changed] : [])
    expect(bench.shown('lamp')).toBe(LIT)
    // A second one that asks the same shares what is remembered.
    const row = bench.rig.binding['lamp-1']
    if (!row) throw new Error('no binding')
    bench.edit([addRow('binding', { ...row, id: 'twin', position: 2 })])
    expect(bench.engine.variables.derived.size).toBe(1)
    bench.changeBinding('lamp-1', lamp())
    expect(bench.engine.variables.derived.size).toBe(1)
    bench.changeBinding('twin', lamp())
    expect(bench.engine.variables.derived.size).toBe(0)
    pass(bench, 5)
  })

  it('waits with one timer, however often what it waits for is put off', () => {
    const asked: MemoryTimer[] = []
    const variables = new Variables()
    variables.describe([craft(catalogue)], 8)
    const memories = new Memories({ variables, changed: () => {}, later: (_, timer) => asked.push(timer) })
    const scope = scopeFor(emptyRig(), variables.index, undefined, {
      slot: (key, isText) => variables.ownSlot(key, isText),
      memory: memories.place,
    })
    const { reads } = compile('recent(height, 3600)', scope, variables, { as: 'condition' })
    const [slot = -1] = reads
    const [cell] = [...memories.dependents().values()].flat()
    if (!cell) throw new Error('nothing is remembered')
    for (let i = 0; i < 2000; i++) {
      variables.numbers[3] = i
      memories.look(cell, i * 16)
    }
    expect(asked).toHaveLength(1)
    // Put off at its first time, over at its second.
    for (let i = 0; i < asked.length && i < 10; i++) memories.due(asked[i] as MemoryTimer, asked[i]?.at ?? 0)
    expect(asked).toHaveLength(2)
    expect(variables.numbers[slot]).toBe(0)
  })

  it('begins anew with another catalogue, in which the same place is another variable', () => {
    const bench = new Workbench(smallRig({ window: digits({ show: 'round(highest(input))' }) })).live()
    bench.frame({ height: 900 })
    expect(wordsOf(bench)).toBe('900')
    const other = { ...catalogue, craft: 'Another', variables: catalogue.variables.map((v) => ({ ...v })) }
    bench.step({ is: 'sources', sources: [craft(other)] })
    bench.step({ is: 'source', source: 'craft', up: true })
    bench.frame({ height: 40, volts: 28 })
    expect(wordsOf(bench)).toBe('40')
  })

  it('is nothing without the source that it is of', () => {
    const bench = new Workbench(smallRig({ lamp: recent })).live()
    bench.frame({ height: 300 })
    expect(bench.shown('lamp')).toBe(LIT)
    bench.step({ is: 'source', source: 'craft', up: false })
    expect(bench.shown('lamp')).toBe(OUT)
  })

  it.each([
    ['smoothed(height)', 'This is called as smoothed(value, seconds).'],
    ['smoothed(height, unit(3, "ft"))', 'do not measure the same'],
    ['highest(advice)', 'A number is needed here'],
    ['recent(lit(1), 2)', 'A lamp’s state cannot be remembered'],
    ['message(height > 3, "x")', 'This is called as message(occurrence, text, seconds, …)'],
  ])('says what is wrong with %s', (show, words) => {
    const bench = new Workbench(smallRig({ window: digits({ variable: null, show }) })).live()
    expect(trace(bench.engine, 'window')[0]?.stop?.reason).toContain(words)
  })

  it('shows the weightiest message in one place, each for its time', () => {
    const show = 'message(height < 50, "LOW", 0, pump.switch, "PUMP ON", 4)'
    const bench = new Workbench(
      smallRig({ window: digits({ variable: null, show, leading: 'blanks' }) }),
    ).live()
    const words = () => wordsOf(bench)
    bench.frame({ height: 500 })
    expect(words()).toBe('')
    bench.frame({ pump: 1 })
    pass(bench, 1)
    expect(words()).toMatch(/^PUMP/)
    bench.frame({ height: 20 })
    expect(words()).toBe('LOW')
    bench.frame({ height: 500 })
    expect(words()).toMatch(/^PUMP/)
    pass(bench, 4)
    expect(words()).toBe('')
  })

  it('has room for as many as an edit brings', () => {
    const bench = new Workbench(smallRig({ lamp: recent })).live()
    const row = bench.rig.binding['lamp-1']
    if (!row) throw new Error('no binding')
    const many = Array.from({ length: 200 }, (_, i) =>
      addRow('binding', {
        ...{ ...row, id: `more-${i}`, position: i + 2 },
        settings: lamp({ variable: 'height', show: `recent(input, ${i + 1})`, onlyWhile: null }),
      }),
    )
    bench.edit(many)
    bench.frame({ height: 700 })
    expect(bench.shown('lamp')).toBe(LIT)
    // One of them asks just what the first did.
    expect(bench.engine.variables.derived.size).toBe(200)
    for (const slot of bench.engine.variables.derived.keys())
      expect(slot).toBeLessThan(bench.engine.variables.numbers.length)
  })

  it('plays as it was: the same inputs at the same times do the same', () => {
    const rig = smallRig({
      lamp: lamp({ variable: 'height', show: 'recent(input, 1)', onlyWhile: 'delayed(pump.switch, 0.5)' }),
      window: digits({ show: 'round(smoothed(input, 0.7) + peak(speed, 2) * 0 + rate(input, 1))' }),
    })
    const input = fc.record({
      pause: fc.integer({ min: 0, max: 900 }),
      height: fc.integer({ min: -500, max: 500 }),
      pump: fc.constantFrom(0, 1),
    })
    const play = (inputs: readonly { pause: number; height: number; pump: number }[]): string => {
      const engine = new Engine()
      const all: Effect[] = []
      let now = 0
      const step = (i: Parameters<Engine['step']>[0]) => void all.push(...engine.step(i, now))
      step({ is: 'sources', sources: [craft(catalogue)] })
      step({ is: 'rig', rig, diff: null })
      step({ is: 'arm', armed: true })
      step({
        is: 'board',
        boardId: 'board',
        up: true,
        loaded: wantedConfiguration(rig, 'board'),
        boot: 1,
        bytesPerS: 0,
      })
      step({ is: 'source', source: 'craft', up: true })
      for (const { pause, height, pump } of inputs) {
        const until = now + pause
        for (let next = engine.nextAt(); next !== null && next <= until; next = engine.nextAt()) {
          now = Math.max(now, next)
          step({ is: 'time' })
        }
        now = until
        step({ is: 'frame', source: 'craft', indexes: [1, 3, 6], values: [28, height, pump] })
      }
      return JSON.stringify(all)
    }
    fc.assert(
      fc.property(fc.array(input, { maxLength: 25 }), (inputs) => {
        expect(play(inputs)).toBe(play(inputs))
      }),
    )
  })
})
