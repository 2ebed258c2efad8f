import { describe, expect, it } from 'vitest'
import { actionsOf, catalogue, control, craft, smallRig, Workbench } from '../../../tests/rigs'
import type { ControlSettings, StepAction } from '../rig/binding'
import { changeRow, type Diff } from '../rig/edit'
import { trace } from './trace'

const hold = (more: Partial<ControlSettings> = {}): ControlSettings =>
  control({ when: 'hold', value: 'input', actions: [{ do: 'set', variable: 'pump.switch' }], ...more })
const values = (effects: Parameters<typeof actionsOf>[0]) => actionsOf(effects).map((a) => a.value)

describe('something held as long as a button is', () => {
  const held = (more: Partial<ControlSettings> = {}) => {
    const bench = new Workbench(smallRig({ button: hold(more), button2: null })).live()
    bench.report('button', 0)
    bench.report('button2', 0)
    return bench
  }
  it('is on from press to release, and never repeated', () => {
    const bench = held()
    expect(values(bench.report('button', 1))).toEqual([1])
    expect(values(bench.wait(60_000))).toEqual([])
    expect(values(bench.report('button', 0))).toEqual([0])
  })
  it('ends with its condition, and begins when the second hand comes', () => {
    const bench = held({ onlyWhile: 'part("Second button")' })
    expect(values(bench.report('button', 1))).toEqual([])
    expect(values(bench.report('button2', 1))).toEqual([1])
    expect(values(bench.report('button2', 0))).toEqual([0])
    expect(values(bench.report('button', 0))).toEqual([])
  })
  it('is let go before everything is held', () => {
    const bench = held()
    bench.report('button', 1)
    expect(values(bench.step({ is: 'arm', armed: false }))).toEqual([0])
    expect(values(bench.report('button', 0))).toEqual([])
  })
  it('and let go in several steps because everything is held is not gone on with when it is armed again', () => {
    const bench = held({
      actions: [
        { do: 'set', variable: 'pump.switch' },
        { do: 'pause', ms: 500 },
        { do: 'event', event: 'horn.cancel' },
      ],
    })
    expect(actionsOf(bench.report('button', 1))).toHaveLength(1)
    expect(actionsOf(bench.wait(600))).toHaveLength(1)
    expect(values(bench.step({ is: 'arm', armed: false }))).toEqual([0])
    bench.step({ is: 'arm', armed: true })
    expect(actionsOf(bench.wait(2000))).toEqual([])
  })
  it('is let go when its board goes away, and when its binding is changed', () => {
    const away = held()
    away.report('button', 1)
    expect(values(away.board(false))).toEqual([0])
    const changed = held()
    changed.report('button', 1)
    expect(values(changed.changeBinding('button-1', hold(), false))).toEqual([0])
  })
  it('and let go while the simulator is away is told so when it is back', () => {
    const bench = held()
    bench.report('button', 1)
    bench.step({ is: 'source', source: 'craft', up: false })
    expect(values(bench.report('button', 0))).toEqual([])
    expect(values(bench.step({ is: 'source', source: 'craft', up: true }))).toEqual([0])
  })
  it('and still pressed when the simulator is back is held on anew', () => {
    const bench = held()
    bench.report('button', 1)
    bench.step({ is: 'source', source: 'craft', up: false })
    expect(values(bench.step({ is: 'source', source: 'craft', up: true }))).toEqual([1])
    expect(values(bench.report('button', 0))).toEqual([0])
  })
  it('is let go in the end, however many things are away when it should have been', () => {
    const bench = held()
    bench.report('button', 1)
    bench.step({ is: 'source', source: 'craft', up: false })
    bench.step({ is: 'arm', armed: false })
    expect(values(bench.step({ is: 'source', source: 'craft', up: true }))).toEqual([])
    expect(values(bench.step({ is: 'arm', armed: true }))).toEqual([0])
    bench.report('button', 0)
    bench.report('button', 1)
    bench.step({ is: 'source', source: 'craft', up: false })
    bench.board(false)
    expect(values(bench.step({ is: 'source', source: 'craft', up: true }))).toEqual([0])
    expect(values(bench.board(true))).toEqual([])
  })
  it('whose condition reads what it sets is a loop: it does nothing and says so', () => {
    const bench = held({ onlyWhile: '!pump.switch' })
    expect(values(bench.report('button', 1))).toEqual([])
    expect(trace(bench.engine, 'button')[0]?.stop?.reason).toContain('loop')
  })
  it('is a loop by way of another held thing as well', () => {
    const other = hold({
      actions: [{ do: 'set', variable: 'gear.lever' }],
      value: 'number(input)',
      onlyWhile: 'pump.switch',
    })
    const bench = new Workbench(
      smallRig({ button: hold({ onlyWhile: 'gear.lever == 0' }), button2: other }),
    ).live()
    for (const id of ['button', 'button2']) expect(trace(bench.engine, id)[0]?.stop?.reason).toContain('loop')
  })
})

describe('two switches that must both be held', () => {
  const trim: StepAction = { do: 'step', variable: 'height', by: 10, least: 0, most: 9000, atEnd: 'stop' }
  const both = () => {
    const bench = new Workbench(
      smallRig({
        rocker: control({
          when: 'repeat',
          position: 'up',
          value: null,
          actions: [trim],
          onlyWhile: 'part("Button")',
          timing: { delayMs: 300, intervalMs: 100 },
        }),
        button: null,
      }),
    ).live()
    bench.frame({ height: 0 })
    bench.report('rocker', 0)
    bench.report('button', 0)
    let height = 0
    const run = (effects: ReturnType<Workbench['wait']>) => {
      for (const v of values(effects)) height = v as number
      bench.frame({ height })
      return height
    }
    return { bench, run }
  }
  it('do nothing one at a time', () => {
    const { bench, run } = both()
    run(bench.report('rocker', 1))
    for (let i = 0; i < 20; i++) run(bench.wait(100))
    expect(run(bench.report('rocker', 0))).toBe(0)
    run(bench.report('button', 1))
    expect(run(bench.wait(2000))).toBe(0)
  })
  it('repeat while both are held, and stop as soon as either is let go', () => {
    const { bench, run } = both()
    run(bench.report('button', 1))
    expect(run(bench.report('rocker', 1))).toBe(10)
    expect(run(bench.wait(290))).toBe(10)
    for (let i = 0; i < 5; i++) run(bench.wait(100))
    expect(run(bench.wait(0))).toBe(60)
    run(bench.report('button', 0))
    for (let i = 0; i < 5; i++) run(bench.wait(100))
    expect(run(bench.wait(0))).toBe(60)
  })
  it('are not set off by the other side of the rocker', () => {
    const { bench, run } = both()
    run(bench.report('button', 1))
    run(bench.report('rocker', 2))
    expect(run(bench.wait(2000))).toBe(0)
  })
})

describe('bindings that contradict each other', () => {
  const sets = (value: string, more: Partial<ControlSettings> = {}) =>
    control({ when: 'press', value, actions: [{ do: 'set', variable: 'gear.lever' }], ...more })
  const pressed = (list: ControlSettings[]) => {
    const bench = new Workbench(smallRig({ button: list })).live()
    bench.report('button', 0)
    return { sent: values(bench.report('button', 1)), bench }
  }
  it('let the first act, and the later one says what is wrong', () => {
    const { sent, bench } = pressed([sets('0'), sets('2')])
    expect(sent).toEqual([0])
    expect(trace(bench.engine, 'button')[1]?.stop).toMatchObject({
      at: 'simulator',
      reason: 'It contradicts binding 1 of this part, which also acts on gear.lever at the same moment.',
    })
  })
  it('do not, when their moments, conditions or targets differ', () => {
    expect(pressed([sets('0'), sets('2', { when: 'release' })]).sent).toEqual([0])
    expect(
      pressed([sets('0', { onlyWhile: 'speed > 50' }), sets('2', { onlyWhile: 'speed < 50' })]).sent,
    ).toEqual([0])
    const other = sets('100', { actions: [{ do: 'set', variable: 'height' }] })
    expect(pressed([sets('0'), other]).sent).toEqual([0, 100])
  })
})

describe('a second step', () => {
  const step: StepAction = { do: 'step', variable: 'height', by: 100, least: 0, most: 9000, atEnd: 'stop' }
  const stepping = (action: StepAction | { do: 'toggle'; variable: string } = step) => {
    const bench = new Workbench(
      smallRig({ button: control({ when: 'press', value: null, actions: [action] }) }),
    ).live()
    bench.frame({ height: 1000, pump: 0 })
    bench.report('button', 0)
    bench.report('button', 1)
    return bench
  }
  const notice = (bench: Workbench) => trace(bench.engine, 'button')[0]?.notice ?? ''
  it('that was not sent from here is seen and named', () => {
    const bench = stepping()
    bench.now += 30
    bench.frame({ height: 1100 })
    expect(notice(bench)).toBe('')
    bench.now += 30
    bench.frame({ height: 1200 })
    expect(notice(bench)).toContain(
      'a second step was seen that Clavik did not send: height went on from 1100 to 1200',
    )
  })
  it('is seen when both came in one frame', () => {
    const bench = stepping()
    bench.frame({ height: 1200 })
    expect(notice(bench)).toContain('second step')
  })
  it('is seen as a switch that turns back at once', () => {
    const bench = stepping({ do: 'toggle', variable: 'pump.switch' })
    bench.frame({ pump: 1 })
    bench.now += 40
    bench.frame({ pump: 0 })
    expect(notice(bench)).toContain('pump.switch went on from 1 to 0')
  })
  it('is not suspected in another change, a later one, or a step of one’s own', () => {
    const other = stepping()
    other.frame({ height: 1100 })
    other.frame({ height: 1130 })
    expect(notice(other)).toBe('')
    const later = stepping()
    later.frame({ height: 1100 })
    later.wait(2000)
    later.frame({ height: 1200 })
    expect(notice(later)).toBe('')
    const own = stepping()
    own.frame({ height: 1100 })
    own.report('button', 0)
    own.report('button', 1)
    own.frame({ height: 1200 })
    expect(notice(own)).toBe('')
  })
})

describe('something held over a new catalogue', () => {
  const reconnect = (bench: Workbench, while_: () => void = () => {}) => {
    bench.step({ is: 'source', source: 'craft', up: false })
    bench.step({ is: 'sources', sources: [craft(catalogue)] })
    while_()
    bench.frame({ lever: 0, height: 100, pump: 0, volts: 28 })
    return values(bench.step({ is: 'source', source: 'craft', up: true }))
  }
  const held = (more: Partial<ControlSettings> = {}) => {
    const bench = new Workbench(smallRig({ button: hold(more), button2: null })).live()
    bench.report('button', 0)
    return bench
  }
  it('and still pressed is held on anew, then let go', () => {
    const bench = held()
    bench.report('button', 1)
    expect(reconnect(bench)).toEqual([1])
    expect(values(bench.report('button', 0))).toEqual([0])
  })
  it('and let go meanwhile is told so', () => {
    const bench = held()
    bench.report('button', 1)
    expect(reconnect(bench, () => bench.report('button', 0))).toEqual([0])
  })
  it('and pressed only while the simulator was away begins when it is back', () => {
    const bench = held()
    expect(reconnect(bench, () => bench.report('button', 1))).toEqual([1])
    expect(values(bench.report('button', 0))).toEqual([0])
  })
  it('goes on through an edit of another part', () => {
    const bench = held()
    bench.report('button', 1)
    const row = bench.rig.part.button2
    if (!row) throw new Error('no second button')
    expect(values(bench.edit([changeRow('part', row, { ...row, name: 'Other' }) as Diff[number]]))).toEqual(
      [],
    )
    expect(values(bench.report('button', 0))).toEqual([0])
  })
  it('is let go as soon as it can be, where that needs a value that is absent', () => {
    const bench = held({ value: 'input && height > 50', actions: [{ do: 'set', variable: 'pump.switch' }] })
    expect(values(bench.report('button', 1))).toEqual([1])
    bench.frame({ height: null })
    expect(values(bench.report('button', 0))).toEqual([])
    expect(values(bench.frame({ height: 100 }))).toEqual([0])
  })
})

describe('a press that is repeated while it is held', () => {
  const repeats = (more: Partial<ControlSettings['timing']> = {}, most = 9000) => {
    const step: StepAction = { do: 'step', variable: 'height', by: 10, least: 0, most, atEnd: 'stop' }
    const timing = { delayMs: 100, intervalMs: 20, ...more }
    const bench = new Workbench(
      smallRig({ button: control({ when: 'repeat', value: null, actions: [step], timing }) }),
    ).live()
    bench.report('button', 0)
    bench.frame({ height: 0 })
    const sent = values(bench.report('button', 1))
    for (let i = 0; i < 100; i++) {
      const height = sent.at(-1)
      if (typeof height === 'number') bench.frame({ height })
      sent.push(...values(bench.wait(20)))
    }
    return sent
  }
  it('may be told how often at most', () => {
    expect(repeats({ most: 5 })).toEqual([10, 20, 30, 40, 50])
  })
  it('ends at the end of what it steps through', () => {
    expect(repeats({}, 40).slice(0, 4)).toEqual([10, 20, 30, 40])
    expect(repeats({}, 40).length).toBeLessThan(6)
  })
})

describe('several actions of which one is refused', () => {
  it('are no proof, and the refusal stands', () => {
    const bench = new Workbench(
      smallRig({
        button: control({
          when: 'press',
          value: 'true',
          actions: [
            { do: 'set', variable: 'pump.switch' },
            { do: 'event', event: 'horn.cancel' },
          ],
        }),
      }),
    ).live()
    bench.report('button', 0)
    const asked = actionsOf(bench.report('button', 1))
    const answers = asked.flatMap((a, i) =>
      bench.step({ is: 'answer', request: a.request, problem: i === 0 ? 'no power' : null }),
    )
    expect(answers.some((e) => e.is === 'proven')).toBe(false)
    expect(trace(bench.engine, 'button')[0]?.stop?.reason).toContain('no power')
  })
})

describe('when the simulator goes away in the middle of a step', () => {
  const step: ControlSettings = control({
    when: 'press',
    value: null,
    actions: [{ do: 'step', variable: 'height', by: 1, least: 0, most: 500, atEnd: 'stop' }],
  })
  const begun = () => {
    const bench = new Workbench(smallRig({ button: step })).live()
    bench.report('button', 0)
    const [asked] = bench.report('button', 1).filter((e) => e.is === 'set')
    bench.report('button', 0)
    const state = () => bench.engine.units.get('button')?.controls[0]?.bindings[0]
    const awayAndBack = (height: number) => {
      bench.step({ is: 'source', source: 'craft', up: false })
      bench.step({ is: 'source', source: 'craft', up: true })
      return bench.frame({ height })
    }
    return { bench, asked, state, awayAndBack }
  }

  it('its answer is not waited for, and one that comes late proves nothing', () => {
    const { bench, asked, state, awayAndBack } = begun()
    expect(asked).toMatchObject({ value: 101 })
    awayAndBack(100)
    expect(state()?.last?.problem).toBe('the simulator went away before it answered')
    const late = bench.step({ is: 'answer', request: asked?.request ?? 0, problem: null })
    expect(late.filter((e) => e.is === 'proven')).toEqual([])
  })

  it('the next one goes from what it says, not from what was on its way', () => {
    const { bench, awayAndBack } = begun()
    awayAndBack(100)
    expect(values(bench.report('button', 1))).toEqual([101])
  })

  it('what it says when it is back is no second step', () => {
    const { state, awayAndBack } = begun()
    awayAndBack(102)
    expect(state()?.doubled).toBeNull()
  })
})
