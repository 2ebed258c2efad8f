import { describe, expect, it } from 'vitest'
import { actionsOf, control, lamp, smallRig, V, Workbench } from '../../../tests/rigs'
import type { ControlSettings } from '../rig/binding'
import { changeRow, type Diff } from '../rig/edit'
import type { LayerSetRow } from '../rig/rows'
import { trace } from './trace'

const sends = (variable: string, more: Partial<ControlSettings>): ControlSettings =>
  control({ when: 'press', value: '1', actions: [{ do: 'set', variable }], ...more })
const next = (to = 'next', set = 'Line'): ControlSettings =>
  control({ when: 'press', value: null, actions: [{ do: 'layer', set, to }] })

/** Two buttons: the first does another thing in each layer, the second changes the layer. */
const bench = (more: { chosenBy?: string; timeoutMs?: number } = {}, to = 'next') => {
  const made = new Workbench(
    smallRig(
      {
        button: [
          sends('height', { layer: 'Line A' }),
          sends('speed', { layer: 'Line B' }),
          sends('way', { layer: 'Line C' }),
        ],
        button2: next(to),
        lamp: lamp({ variable: null, show: 'layer("Line") == "B"', onlyWhile: null }),
      },
      { layers: { Line: { layers: ['A', 'B', 'C'], ...more } } },
    ),
  ).live()
  made.report('button', 0)
  made.report('button2', 0)
  const press = (id: string) => {
    const done = actionsOf(made.report(id, 1))
    made.now += 30
    made.report(id, 0)
    return done.map((a) => (a.is === 'set' ? a.variable : a.event))
  }
  return { made, press }
}

describe('a layer set', () => {
  it('gives one control several jobs, one at a time', () => {
    const { press } = bench()
    expect(press('button')).toEqual([V.height])
    press('button2')
    expect(press('button')).toEqual([V.speed])
    press('button2')
    expect(press('button')).toEqual([V.way])
    press('button2')
    expect(press('button')).toEqual([V.height])
  })
  it('can be gone through backwards, or straight to one of its layers', () => {
    const back = bench({}, 'previous')
    back.press('button2')
    expect(back.press('button')).toEqual([V.way])
    const straight = bench({}, 'Line B')
    straight.press('button2')
    straight.press('button2')
    expect(straight.press('button')).toEqual([V.speed])
  })
  it('shows the active layer on a lamp of the panel', () => {
    const { made, press } = bench()
    expect(made.shown('lamp')).toBe(0)
    press('button2')
    expect(made.shown('lamp')).toBe(255)
  })
  it('falls back to the first layer when nothing of it was used for a while', () => {
    const { made, press } = bench({ timeoutMs: 5000 })
    press('button2')
    made.wait(4900)
    expect(press('button')).toEqual([V.speed])
    made.wait(4900)
    expect(press('button')).toEqual([V.speed])
    made.wait(5100)
    expect(press('button')).toEqual([V.height])
  })
  it('falls back though a lever of it trembles, and not while a hand moves that', () => {
    const slides = control({
      ...{ when: 'move', value: 'unit(round(bare(input) * 100), "kt")', layer: 'Line B' },
      actions: [{ do: 'set', variable: 'speed' }],
    })
    const made = new Workbench(
      smallRig(
        { slide: slides, button2: next() },
        { layers: { Line: { layers: ['A', 'B'], timeoutMs: 5000 } } },
      ),
    ).live()
    made.report('button2', 0)
    made.report('button2', 1)
    made.report('button2', 0)
    const active = () => made.engine.layers.sets.get('Line')?.active
    const goes = (level: (i: number) => number) => {
      let told = 0
      for (let i = 0; i < 100; i++) {
        made.wait(100)
        told += actionsOf(made.report('slide', level(i))).length
      }
      return told
    }
    expect(goes((i) => 100 + 5 * i)).toBeGreaterThan(40)
    expect(active()).toBe('Line B')
    // It tells the craft where it trembles to, as long as its layer is there.
    expect(goes((i) => 600 + (i % 3) * 10)).toBeGreaterThan(20)
    expect(active()).toBe('Line A')
  })
  it('is kept awake by a lever that has a job in another set as well', () => {
    const inLayer = (layer: string, variable: string) =>
      control({
        ...{ when: 'move', value: 'unit(round(bare(input) * 100), "kt")', layer },
        actions: [{ do: 'set', variable }],
      })
    const made = new Workbench(
      smallRig(
        {
          slide: [inLayer('Line B', 'speed'), inLayer('Digit B', 'speed')],
          button2: next(),
          button: next('next', 'Digit'),
        },
        {
          layers: {
            Line: { layers: ['A', 'B'], timeoutMs: 5000 },
            Digit: { layers: ['A', 'B'], timeoutMs: 5000 },
          },
        },
      ),
    ).live()
    for (const button of ['button', 'button2']) for (const closed of [0, 1, 0]) made.report(button, closed)
    for (let i = 0; i < 100; i++) {
      made.wait(100)
      made.report('slide', 100 + 5 * i)
    }
    expect(made.engine.layers.sets.get('Line')?.active).toBe('Line B')
    expect(made.engine.layers.sets.get('Digit')?.active).toBe('Digit B')
  })
  it('is chosen by a variable, by name or by number from 1', () => {
    const named = bench({ chosenBy: 'advice' })
    named.made.frame({ advice: 'C' })
    expect(named.press('button')).toEqual([V.way])
    const numbered = bench({ chosenBy: 'gear.lever + 1' })
    numbered.made.frame({ lever: 1 })
    expect(numbered.press('button')).toEqual([V.speed])
  })
  it('stays where it is when what chooses names no layer of it', () => {
    const { made, press } = bench({ chosenBy: 'advice' })
    made.frame({ advice: 'B' })
    made.frame({ advice: 'Z' })
    expect(press('button')).toEqual([V.speed])
    expect(made.engine.layers.sets.get('Line')?.strange).toBe('Z')
  })
  it('is chosen by a selector on the panel', () => {
    const made = new Workbench(
      smallRig(
        { rotary: null, button: [sends('height', { layer: 'Line A' }), sends('speed', { layer: 'Line B' })] },
        { layers: { Line: { layers: ['A', 'B'], chosenBy: 'match(part("Rotary"), "1", "A", "2", "B")' } } },
      ),
    ).live()
    made.report('button', 0)
    made.report('rotary', 0b0001)
    made.report('rotary', 0b0010)
    expect(actionsOf(made.report('button', 1))).toEqual([expect.objectContaining({ variable: V.speed })])
  })
  it('is not followed when its choice depends on itself, and says so', () => {
    const made = new Workbench(
      smallRig(
        { lamp: lamp() },
        {
          layers: {
            One: { layers: ['A', 'B'], chosenBy: 'layer("Two") == "A" ? "B" : "A"' },
            Two: { layers: ['A', 'B'], chosenBy: 'layer("One")' },
          },
        },
      ),
    ).live()
    expect([...made.engine.layers.sets.values()].map((s) => s.looping)).toEqual([true, true])
  })
  it('keeps its active layer through an edit of itself', () => {
    const { made, press } = bench()
    press('button2')
    const set = made.rig.layerSet.Line as LayerSetRow
    made.edit([
      changeRow('layerSet', set, { ...set, settings: { ...set.settings, timeoutMs: 9000 } }) as Diff[number],
    ])
    expect(press('button')).toEqual([V.speed])
  })
  it('names the layer that is active where a path waits for another', () => {
    const { made } = bench()
    expect(trace(made.engine, 'button')[1]?.stop).toMatchObject({
      at: 'onlyWhile',
      reason: 'layer is A, this is for B',
    })
  })
})

describe('a press that layers change under', () => {
  const go = (to: string, more: Partial<ControlSettings> = {}): ControlSettings =>
    control({ when: 'press', value: null, actions: [{ do: 'layer', set: 'Line', to }], ...more })
  const of = (...list: ControlSettings[]) => {
    const made = new Workbench(
      smallRig({ button: list, button2: go('next') }, { layers: { Line: { layers: ['A', 'B'] } } }),
    ).live()
    made.report('button', 0)
    made.report('button2', 0)
    return made
  }
  const sent = (effects: Parameters<typeof actionsOf>[0]) =>
    actionsOf(effects).map((a) => (a.is === 'set' ? a.variable : a.event))
  const active = (made: Workbench) => made.engine.layers.sets.get('Line')?.active

  it('acts in one layer only: A to B, and B to A, is one step', () => {
    const made = of(go('Line B', { layer: 'Line A' }), go('Line A', { layer: 'Line B' }))
    made.report('button', 1)
    expect(active(made)).toBe('Line B')
    made.report('button', 0)
    made.report('button', 1)
    expect(active(made)).toBe('Line A')
  })
  it('does not set off the release of the layer that it led to', () => {
    const made = of(go('Line B', { layer: 'Line A' }), sends('speed', { layer: 'Line B', when: 'release' }))
    made.report('button', 1)
    expect(sent(made.report('button', 0))).toEqual([])
    made.report('button', 1)
    expect(sent(made.report('button', 0))).toEqual([V.speed])
  })
  it('keeps its own release, when the layer changes meanwhile', () => {
    const made = of(sends('height', { layer: 'Line A', when: 'release' }))
    made.report('button', 1)
    made.report('button2', 1)
    expect(sent(made.report('button', 0))).toEqual([V.height])
  })
  it('that holds the next layer leads there and back, once', () => {
    const made = of(go('next', { layer: 'Line A', when: 'hold' }))
    made.report('button', 1)
    expect(active(made)).toBe('Line B')
    made.report('button', 0)
    expect(active(made)).toBe('Line A')
  })
  it('is short in its layer, whatever a double press means in another', () => {
    const made = of(
      sends('height', { layer: 'Line A', when: 'short' }),
      sends('speed', { layer: 'Line B', when: 'double' }),
    )
    const done: number[] = []
    for (const closed of [1, 0, 1, 0]) {
      made.now += 60
      done.push(...sent(made.report('button', closed)))
    }
    expect([...done, ...sent(made.wait(1000))]).toEqual([V.height, V.height])
  })
  it('whose condition reads the layer that it changes is a loop: it does nothing and says so', () => {
    const made = of(go('next', { when: 'hold', onlyWhile: 'layer("Line") == "A"' }))
    made.report('button', 1)
    expect(active(made)).toBe('Line A')
    expect(trace(made.engine, 'button')[0]?.stop?.reason).toContain('loop')
  })
})
