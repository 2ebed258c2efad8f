import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { actionsOf, control, doneBy, lamp, outputsOf, smallRig, V, Workbench } from '../../../tests/rigs'
import { changeRow, type Diff, removeRow } from '../rig/edit'
import type { BindingRow, LeadRow } from '../rig/rows'
import { lampWords } from '../signal/lamp-state'
import { EXERCISE_MS } from './indicators'

const words = (effects: Parameters<typeof outputsOf>[0]) =>
  outputsOf(effects).map((o) => lampWords(Number(o.state)))
const press = control({ when: 'press', value: null, actions: [{ do: 'event', event: 'horn.cancel' }] })

describe('a lamp', () => {
  it('follows its variable: out, blinking in transit, lit', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    expect(words(bench.frame({ gear: 0.3 }))).toEqual(['blink 2 Hz'])
    bench.now += 50
    expect(words(bench.frame({ gear: 1 }))).toEqual(['lit'])
    bench.now += 50
    expect(words(bench.frame({ gear: 0 }))).toEqual(['out'])
  })

  it('is sent nothing while what it shows does not change', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.frame({ gear: 0.3 })
    expect(doneBy(bench.frame({ gear: 0.4 }))).toEqual([])
    expect(doneBy(bench.frame({ gear: 0.4 }))).toEqual([])
  })

  it('rests while its condition does not hold', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.frame({ gear: 1 })
    bench.now += 50
    expect(words(bench.frame({ volts: 3 }))).toEqual(['out'])
  })

  it('rests when its variable, or one in its condition, is absent: absent is never zero', () => {
    const bench = new Workbench(smallRig({ lamp: lamp({ show: 'input < 1 ? on : off' }) })).live()
    bench.now += 50
    expect(words(bench.frame({ gear: null }))).toEqual(['out'])
    bench.frame({ gear: 0 })
    bench.now += 50
    expect(words(bench.frame({ volts: null }))).toEqual(['out'])
  })

  it.each([
    ['out', 'out'],
    ['lit', 'lit'],
  ] as const)('whose rest state is %s shows %s when the simulator goes', (rest, shown) => {
    const bench = new Workbench(smallRig({ lamp: lamp({ rest }) })).live()
    bench.frame({ gear: 0.5 })
    bench.now += 50
    expect(words(bench.step({ is: 'source', source: 'craft', up: false }))).toEqual([shown])
  })

  it('that keeps stays as it was when the simulator goes', () => {
    const bench = new Workbench(smallRig({ lamp: lamp({ rest: 'keep' }) })).live()
    bench.frame({ gear: 1 })
    bench.now += 50
    expect(outputsOf(bench.step({ is: 'source', source: 'craft', up: false }))).toEqual([])
  })

  it('with two bindings shows the first that has a say', () => {
    const above = lamp({ show: 'on', onlyWhile: 'height < 50' })
    const bench = new Workbench(smallRig({ lamp: [above, lamp({ show: 'blink(4)' })] })).live()
    expect(words(bench.frame({ height: 20 }))).toEqual(['lit'])
    bench.now += 50
    expect(words(bench.frame({ height: 90 }))).toEqual(['blink 3.8 Hz'])
  })

  it('is told anew when its board comes back', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.frame({ gear: 1 })
    bench.board(false)
    bench.now += 100
    expect(words(bench.board(true))).toEqual(['lit'])
  })
})

describe('held', () => {
  it('lets nothing through, in either direction', () => {
    const bench = new Workbench(smallRig({ lamp: lamp(), lever: control() })).live()
    bench.report('lever', 0b01)
    bench.frame({ gear: 1 })
    bench.now += 50
    expect(words(bench.step({ is: 'arm', armed: false }))).toEqual(['out'])
    expect(doneBy(bench.frame({ gear: 0.5 }))).toEqual([])
    expect(doneBy(bench.report('lever', 0b10))).toEqual([])
  })
  it('shows what is so as soon as it is armed again', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.step({ is: 'arm', armed: false })
    bench.frame({ gear: 1 })
    bench.now += 50
    expect(words(bench.step({ is: 'arm', armed: true }))).toEqual(['lit'])
  })
})

describe('a maintained control', () => {
  it('sets a value for each position, once', () => {
    const bench = new Workbench(smallRig({ lever: control() })).live()
    bench.report('lever', 0b01)
    const set = (value: number) => [expect.objectContaining({ is: 'set', variable: V.lever, value })]
    expect(actionsOf(bench.report('lever', 0b00))).toEqual(set(1))
    expect(actionsOf(bench.report('lever', 0b10))).toEqual(set(2))
    expect(actionsOf(bench.report('lever', 0b10))).toEqual([])
    bench.wait(10_000)
    expect(actionsOf(bench.report('lever', 0b10))).toEqual([])
  })

  it('sends nothing for its position at start when the simulator leads', () => {
    const bench = new Workbench(smallRig({ lever: control() })).live()
    expect(actionsOf(bench.report('lever', 0b10))).toEqual([])
  })

  it('sends its position at start, and when the simulator comes back, when the panel leads', () => {
    const bench = new Workbench(smallRig({ lever: control() }, { atStart: 'panel' })).live()
    expect(actionsOf(bench.report('lever', 0b10))).toHaveLength(1)
    bench.step({ is: 'source', source: 'craft', up: false })
    expect(actionsOf(bench.step({ is: 'source', source: 'craft', up: true }))).toHaveLength(1)
  })

  it('acts on a movement made while its board was away', () => {
    const bench = new Workbench(smallRig({ lever: control() })).live()
    bench.report('lever', 0b01)
    bench.board(false)
    bench.board(true)
    expect(actionsOf(bench.report('lever', 0b01))).toEqual([])
    expect(actionsOf(bench.report('lever', 0b10))).toHaveLength(1)
  })

  it('does nothing when its contacts contradict each other', () => {
    const bench = new Workbench(smallRig({ lever: control() })).live()
    bench.report('lever', 0b01)
    expect(actionsOf(bench.report('lever', 0b11))).toEqual([])
  })

  it('does not send a value beyond the variable’s limits', () => {
    const bench = new Workbench(
      smallRig({ lever: control({ value: 'match(input, "up", 0, "off", 1, "down", 7)' }) }),
    ).live()
    bench.report('lever', 0b01)
    expect(actionsOf(bench.report('lever', 0b10))).toEqual([])
  })
})

describe('a momentary control', () => {
  it('acts on press and not on release, or the other way round', () => {
    const bench = new Workbench(smallRig({ button: press })).live()
    bench.report('button', 0)
    expect(actionsOf(bench.report('button', 1))).toEqual([
      expect.objectContaining({ is: 'event', event: 0, value: null }),
    ])
    expect(actionsOf(bench.report('button', 0))).toEqual([])
    bench.changeBinding('button-1', { ...press, when: 'release' })
    expect(actionsOf(bench.report('button', 1))).toEqual([])
    expect(actionsOf(bench.report('button', 0))).toHaveLength(1)
  })

  it('does nothing while its condition does not hold, or its binding is off', () => {
    const bench = new Workbench(smallRig({ button: { ...press, onlyWhile: 'speed < 50' } })).live()
    bench.report('button', 0)
    expect(actionsOf(bench.report('button', 1))).toEqual([])
    bench.changeBinding('button-1', press, false)
    bench.report('button', 0)
    expect(actionsOf(bench.report('button', 1))).toEqual([])
  })
})

describe('an edit while running', () => {
  it('makes a lamp follow its new variable from the same moment', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.frame({ gear: 0, speed: 90 })
    bench.now += 50
    expect(words(bench.changeBinding('lamp-1', lamp({ variable: 'speed', show: 'input > 50' })))).toEqual([
      'lit',
    ])
    expect(doneBy(bench.frame({ gear: 0.5 }))).toEqual([])
  })

  it('causes no glitch on parts it does not touch', () => {
    const bench = new Workbench(
      smallRig({ lamp: lamp(), lamp2: lamp({ variable: 'speed', show: 'input > 10' }), lever: control() }),
    ).live()
    bench.report('lever', 0b01)
    bench.frame({ gear: 1 })
    const before = bench.engine.units.get('lamp2')
    bench.now += 50
    const effects = bench.changeBinding('lamp-1', lamp({ show: 'blink(2)' }))
    expect(outputsOf(effects)).toHaveLength(1)
    expect(bench.engine.units.get('lamp2')).toBe(before)
    expect(actionsOf(bench.report('lever', 0b01))).toEqual([])
  })

  it('puts a lamp out when its part is removed', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.frame({ gear: 1 })
    const { rig } = bench
    const slot = bench.engine.units.get('lamp')?.indicators[0]?.slot
    bench.now += 50
    const diff: Diff = [
      removeRow('binding', rig.binding['lamp-1'] as BindingRow),
      removeRow('lead', rig.lead['lead-1'] as LeadRow),
      removeRow('part', rig.part.lamp as never),
    ]
    expect(outputsOf(bench.edit(diff))).toEqual([{ slot, row: 0, state: 0 }])
  })

  it('waits for the load when a lead has moved, and says nothing to the wrong pin', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    const row = bench.rig.lead['lead-1'] as LeadRow
    bench.edit([changeRow('lead', row, { ...row, pin: 'D40' }) as Diff[number]])
    expect(outputsOf(bench.frame({ gear: 1 }))).toEqual([])
  })
})

describe('exercise', () => {
  it('lights a lamp with no simulator and held, and ends by itself', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() }))
    bench.board(true)
    bench.now += 100
    expect(words(bench.step({ is: 'exercise', partIds: ['lamp'], how: { as: 'all' } }))).toEqual(['lit'])
    bench.wait(EXERCISE_MS - 10)
    expect(bench.shown('lamp')).toBe(255)
    expect(words(bench.wait(20))).toEqual(['out'])
  })
})

describe('proof', () => {
  it('of a control comes with the simulator’s answer, once every position has been seen', () => {
    const bench = new Workbench(smallRig({ lever: control() })).live()
    bench.report('lever', 0b01)
    const proofs: string[] = []
    for (const bits of [0b00, 0b10, 0b00, 0b01]) {
      for (const e of bench.report('lever', bits)) {
        if (e.is !== 'set') continue
        for (const p of bench.step({ is: 'answer', request: e.request, problem: null }))
          if (p.is === 'proven') proofs.push(p.bindingId)
      }
    }
    expect(proofs).toEqual(['lever-1'])
  })
  it('of a lamp comes when it has been both lit and out from live values', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.frame({ gear: 0 })
    expect(bench.frame({ gear: 1 })).toContainEqual({ is: 'proven', bindingId: 'lamp-1' })
  })
})

describe('the engine', () => {
  it('gives the same effects for the same inputs at the same times', () => {
    const input = fc.oneof(
      fc.record({ gear: fc.constantFrom(0, 0.5, 1, null), volts: fc.constantFrom(0, 28) }),
      fc.constantFrom(0, 1, 2, 3),
    )
    fc.assert(
      fc.property(fc.array(fc.tuple(input, fc.integer({ min: 0, max: 300 })), { maxLength: 40 }), (list) => {
        const run = () => {
          const bench = new Workbench(smallRig({ lamp: lamp(), lever: control() })).live()
          return list.map(([what, ms]) => {
            bench.now += ms
            return typeof what === 'number' ? bench.report('lever', what) : bench.frame(what)
          })
        }
        expect(run()).toEqual(run())
      }),
    )
  })

  it('shows in the end what the last values say, whatever came before and however short the line was', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(0, 0.5, 1), fc.integer({ min: 0, max: 5 })), {
          minLength: 1,
          maxLength: 60,
        }),
        (list) => {
          const bench = new Workbench(smallRig({ lamp: lamp() })).live()
          let told = 0
          const hear = (effects: Parameters<typeof outputsOf>[0]) => {
            for (const o of outputsOf(effects)) told = Number(o.state)
          }
          for (const [gear, ms] of list) {
            bench.now += ms
            hear(bench.frame({ gear }))
          }
          hear(bench.wait(1000))
          const last = list.at(-1)?.[0] ?? 0
          expect(lampWords(told)).toBe(last === 1 ? 'lit' : last === 0 ? 'out' : 'blink 2 Hz')
        },
      ),
    )
  })
})
