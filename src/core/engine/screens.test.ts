import { describe, expect, it } from 'vitest'
import { elementKinds } from '../elements/elements'
import { addRow, apply, changeRow, type Diff, removeRow } from '../rig/edit'
import { emptyRig, type Rig } from '../rig/rig'
import type { ElementRow, ScreenRow } from '../rig/rows'
import type { SimulatorCatalogue } from '../rig/simulator-catalogue'
import { Engine } from './engine'

const catalogue: SimulatorCatalogue = {
  craft: 'Test',
  variables: [
    { name: 'speed', type: 'number', unit: 'kt', description: '', writable: false, range: null, group: '' },
    { name: 'fuel', type: 'number', unit: 'kg', description: '', writable: false, range: null, group: '' },
    {
      name: 'gear.down',
      type: 'boolean',
      unit: null,
      description: '',
      writable: false,
      range: null,
      group: '',
    },
    { name: 'advice', type: 'text', unit: null, description: '', writable: false, range: null, group: '' },
  ] as never,
  events: [],
}
const sources = [{ id: 'sim', name: 'Sim', on: true, prefix: '', catalogue }]

const screen: ScreenRow = {
  ...{ id: 's', name: 'Screen', position: 0, widthPx: 320, heightPx: 240 },
  settings: { ground: '#000000', widthMm: 60, pageBy: 'gear.down ? "LAND" : "FLY"' },
}
const element = (
  id: string,
  follows: ElementRow['settings']['follows'],
  kind: 'value' | 'bar' = 'value',
): ElementRow => ({
  ...{ id, screenId: 's', pageId: null, name: id, position: 0, x: 0, y: 0, width: 50, height: 20, angle: 0 },
  settings: { ...elementKinds[kind].fresh().settings, follows } as ElementRow['settings'],
})

const start = (...elements: ElementRow[]) => {
  const rig = apply(emptyRig(), [addRow('screen', screen), ...elements.map((e) => addRow('element', e))])
  const engine = new Engine()
  engine.step({ is: 'rig', rig, diff: null }, 0)
  engine.step({ is: 'sources', sources }, 0)
  engine.step({ is: 'source', source: 'sim', up: true }, 0)
  const frame = (values: Record<string, number | string | boolean>, at = 10) => {
    const names = Object.keys(values)
    const indexes = names.map((n) => catalogue.variables.findIndex((v) => v.name === n))
    engine.step({ is: 'frame', source: 'sim', indexes, values: Object.values(values) as never }, at)
  }
  const now = (key: string) => {
    const cell = engine.screens.cells('s').find((c) => c.key === key)
    if (!cell) throw new Error(`nothing follows at ${key}`)
    return engine.screens.now(cell)
  }
  let current: Rig = rig
  const edit = (diff: Diff, at = 20) => {
    current = apply(current, diff)
    engine.step({ is: 'rig', rig: current, diff }, at)
  }
  return { engine, frame, now, edit }
}

describe('what a screen shows', () => {
  it('is its variable, shaped, armed or not', () => {
    const { engine, frame, now } = start(
      element('v', {
        value: { variable: 'speed', show: 'input * 2' },
        visible: { variable: null, show: 'speed > 50' },
      }),
    )
    expect(now('v value')).toBeNull()
    frame({ speed: 60 })
    expect(engine.armed).toBe(false)
    expect(now('v value')).toBe(120)
    expect(now('v visible')).toBe(1)
    frame({ speed: 40 })
    expect(now('v visible')).toBe(0)
  })

  it('is in the unit that it is to be shown in', () => {
    const row = element('v', { value: { variable: 'speed', show: 'input' } })
    const inKmh = { ...row, settings: { ...row.settings, unit: 'km/h' } as ElementRow['settings'] }
    const { frame, now, engine, edit } = start(inKmh)
    frame({ speed: 100 })
    expect(now('v value')).toBeCloseTo(185.2)
    const inKg = { ...row, settings: { ...row.settings, unit: 'kg' } as ElementRow['settings'] }
    edit([changeRow('element', inKmh, inKg) as never])
    expect(engine.screens.cells('s')[1]?.problem).toMatch(/kg/)
  })

  it('is absent while its source is away, and stale while that is quiet', () => {
    const { engine, frame, now } = start(element('v', { value: { variable: 'fuel', show: 'input' } }))
    frame({ fuel: 300 })
    const cell = engine.screens.cells('s').find((c) => c.key === 'v value')
    engine.step({ is: 'quiet', source: 'sim', quiet: true }, 20)
    expect(cell && engine.screens.isStale(cell)).toBe(true)
    expect(now('v value')).toBe(300)
    engine.step({ is: 'source', source: 'sim', up: false }, 30)
    expect(now('v value')).toBeNull()
    expect(cell && engine.screens.isStale(cell)).toBe(false)
  })

  it('is asked of its source, whether or not anything else needs it', () => {
    const { engine } = start(element('v', { value: { variable: 'fuel', show: 'bare(input) + bare(speed)' } }))
    const names = [...engine.variablesInUse()].map((i) => catalogue.variables[i]?.name).sort()
    expect(names).toEqual(['fuel', 'gear.down', 'speed'])
  })

  it('may remember: what a function with a memory gives is a value like any other', () => {
    const { engine, frame, now, edit } = start(
      element('v', { value: { variable: 'speed', show: 'highest(input)' } }),
    )
    frame({ speed: 80 }, 10)
    frame({ speed: 20 }, 20)
    expect(now('v value')).toBe(80)
    // An edit beside it is no reason to forget.
    edit([addRow('element', element('w', { value: { variable: 'fuel', show: 'input' } }))], 30)
    frame({ speed: 30 }, 40)
    expect(now('v value')).toBe(80)
    engine.step({ is: 'time' }, 50)
    expect(now('v value')).toBe(80)
  })

  it('says why it cannot be worked out, and the rest goes on', () => {
    const { engine, frame, now } = start(
      element('a', { value: { variable: 'spead', show: 'input' } }),
      element('b', { value: { variable: null, show: 'input' } }),
      element('c', { value: { variable: 'speed', show: 'input +' } }),
      element('d', { value: { variable: 'speed', show: 'input' } }),
    )
    const problem = (key: string) => engine.screens.cells('s').find((c) => c.key === key)?.problem
    expect(problem('a value')).toMatch(/Did you mean “speed”/)
    expect(problem('b value')).toBe('No variable is chosen yet.')
    expect(problem('c value')).toMatch(/\w/)
    frame({ speed: 7 })
    expect(now('d value')).toBe(7)
  })

  it('chooses its page by a variable', () => {
    const { frame, now } = start()
    expect(now(' page')).toBeNull()
    frame({ 'gear.down': true })
    expect(now(' page')).toBe('LAND')
    frame({ 'gear.down': false })
    expect(now(' page')).toBe('FLY')
  })

  it('compiles what was changed, and nothing beside it', () => {
    const rows = ['a', 'b'].map((id) => element(id, { value: { variable: 'speed', show: 'input' } }))
    const { engine, edit } = start(...rows)
    const before = engine.screens.cells('s')
    const [, b] = rows as [ElementRow, ElementRow]
    edit([changeRow('element', b, { ...b, x: 40 }) as never])
    const after = engine.screens.cells('s')
    expect(after[1]).toBe(before[1])
    expect(after[2]).not.toBe(before[2])
    edit([removeRow('element', { ...b, x: 40 })])
    expect(engine.screens.cells('s').map((c) => c.key)).toEqual([' page', 'a value'])
  })

  it('of more elements than any device draws leaves the rest', () => {
    const many = Array.from({ length: 2100 }, (_, i) => ({
      ...element(`e${i}`, { value: { variable: 'speed', show: 'input' } }),
      position: i,
    }))
    const { engine } = start(...many)
    expect(engine.screens.cells('s')).toHaveLength(2001)
  })
})
