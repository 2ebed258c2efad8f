import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { actionsOf, control, smallRig, V, Workbench } from '../../../../tests/rigs'
import type { Action, ControlSettings } from '../../rig/binding'
import type { Effect } from '../input'
import { trace } from '../trace'
import { gestureDefaults } from './gesture-defaults'

const horn: Action = { do: 'event', event: 'horn.cancel' }
const gesture = (
  when: ControlSettings['when'],
  timing?: ControlSettings['timing'],
  actions: Action[] = [horn],
) => control({ when, value: null, actions, ...(timing ? { timing } : {}) })

/** A button under a finger, with a clock: what was done, and when. */
class Finger {
  readonly bench: Workbench
  readonly done: { at: number; effect: Effect }[] = []

  constructor(...bindings: ControlSettings[]) {
    this.bench = new Workbench(smallRig({ button: bindings })).live()
    this.bench.report('button', 0)
    this.bench.now = 0
  }

  private take(effects: readonly Effect[]): this {
    for (const effect of actionsOf(effects)) this.done.push({ at: this.bench.now, effect })
    return this
  }
  press(): this {
    return this.take(this.bench.report('button', 1))
  }
  release(): this {
    return this.take(this.bench.report('button', 0))
  }
  wait(ms: number): this {
    for (let i = 0; i < ms; i += 10) this.take(this.bench.wait(10))
    return this
  }
  click(ms = 80): this {
    return this.press().wait(ms).release()
  }
  get times(): number[] {
    return this.done.map((d) => d.at)
  }
  sent(): (number | string | null)[] {
    return this.done.map((d) => ('value' in d.effect ? d.effect.value : null))
  }
}

describe('a long press', () => {
  it('acts once its time is over, while still held, and once only', () => {
    expect(new Finger(gesture('long')).press().wait(3000).release().times).toEqual([gestureDefaults.longMs])
  })
  it('does not act when it was let go before', () => {
    expect(new Finger(gesture('long')).click(490).wait(2000).times).toEqual([])
  })
  it('has a threshold of its own', () => {
    expect(new Finger(gesture('long', { longMs: 1200 })).press().wait(2000).release().times).toEqual([1200])
  })
})

describe('a short press', () => {
  it('acts on letting go, if that comes soon enough', () => {
    expect(new Finger(gesture('short')).click(100).times).toEqual([100])
    expect(new Finger(gesture('short')).click(600).wait(1000).times).toEqual([])
  })
  it('and a long one do different things', () => {
    const short = gesture('short', undefined, [{ do: 'set', variable: 'pump.switch' }])
    const both = () => new Finger({ ...short, value: 'true' }, gesture('long'))
    expect(
      both()
        .click(100)
        .wait(1000)
        .done.map((d) => d.effect.is),
    ).toEqual(['set'])
    expect(
      both()
        .click(900)
        .wait(1000)
        .done.map((d) => d.effect.is),
    ).toEqual(['event'])
  })
  it('waits for a second one only where the button knows double ones', () => {
    const finger = new Finger(gesture('short'), {
      ...gesture('double'),
      actions: [{ do: 'toggle', variable: 'pump.switch' }],
    })
    finger.click(50).wait(1000)
    expect(finger.times).toEqual([50 + gestureDefaults.doubleMs])
    expect(finger.done.map((d) => d.effect.is)).toEqual(['event'])
  })
})

describe('a double press', () => {
  it('acts on the second press, and a single one does nothing', () => {
    expect(new Finger(gesture('double')).click(50).wait(100).click(50).times).toEqual([150])
    expect(new Finger(gesture('double')).click(50).wait(1000).times).toEqual([])
  })
  it('does not act when the second comes too late, or the first was long', () => {
    expect(new Finger(gesture('double')).click(50).wait(400).click(50).wait(500).times).toEqual([])
    expect(new Finger(gesture('double')).click(700).wait(100).click(50).wait(500).times).toEqual([])
  })
  it('takes three presses for one double and a single one', () => {
    expect(
      new Finger(gesture('double')).click(50).wait(50).click(50).wait(50).click(50).wait(500).times,
    ).toHaveLength(1)
  })
  it('leaves no short one behind', () => {
    const toggle: Action = { do: 'toggle', variable: 'pump.switch' }
    const finger = new Finger(gesture('short'), { ...gesture('double'), actions: [toggle] })
    finger.click(50).wait(100).click(50).wait(1000)
    expect(finger.done.map((d) => d.effect.is)).toEqual(['set'])
  })
})

describe('repeating while held', () => {
  it('acts at once, then after its delay, then at its interval, until let go', () => {
    const finger = new Finger(gesture('repeat', { delayMs: 400, intervalMs: 100 }))
      .press()
      .wait(750)
      .release()
      .wait(1000)
    expect(finger.times).toEqual([0, 400, 500, 600, 700])
  })

  it.each([
    [
      'everything is held',
      (b: Workbench) => b.step({ is: 'arm', armed: false }),
      (b: Workbench) => b.step({ is: 'arm', armed: true }),
    ],
    [
      'the simulator goes',
      (b: Workbench) => b.step({ is: 'source', source: 'craft', up: false }),
      (b: Workbench) => b.step({ is: 'source', source: 'craft', up: true }),
    ],
    ['the board goes', (b: Workbench) => b.board(false), (b: Workbench) => b.board(true)],
    [
      'the binding is edited',
      (b: Workbench) => b.changeBinding('button-1', gesture('repeat', { delayMs: 200 })),
      () => {},
    ],
  ])('stops when %s, and does not begin again by itself', (_, interrupt, restore) => {
    const finger = new Finger(gesture('repeat')).press().wait(1000)
    const before = finger.times.length
    interrupt(finger.bench)
    finger.wait(500)
    restore(finger.bench)
    expect(finger.wait(2000).times).toHaveLength(before)
  })

  it('does nothing in between while its condition does not hold', () => {
    const finger = new Finger({
      ...gesture('repeat', { delayMs: 100, intervalMs: 100 }),
      onlyWhile: 'speed > 50',
    })
      .press()
      .wait(300)
    finger.bench.frame({ speed: 10 })
    const before = finger.times.length
    expect(finger.wait(500).times).toHaveLength(before)
    finger.bench.frame({ speed: 60 })
    expect(finger.wait(200).times.length).toBeGreaterThan(before)
  })

  it('never acts between letting go and the next press, however the hand moves', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 120 }), { maxLength: 20 }), (lengths) => {
        const finger = new Finger(gesture('repeat'), gesture('long'), gesture('press'))
        let pressed = false
        for (const length of lengths) {
          pressed = !pressed
          if (pressed) finger.press()
          else finger.release()
          const before = finger.done.length
          finger.wait(length * 10)
          if (!pressed) expect(finger.done.length).toBe(before)
        }
      }),
      { numRuns: 60 },
    )
  })
})

describe('a contact that stays closed', () => {
  it.each(['press', 'release', 'short', 'double', 'long'] as const)('never repeats %s by itself', (when) => {
    const finger = new Finger(gesture(when)).press().wait(20_000)
    expect(finger.times.length).toBeLessThanOrEqual(1)
  })
})

describe('a step', () => {
  const step = (by: number, atEnd: 'stop' | 'wrap', least = 0, most = 3): Action => ({
    do: 'step',
    variable: 'height',
    by,
    least,
    most,
    atEnd,
  })
  const many = (action: Action, presses: number, start: number): (number | string | null)[] => {
    const finger = new Finger(gesture('press', undefined, [action]))
    finger.bench.frame({ height: start })
    for (let i = 0; i < presses; i++) {
      finger.click(20).wait(20)
      const sent = finger.sent().at(-1)
      if (typeof sent === 'number') finger.bench.frame({ height: sent })
    }
    return finger.sent()
  }

  it('stops at its limits', () => {
    expect(many(step(1, 'stop'), 4, 1)).toEqual([2, 3, 3, 3])
    expect(many(step(-2, 'stop'), 3, 3)).toEqual([1, 0, 0])
  })
  it('comes in again at the other end', () => {
    expect(many(step(1, 'wrap', 0, 3), 4, 1)).toEqual([2, 3, 0, 1])
    expect(many(step(-90, 'wrap', 0, 360), 5, 90)).toEqual([0, 270, 180, 90, 0])
  })
  it('does not add up rounding', () => {
    const sent = many(step(0.1, 'stop', 0, 10), 12, 0)
    expect(sent.at(-1)).toBe(1.2)
  })
  it('counts quick presses that the simulator has not told back yet', () => {
    const finger = new Finger(gesture('press', undefined, [step(1, 'stop', 0, 100)]))
    finger.bench.frame({ height: 5 })
    finger.click(10).click(10).click(10)
    expect(finger.sent()).toEqual([6, 7, 8])
  })
  it('starts from what the simulator says once it has had time to say it', () => {
    const finger = new Finger(gesture('press', undefined, [step(1, 'stop', 0, 100)]))
    finger.bench.frame({ height: 5 })
    finger.click(10).wait(1000)
    finger.bench.frame({ height: 50 })
    expect(finger.click(10).sent()).toEqual([6, 51])
  })
  it('never leaves its limits, wherever it starts', () => {
    const limits = fc.tuple(fc.integer({ min: -50, max: 49 }), fc.integer({ min: 1, max: 60 }))
    fc.assert(
      fc.property(
        limits,
        fc.integer({ min: -200, max: 200 }),
        fc.integer({ min: 1, max: 500 }),
        fc.constantFrom('stop' as const, 'wrap' as const),
        ([least, span], start, by, atEnd) => {
          for (const value of many(step(by, atEnd, least, least + span), 3, start)) {
            expect(value).toBeGreaterThanOrEqual(least)
            expect(value).toBeLessThanOrEqual(least + span)
          }
        },
      ),
      { numRuns: 60 },
    )
  })
  it('is not sent from a variable that is absent, and says so', () => {
    const finger = new Finger(gesture('press', undefined, [step(1, 'stop')]))
    finger.bench.frame({ height: null })
    expect(finger.click().times).toEqual([])
    expect(trace(finger.bench.engine, 'button')[0]?.stop?.reason).toContain('absent on this craft')
  })
})

describe('several actions', () => {
  const pump: Action = { do: 'toggle', variable: 'pump.switch' }
  it('come in order, with their pauses', () => {
    const finger = new Finger(
      gesture('press', undefined, [horn, { do: 'pause', ms: 300 }, pump, { do: 'pause', ms: 200 }, horn]),
    )
    finger.click(50).wait(1000)
    expect(finger.done.map((d) => [d.at, d.effect.is])).toEqual([
      [0, 'event'],
      [300, 'set'],
      [500, 'event'],
    ])
  })
  it('begin anew when the button is pressed again', () => {
    const finger = new Finger(gesture('press', undefined, [horn, { do: 'pause', ms: 300 }, pump]))
    finger.click(50).wait(100).click(50).wait(1000)
    expect(finger.done.map((d) => [d.at, d.effect.is])).toEqual([
      [0, 'event'],
      [150, 'event'],
      [450, 'set'],
    ])
  })
  it('do not go on after everything was held', () => {
    const finger = new Finger(gesture('press', undefined, [horn, { do: 'pause', ms: 300 }, pump]))
    finger.click(50)
    finger.bench.step({ is: 'arm', armed: false })
    finger.bench.step({ is: 'arm', armed: true })
    expect(finger.wait(1000).times).toEqual([0])
  })
})

describe('a toggle', () => {
  it('turns a switch over, whichever way it stands', () => {
    const finger = new Finger(gesture('press', undefined, [{ do: 'toggle', variable: 'pump.switch' }]))
    finger.bench.frame({ pump: 0 })
    finger.click()
    finger.bench.frame({ pump: 1 })
    finger.wait(400).click()
    expect(finger.done.map((d) => d.effect)).toEqual([
      expect.objectContaining({ is: 'set', variable: V.pump, value: 1 }),
      expect.objectContaining({ is: 'set', variable: V.pump, value: 0 }),
    ])
  })
})

describe('an action that cannot be', () => {
  it.each<[string, Action, string]>([
    [
      'turning a number over',
      { do: 'toggle', variable: 'height' },
      '“height” is not a switch, so it cannot be turned over.',
    ],
    [
      'stepping a switch',
      { do: 'step', variable: 'pump.switch', by: 1, least: 0, most: 1, atEnd: 'stop' },
      '“pump.switch” is not a number, so it cannot be stepped.',
    ],
    [
      'stepping beyond the limits',
      { do: 'step', variable: 'gear.lever', by: 1, least: 0, most: 9, atEnd: 'stop' },
      "“gear.lever” goes from 0 to 2; the step's limits lie beyond that.",
    ],
    [
      'stepping what can only be read',
      { do: 'step', variable: 'bus.volts', by: 1, least: 0, most: 9, atEnd: 'stop' },
      '“bus.volts” can be read but not set. Choose an event or another variable.',
    ],
  ])('%s is said where the builder looks', (_, action, words) => {
    const finger = new Finger(gesture('press', undefined, [action]))
    expect(trace(finger.bench.engine, 'button')[0]?.stop).toMatchObject({ at: 'simulator', reason: words })
    expect(finger.click().times).toEqual([])
  })
})
