import { describe, expect, it } from 'vitest'
import { control, digits, lamp, smallRig, Workbench } from '../../tests/rigs'
import type { FromHub } from '../core/live/feed'
import type { ControlSettings } from '../core/rig/binding'
import type { Rig } from '../core/rig/rig'
import type { ToStandins } from '../links/hand-link'
import { Feed } from './feed'
import { HandClient } from './hand-client'
import { operate } from './operate'
import { Tab } from './tab'

const identity = '00112233445566aa'

/** Hands on a simulated board that note what they are asked to do. */
class Hands extends HandClient {
  readonly done: ToStandins[] = []
  constructor(there = true) {
    super(1, '')
    if (there)
      for (const map of [this.closed, this.levels, this.wipers, this.shows])
        map.set(identity, new Map() as never)
    if (there) this.closed.set(identity, new Set())
  }
  override send(message: ToStandins): void {
    this.done.push(message)
  }
}
const event: ControlSettings = control({
  when: 'press',
  value: null,
  actions: [{ do: 'event', event: 'horn.cancel' }],
})
const turn: ControlSettings = { ...event, when: 'turn', aspect: 'outer' }
const bench = (rig: Rig) => new Workbench(rig).live()

describe('a hand on screen', () => {
  const does = (rig: Rig, part: string, aspect: string, movement: Parameters<typeof operate>[4]) => {
    const hands = new Hands()
    const problem = operate(bench(rig).engine, hands, part, aspect, movement)
    return problem ?? hands.done
  }
  it('opens a contact before it closes the next', () => {
    expect(
      does(smallRig({ rotary: control() }), 'rotary', 'position', { to: 'position', position: '3' }),
    ).toEqual([
      {
        say: 'move',
        identity,
        contacts: [
          { pin: 35, closed: false },
          { pin: 36, closed: false },
          { pin: 38, closed: false },
          { pin: 37, closed: true },
        ],
      },
    ])
  })
  it('turns a knob by as many contact changes as its make has, the right way round', () => {
    expect(does(smallRig({ knob: turn }), 'knob', 'outer', { to: 'turn', clicks: 2 })).toEqual([
      { say: 'turn', identity, pins: [2, 3], changes: 8 },
    ])
    // What it really is counts, not what its settings say of it.
    const settings = {
      knob: {
        aspects: { outer: { kind: 'encoder' as const, changesPerClick: 1 as const } },
        simulated: { outer: { kind: 'encoder' as const, changesPerClick: 2 as const, reverse: true } },
      },
    }
    expect(does(smallRig({ knob: turn }, { settings }), 'knob', 'outer', { to: 'turn', clicks: 2 })).toEqual([
      { say: 'turn', identity, pins: [2, 3], changes: -4 },
    ])
  })
  it('moves a wiper, and puts a ladder to the level of its position', () => {
    expect(does(smallRig({ slide: event }), 'slide', 'travel', { to: 'slide', level: 0.3 })).toEqual([
      { say: 'slide', identity, pin: 55, level: 0.3, glides: true },
    ])
    expect(
      does(smallRig({ ladder: control() }), 'ladder', 'position', { to: 'position', position: '4' }),
    ).toEqual([{ say: 'slide', identity, pin: 54, level: 1 }])
  })
  it('says why it cannot', () => {
    const rig = smallRig({ button: event })
    const loose = { ...rig, lead: {} }
    expect(does(loose, 'button', 'press', { to: 'position', position: 'pressed' })).toBe(
      'Button moves nothing: terminal “contact” has no pin.',
    )
    const real = operate(bench(rig).engine, new Hands(false), 'button', 'press', {
      to: 'position',
      position: 'pressed',
    })
    expect(real).toContain('its board is not a simulated one')
  })
  it('does nothing that the part cannot do', () => {
    expect(does(smallRig({ button: event }), 'button', 'press', { to: 'turn', clicks: 1 })).toEqual([])
    expect(
      does(smallRig({ button: event }), 'button', 'press', { to: 'position', position: 'sideways' }),
    ).toEqual([])
  })
})

describe('the feed', () => {
  const watch = (rig: Rig, hands = new Hands()) => {
    const made = bench(rig)
    const told: FromHub[] = []
    const tab = new Tab({ send: (text) => told.push(JSON.parse(text) as FromHub), isFull: () => false })
    tab.show('parts', [...made.engine.units.keys()])
    const feed = new Feed(made.engine, hands)
    const run = () => {
      told.length = 0
      hands.changed.add(identity)
      feed.run(new Set([tab]))
      return told
    }
    return { made, hands, tab, run }
  }
  const aspects = (told: readonly FromHub[], part: string) =>
    told.flatMap((m) => (m.say === 'parts' ? [m.parts[part]?.aspects] : []))[0]

  it('tells of each aspect what was reported and where the hand is, and nothing twice', () => {
    const { made, hands, run } = watch(smallRig({ knob: turn, slide: event, lamp: lamp() }))
    made.report('knob', 0, 'outer')
    made.report('knob', 12, 'outer')
    hands.wipers.set(identity, new Map([[55, 0.25]]))
    hands.levels.set(identity, new Map([[26, 128]]))
    const told = run()
    expect(aspects(told, 'knob')?.outer).toEqual({ told: 3, metered: null })
    expect(aspects(told, 'slide')?.travel).toEqual({ told: null, metered: 0.25 })
    expect(aspects(told, 'lamp')?.lamp?.metered).toBe(128)
    expect(run()).toEqual([])
  })
  it('tells what a display shows and what its meter reads', () => {
    const { hands, run } = watch(smallRig({ window: digits() }))
    hands.shows.set(identity, new Map([[42, 'f   77']]))
    expect(aspects(run(), 'window')?.digits).toEqual({ told: 'f  100', metered: 'f   77' })
  })
  it('tells which layer is active, and again when it changes', () => {
    const next = { ...event, actions: [{ do: 'layer' as const, set: 'Line', to: 'next' }] }
    const { made, run } = watch(
      smallRig({ button: next }, { layers: { Line: { layers: ['A', 'B'], chosenBy: 'nothing' } } }),
    )
    const layers = () => run().flatMap((m) => (m.say === 'layers' ? [m.layers.Line] : []))[0]
    expect(layers()).toEqual({ active: 'Line A', problem: 'There is no variable “nothing”.' })
    made.report('button', 0)
    made.report('button', 1)
    expect(layers()?.active).toBe('Line B')
    expect(layers()).toBeUndefined()
  })
  it('tells a part’s paths to whoever has it selected', () => {
    const { tab, run } = watch(smallRig({ lamp: lamp() }))
    tab.selected = 'lamp'
    expect(run().find((m) => m.say === 'trace')).toMatchObject({
      partId: 'lamp',
      rows: [{ aspectId: 'lamp' }],
    })
    expect(run()).toEqual([])
  })
})
