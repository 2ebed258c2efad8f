import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { actionsOf, control, smallRig, V, Workbench } from '../../../tests/rigs'
import type { ControlSettings, StepAction } from '../rig/binding'

const height = (by: number, more: Partial<StepAction> = {}): StepAction => ({
  do: 'step',
  variable: 'height',
  by,
  least: 0,
  most: 40000,
  atEnd: 'stop',
  ...more,
})
const turn = (more: Partial<ControlSettings> = {}): ControlSettings =>
  control({ when: 'turn', aspect: 'outer', value: null, actions: [height(100)], ...more })

/** A knob on the bench: it is turned by contact changes, as its board counts them, and the craft answers at once. */
class Knob {
  readonly bench: Workbench
  private count = 0
  height = 10000

  constructor(binding: ControlSettings | ControlSettings[], settings = {}) {
    this.bench = new Workbench(smallRig({ knob: binding }, { settings: { knob: settings } })).live()
    this.bench.frame({ height: this.height })
    this.bench.report('knob', 0, 'outer')
  }

  /** So many contact changes at once, after a pause. */
  changes(by: number, afterMs = 100): readonly ReturnType<typeof actionsOf>[number][] {
    this.bench.now += afterMs
    this.count = (this.count + by + 65536) % 65536
    const done = actionsOf(this.bench.report('knob', this.count, 'outer'))
    for (const a of done) {
      if (a.is !== 'set' || a.variable !== V.height) continue
      this.height = a.value as number
      this.bench.frame({ height: this.height })
    }
    return done
  }
}

describe('a knob', () => {
  it('makes one step a click, in either direction', () => {
    const knob = new Knob(turn())
    knob.changes(4)
    expect(knob.height).toBe(10100)
    knob.changes(-4)
    knob.changes(-4)
    expect(knob.height).toBe(9900)
  })

  it.each([1, 2, 4] as const)('counts %i contact changes as one click where its make has so many', (per) => {
    const knob = new Knob(turn(), { aspects: { outer: { kind: 'encoder', changesPerClick: per } } })
    for (let i = 0; i < per * 3; i++) knob.changes(1, 20)
    expect(knob.height).toBe(10300)
  })

  it('does nothing for half a click, and forgets it once the knob has rested', () => {
    const knob = new Knob(turn())
    expect(knob.changes(2, 500)).toEqual([])
    expect(knob.changes(2, 20)).toHaveLength(1)
    expect(knob.changes(3, 500)).toEqual([])
    expect(knob.changes(1, 2500)).toEqual([])
  })

  it('turns the other way when it is reversed', () => {
    const knob = new Knob(turn(), { aspects: { outer: { kind: 'encoder', reverse: true } } })
    knob.changes(4)
    expect(knob.height).toBe(9900)
  })

  it('makes coarse steps while turned fast, and fine ones again with the first slow click', () => {
    const knob = new Knob(turn({ coarse: { perSecond: 10, times: 10 } }))
    knob.changes(4, 500)
    expect(knob.height).toBe(10100)
    for (let i = 0; i < 4; i++) knob.changes(4, 50)
    const fast = knob.height
    expect(fast).toBeGreaterThan(13000)
    knob.changes(4, 300)
    expect(knob.height).toBe(fast + 100)
  })

  it('does not turn coarse by a single quick click, nor on the way back', () => {
    const knob = new Knob(turn({ coarse: { perSecond: 10, times: 10 } }))
    knob.changes(4, 500)
    knob.changes(4, 40)
    expect(knob.height).toBe(10200)
    knob.changes(-4, 40)
    expect(knob.height).toBe(10100)
  })

  it('never goes on after the hand has stopped', () => {
    const knob = new Knob(turn({ coarse: { perSecond: 10, times: 10 } }))
    for (let i = 0; i < 10; i++) knob.changes(4, 30)
    const { height: there } = knob
    expect(actionsOf(knob.bench.wait(5000))).toEqual([])
    expect(knob.height).toBe(there)
  })

  it('counts right round the end of its counter', () => {
    const knob = new Knob(turn())
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -3, max: 3 }), { maxLength: 60 }), (clicks) => {
        const from = knob.height
        let expected = from
        for (const c of clicks) {
          knob.changes(c * 4, 100)
          expected = Math.min(40000, Math.max(0, expected + c * 100))
        }
        expect(knob.height).toBe(expected)
      }),
    )
  })

  it('begins to count anew when its board comes back', () => {
    const knob = new Knob(turn())
    knob.changes(4)
    knob.bench.board(false)
    knob.bench.board(true)
    expect(actionsOf(knob.bench.report('knob', 40, 'outer'))).toEqual([])
    expect(knob.height).toBe(10100)
  })

  it('sends an event for each click of its direction', () => {
    const send = (when: 'clockwise' | 'counter') =>
      turn({ when, actions: [{ do: 'event', event: 'horn.cancel' }] })
    const knob = new Knob([send('clockwise')])
    expect(knob.changes(12)).toHaveLength(3)
    expect(knob.changes(-12)).toEqual([])
    expect(new Knob([send('counter')]).changes(-8)).toHaveLength(2)
  })

  it('gives its clicks to a value that is set', () => {
    const knob = new Knob(
      turn({ value: 'height + input * 50', actions: [{ do: 'set', variable: 'height' }] }),
    )
    knob.changes(8)
    expect(knob.height).toBe(10100)
    knob.changes(-4)
    expect(knob.height).toBe(10050)
  })

  it('and the other one and the push in its housing act each for itself', () => {
    const bench = new Workbench(
      smallRig({
        knob: [
          turn(),
          turn({ aspect: 'inner', actions: [height(1)] }),
          control({
            when: 'press',
            aspect: 'push',
            value: null,
            actions: [{ do: 'event', event: 'horn.cancel' }],
          }),
        ],
      }),
    ).live()
    bench.frame({ height: 500 })
    for (const aspect of ['outer', 'inner', 'push']) bench.report('knob', 0, aspect)
    const value = (e: ReturnType<typeof actionsOf>) => e.map((a) => a.value)
    expect(value(actionsOf(bench.report('knob', 4, 'outer')))).toEqual([600])
    bench.frame({ height: 600 })
    expect(value(actionsOf(bench.report('knob', 4, 'inner')))).toEqual([601])
    expect(actionsOf(bench.report('knob', 1, 'push'))).toEqual([expect.objectContaining({ is: 'event' })])
  })

  it('is proven when it was turned either way and the craft took it', () => {
    const knob = new Knob(turn())
    const proofs: string[] = []
    for (const by of [4, 4, -4]) {
      for (const a of knob.changes(by)) {
        for (const e of knob.bench.step({ is: 'answer', request: a.request, problem: null }))
          if (e.is === 'proven') proofs.push(e.bindingId)
      }
    }
    expect(proofs).toEqual(['knob-1'])
  })
})

describe('a knob in a slow hand', () => {
  it('clicks, however slowly the changes within a click come', () => {
    const knob = new Knob(turn())
    for (let i = 0; i < 40; i++) knob.changes(1, 150)
    expect(knob.height).toBe(11000)
    for (let i = 0; i < 8; i++) knob.changes(1, 900)
    expect(knob.height).toBe(11200)
  })
  it('is never coarse for the spread of changes within one click', () => {
    const knob = new Knob(turn({ coarse: { perSecond: 12, times: 10 } }))
    for (const pause of [1000, 1500, 2000, 300, 300, 300, 2500, 900]) {
      knob.changes(1, pause)
      for (let i = 0; i < 3; i++) knob.changes(1, 12)
    }
    expect(knob.height).toBe(10800)
  })
})

describe('a knob on a board that is loaded or starts again', () => {
  it('does not turn the value back by what it had counted', () => {
    const knob = new Knob(turn())
    for (let i = 0; i < 10; i++) knob.changes(4)
    expect(knob.height).toBe(11000)
    knob.bench.board(true, 2)
    expect(actionsOf(knob.bench.report('knob', 0, 'outer'))).toEqual([])
    knob.bench.now += 100
    expect(actionsOf(knob.bench.report('knob', 4, 'outer'))).toEqual([
      expect.objectContaining({ value: 11100 }),
    ])
  })
})

describe('a step after a value that was set', () => {
  it('goes on from what the simulator has told since, not from what was believed before', () => {
    const knob = new Knob(turn({ actions: [height(1)] }))
    const { bench } = knob
    bench.frame({ height: 180 })
    bench.now += 100
    expect(actionsOf(bench.report('knob', 4, 'outer'))).toEqual([expect.objectContaining({ value: 181 })])
    bench.frame({ height: 181 })
    bench.frame({ height: 0 })
    bench.now += 100
    expect(actionsOf(bench.report('knob', 8, 'outer'))).toEqual([expect.objectContaining({ value: 1 })])
  })
  it('of quick clicks goes on from the last, while the simulator is still telling the first', () => {
    const knob = new Knob(turn({ actions: [height(1)] }))
    const { bench } = knob
    bench.frame({ height: 180 })
    for (const count of [4, 8]) {
      bench.now += 30
      bench.report('knob', count, 'outer')
    }
    bench.frame({ height: 181 })
    bench.now += 30
    expect(actionsOf(bench.report('knob', 12, 'outer'))).toEqual([expect.objectContaining({ value: 183 })])
  })
})

describe('many clicks at once', () => {
  it('are sent as events one by one, but no more than a hand turns', () => {
    const knob = new Knob(
      control({
        when: 'clockwise',
        aspect: 'outer',
        value: null,
        actions: [{ do: 'event', event: 'horn.cancel' }],
      }),
    )
    expect(knob.changes(4 * 5)).toHaveLength(5)
    expect(knob.changes(4 * 60)).toHaveLength(32)
  })
})

describe('a simulator that comes back', () => {
  it('is stepped from what it tells then, and its old answers prove nothing', () => {
    const knob = new Knob(turn({ actions: [height(100)] }))
    const { bench } = knob
    bench.now += 100
    const [asked] = actionsOf(bench.report('knob', 4, 'outer'))
    bench.step({ is: 'source', source: 'craft', up: false })
    bench.frame({ height: 500 })
    bench.step({ is: 'source', source: 'craft', up: true })
    const answered = bench.step({ is: 'answer', request: asked?.request ?? 0, problem: null })
    expect(answered.some((e) => e.is === 'proven')).toBe(false)
    bench.now += 10
    expect(actionsOf(bench.report('knob', 8, 'outer'))).toEqual([expect.objectContaining({ value: 600 })])
  })
})
