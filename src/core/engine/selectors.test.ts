import { describe, expect, it } from 'vitest'
import { actionsOf, control, smallRig, Workbench } from '../../../tests/rigs'
import { FULL_LEVEL } from '../aspects/travel'
import type { ControlSettings } from '../rig/binding'

const chooses = (more: Partial<ControlSettings> = {}): ControlSettings =>
  control({
    value: 'match(input, "1", 10, "2", 20, "3", 30, "4", 40)',
    actions: [{ do: 'set', variable: 'height' }],
    ...more,
  })
const values = (effects: Parameters<typeof actionsOf>[0]) => actionsOf(effects).map((a) => a.value)

describe('a rotary selector', () => {
  it('has an action for each position, and none in the gap between two', () => {
    const bench = new Workbench(smallRig({ rotary: chooses() })).live()
    bench.report('rotary', 0b0001)
    expect(values(bench.report('rotary', 0))).toEqual([])
    expect(values(bench.report('rotary', 0b0010))).toEqual([20])
    expect(values(bench.report('rotary', 0))).toEqual([])
    expect(values(bench.report('rotary', 0b0010))).toEqual([])
    expect(values(bench.report('rotary', 0b1000))).toEqual([40])
  })
  it('does nothing with two contacts closed at once', () => {
    const bench = new Workbench(smallRig({ rotary: chooses() })).live()
    bench.report('rotary', 1)
    expect(values(bench.report('rotary', 0b0110))).toEqual([])
    expect(bench.engine.units.get('rotary')?.controls[0]?.contradiction).toBe(true)
  })
  it('acts only where it has rested, when told so, and not on the way there', () => {
    const settings = { rotary: { aspects: { position: { kind: 'positions' as const, restMs: 200 } } } }
    const bench = new Workbench(smallRig({ rotary: chooses() }, { settings })).live()
    bench.report('rotary', 0b0001)
    for (const bits of [0, 0b0010, 0, 0b0100]) {
      expect(values(bench.report('rotary', bits))).toEqual([])
      bench.now += 60
    }
    expect(values(bench.wait(100))).toEqual([])
    expect(values(bench.wait(100))).toEqual([30])
    expect(values(bench.wait(5000))).toEqual([])
  })
  it('that is resting when the rig is changed acts once, and by what it is told now', () => {
    const settings = { rotary: { aspects: { position: { kind: 'positions' as const, restMs: 200 } } } }
    const bench = new Workbench(smallRig({ rotary: chooses() }, { settings })).live()
    bench.report('rotary', 0b0001)
    bench.report('rotary', 0b0100)
    bench.now += 100
    const other = chooses({ value: 'match(input, "1", 1, "3", 3, 0)' })
    expect(values(bench.changeBinding('rotary-1', other))).toEqual([])
    expect(values(bench.wait(100))).toEqual([3])
    expect(values(bench.wait(5000))).toEqual([])
  })
  it('moves on as before when it is told to rest, or no longer to', () => {
    const bench = new Workbench(smallRig({ rotary: chooses() })).live()
    bench.report('rotary', 0b0001)
    bench.changeAspect('rotary', 'position', { kind: 'positions', restMs: 200 })
    expect(values(bench.report('rotary', 0b0010))).toEqual([])
    expect(values(bench.wait(200))).toEqual([20])
    bench.changeAspect('rotary', 'position', { kind: 'positions' })
    expect(values(bench.report('rotary', 0b0100))).toEqual([30])
  })
})

describe('a selector that is one resistor ladder', () => {
  it('tells its positions by their levels, and half-way between two it tells none', () => {
    const bench = new Workbench(smallRig({ ladder: chooses() })).live()
    const at = (share: number) => {
      const now = values(bench.report('ladder', Math.round(share * FULL_LEVEL)))
      return [...now, ...values(bench.wait(100))]
    }
    bench.report('ladder', 0)
    expect(at(0.5)).toEqual([])
    expect(at(1 / 3 + 0.03)).toEqual([20])
    expect(at(0.5)).toEqual([])
    expect(at(1)).toEqual([40])
    expect(at(0.99)).toEqual([])
  })
})

describe('a lever with a middle', () => {
  it('has its middle honoured, or only passed through, as the builder chooses', () => {
    const go = (skips: string[]) => {
      const settings = { lever: { aspects: { position: { kind: 'positions' as const, skips } } } }
      const bench = new Workbench(smallRig({ lever: control() }, { settings })).live()
      bench.report('lever', 0b01)
      return [0b00, 0b10, 0b00, 0b01].flatMap((bits) => values(bench.report('lever', bits)))
    }
    expect(go([])).toEqual([1, 2, 1, 0])
    expect(go(['off'])).toEqual([2, 0])
  })
  it('sends an event on arriving at one position or on leaving it', () => {
    const event = (when: 'press' | 'release', position: string): ControlSettings =>
      control({ when, position, value: null, actions: [{ do: 'event', event: 'horn.cancel' }] })
    const bench = new Workbench(
      smallRig({ lever: [event('press', 'down'), event('release', 'down')] }),
    ).live()
    bench.report('lever', 0b01)
    expect([0b00, 0b10, 0b00].map((bits) => actionsOf(bench.report('lever', bits)).length)).toEqual([0, 1, 1])
  })
})

describe('a lever over a pot', () => {
  const sets = (value = 'input'): ControlSettings =>
    control({ when: 'move', value, actions: [{ do: 'set', variable: 'height' }] })
  it('gives its travel, or the other way round when inverted', () => {
    const moved = (invert: boolean) => {
      const settings = { slide: { aspects: { travel: { kind: 'travel' as const, invert } } } }
      const bench = new Workbench(smallRig({ slide: sets('round(bare(input) * 100)') }, { settings })).live()
      bench.report('slide', 0)
      return values(bench.report('slide', 256))
    }
    expect(moved(false)).toEqual([25])
    expect(moved(true)).toEqual([75])
  })
  it('gives what its bands say, and stays silent all along a flat one', () => {
    const bands = [
      { from: 0, to: 0.25, gives: [-30, 0] as [number, number] },
      { from: 0.25, to: 0.5, gives: [0, 0] as [number, number] },
      { from: 0.5, to: 1, gives: [0, 100] as [number, number] },
    ]
    const settings = { slide: { aspects: { travel: { kind: 'travel' as const, bands } } } }
    const bench = new Workbench(smallRig({ slide: sets('round(input)') }, { settings })).live()
    const at = (share: number) => {
      const effects = bench.report('slide', Math.round(share * FULL_LEVEL))
      for (const a of actionsOf(effects)) bench.step({ is: 'answer', request: a.request, problem: null })
      return values(effects)
    }
    at(1)
    expect(at(0)).toEqual([-30])
    expect(at(0.3)).toEqual([0])
    expect([0.32, 0.4, 0.48].flatMap(at)).toEqual([])
    expect(at(0.75)).toEqual([50])
  })
  it('sends nothing for noise that the shaping rounds away', () => {
    const bench = new Workbench(smallRig({ slide: sets('round(bare(input), 0.05)') })).live()
    bench.report('slide', 500)
    const effects = bench.report('slide', 600)
    for (const a of actionsOf(effects)) bench.step({ is: 'answer', request: a.request, problem: null })
    expect(values(effects)).toHaveLength(1)
    expect([601, 599, 602].flatMap((level) => values(bench.report('slide', level)))).toEqual([])
  })
  it('sends nothing at start unless the panel leads', () => {
    const first = (atStart: 'panel' | 'simulator') =>
      values(
        new Workbench(smallRig({ slide: sets('round(bare(input))') }, { atStart }))
          .live()
          .report('slide', 700),
      )
    expect(first('simulator')).toEqual([])
    expect(first('panel')).toEqual([1])
  })
  it('tells the craft its value again when asked to, though it has not moved', () => {
    const bench = new Workbench(smallRig({ slide: sets('bare(input)') })).live()
    bench.report('slide', 0)
    const effects = bench.report('slide', FULL_LEVEL)
    for (const a of actionsOf(effects)) bench.step({ is: 'answer', request: a.request, problem: null })
    expect(values(effects)).toEqual([1])
    expect(values(bench.report('slide', FULL_LEVEL))).toEqual([])
    expect(values(bench.step({ is: 'settle', partIds: ['slide'] }))).toEqual([1])
  })
  it('gives its new value as soon as it is turned round, and its next movement counts', () => {
    const bench = new Workbench(smallRig({ slide: sets('bare(input)') })).live()
    bench.report('slide', 0)
    bench.changeAspect('slide', 'travel', { kind: 'travel', invert: true })
    expect(bench.engine.units.get('slide')?.controls[0]?.output).toBe(1)
    expect(values(bench.report('slide', FULL_LEVEL))).toEqual([0])
  })
})

describe('disagreements', () => {
  it('are settled by telling the simulator where the panel stands', () => {
    const bench = new Workbench(smallRig({ lever: control(), toggle: control({ value: '1' }) })).live()
    bench.report('lever', 0b10)
    bench.frame({ lever: 0 })
    expect(values(bench.step({ is: 'settle', partIds: ['lever'] }))).toEqual([2])
  })
  it('are not settled while held', () => {
    const bench = new Workbench(smallRig({ lever: control() })).live()
    bench.report('lever', 0b10)
    bench.step({ is: 'arm', armed: false })
    expect(actionsOf(bench.step({ is: 'settle', partIds: ['lever'] }))).toEqual([])
  })
})
