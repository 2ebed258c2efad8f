import { describe, expect, it } from 'vitest'
import {
  actionsOf,
  catalogue,
  control,
  craft,
  lamp,
  outputsOf,
  smallRig,
  V,
  Workbench,
} from '../../../tests/rigs'
import type { SimulatorCatalogue } from '../rig/simulator-catalogue'
import { trace } from './trace'

const skiff: SimulatorCatalogue = {
  craft: 'Skiff',
  variables: [
    {
      name: 'skiff.lamp',
      type: 'boolean',
      unit: null,
      writable: true,
      range: null,
      description: '',
      group: '',
    },
    {
      name: 'skiff.gear',
      type: 'number',
      unit: null,
      writable: true,
      range: null,
      description: '',
      group: '',
    },
  ],
  events: [{ name: 'skiff.horn', description: '', group: '', value: null }],
}
const second = (more: object = {}) => ({
  ...{ id: 'skiff', name: 'Skiff', on: true, prefix: '', catalogue: skiff },
  ...more,
})

const onSkiff = { variable: 'skiff.lamp', show: 'input ? on : off', onlyWhile: null }

/** The craft and the skiff, a lamp on each, and a lever that sets something of the skiff. */
const both = () => {
  const bench = new Workbench(
    smallRig({
      lamp: lamp(),
      lamp2: lamp(onSkiff),
      lever: control({ actions: [{ do: 'set', variable: 'skiff.gear' }] }),
      button: control({ when: 'press', value: null, actions: [{ do: 'event', event: 'skiff.horn' }] }),
    }),
  ).live()
  bench.step({ is: 'sources', sources: [craft(catalogue), second()] })
  bench.step({ is: 'source', source: 'skiff', up: true })
  return bench
}
const frame = (bench: Workbench, source: string, index: number, value: number) =>
  bench.step({ is: 'frame', source, indexes: [index], values: [value] })
const why = (bench: Workbench, part: string) => trace(bench.engine, part)[0]?.stop?.reason ?? null

describe('several sources', () => {
  it('are heard each by its own numbers, and told by numbers among all', () => {
    const bench = both()
    expect(outputsOf(frame(bench, 'craft', V.gear, 1)).length).toBe(1)
    expect(outputsOf(frame(bench, 'skiff', 0, 1)).length).toBe(1)
    bench.report('lever', 1)
    const [set] = actionsOf(bench.report('lever', 2))
    expect(set).toMatchObject({ is: 'set', variable: catalogue.variables.length + 1 })
    const [event] = actionsOf([...bench.report('button', 0), ...bench.report('button', 1)])
    expect(event).toMatchObject({ is: 'event', event: catalogue.events.length })
  })

  it('that tell beyond their own names change nothing of others', () => {
    const bench = both()
    expect(outputsOf(frame(bench, 'craft', catalogue.variables.length, 1))).toEqual([])
    expect(outputsOf(frame(bench, 'nobody', 0, 1))).toEqual([])
  })

  it('stop only their own paths when they go, and begin them anew when they come back', () => {
    const bench = both()
    frame(bench, 'craft', V.gear, 1)
    frame(bench, 'skiff', 0, 1)
    const rests = outputsOf(bench.step({ is: 'source', source: 'skiff', up: false }))
    expect(rests.map((o) => o.state)).toEqual([0])
    expect(why(bench, 'lamp2')).toBe('Skiff is away; the value is old')
    expect(why(bench, 'lever')).toBe('Skiff is away')
    expect(why(bench, 'lamp')).toBeNull()
    expect(outputsOf(frame(bench, 'craft', V.gear, 0)).map((o) => o.state)).toEqual([0])
    expect(actionsOf(bench.report('lever', 1))).toEqual([])
    const back = bench.step({ is: 'source', source: 'skiff', up: true })
    expect(outputsOf(back).map((o) => o.state)).toEqual([255])
  })

  it('keep their values while another one tells other names', () => {
    const bench = both()
    frame(bench, 'craft', V.gear, 1)
    const more = { ...skiff, variables: [...skiff.variables].reverse() }
    const effects = bench.step({ is: 'sources', sources: [second({ catalogue: more }), craft(catalogue)] })
    expect(outputsOf(effects)).toEqual([])
    expect(bench.engine.variables.read(skiff.variables.length + V.gear)).toBe(1)
    expect(why(bench, 'lamp')).toBeNull()
    // What told something else has no values before it tells them anew.
    expect(bench.engine.variables.read(1)).toBeNull()
  })

  it('that are switched off keep their names, and say so on their paths', () => {
    const bench = both()
    bench.step({ is: 'source', source: 'skiff', up: false })
    bench.step({ is: 'sources', sources: [craft(catalogue), second({ on: false })] })
    expect(why(bench, 'lever')).toBe('Skiff is switched off')
  })

  it('that have told no names yet are named where a name is not known', () => {
    const bench = new Workbench(smallRig({ lamp2: lamp(onSkiff) })).live()
    bench.step({ is: 'sources', sources: [craft(catalogue), second({ catalogue: null })] })
    expect(why(bench, 'lamp2')).toContain('“Skiff” has told no names yet')
  })
})
