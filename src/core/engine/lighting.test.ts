import { describe, expect, it } from 'vitest'
import { lamp, smallRig, Workbench } from '../../../tests/rigs'
import { followRenaming } from '../rig/binding-change'
import { addRow, changeRow } from '../rig/edit'
import { emptyRig } from '../rig/rig'
import type { LightingRow } from '../rig/rows'
import { indexCatalogue, type VariableInfo } from '../rig/simulator-catalogue'
import { readColours } from '../signal/colours'
import { mistakeIn } from '../signal/expression/compile'
import { levelWanted } from './lighting'
import { brightnessOffers, timeOffers } from './lighting-offers'
import { scopeFor } from './scope'
import { trace } from './trace'

const group = (level: string, bottom: LightingRow['settings']['bottom'] = 'readable'): LightingRow => ({
  id: 'lights',
  name: 'Lights',
  position: 1,
  settings: { level, bottom },
})

/** A lamp that is lit, digits, a strip and a lever, the first three in one group. */
const bench = (row: LightingRow) => {
  const plain = { variable: null, onlyWhile: null, rest: 'out' } as const
  const settings = { lighting: 'lights' }
  const made = new Workbench(
    smallRig(
      {
        lamp: lamp({ variable: null, show: 'bus.volts > 10', onlyWhile: null }),
        window: {
          ...{ kind: 'digits', show: '12', decimals: 0, leading: 'blanks', sign: 'minus', ...plain },
          rest: 'dashes',
        },
        strip: {
          ...{ kind: 'colour', show: '1', stops: [{ at: 0, colour: '#ff8000' }], ...plain },
          ...{ blend: false, fill: 'all' },
        },
        slide: null,
      },
      { settings: { lamp: settings, window: settings, strip: settings } },
    ),
  )
  made.edit([addRow('lighting', row)])
  return made.live()
}
const shown = (made: Workbench) => ({
  lamp: Number(made.shown('lamp')) & 255,
  window: String(made.shown('window')),
  strip: readColours(String(made.shown('strip'))).lamps[0],
})

describe('a group of lights', () => {
  it('is dimmed together by a variable, as it changes', () => {
    const made = bench(group('gear.position'))
    made.frame({ gear: 0.5 })
    expect(shown(made)).toEqual({ lamp: 128, window: '8   12', strip: '#804000' })
    made.frame({ gear: 1 })
    expect(shown(made)).toEqual({ lamp: 255, window: 'f   12', strip: '#ff8000' })
    expect(made.engine.lighting.now()).toEqual({ lights: { level: 1, problem: null } })
  })

  it('is just to be read at the bottom, or out', () => {
    const made = bench(group('gear.position'))
    made.frame({ gear: 0 })
    expect(shown(made)).toMatchObject({ lamp: 1, window: '1   12' })
    made.changeAspect('lamp', 'lamp', { kind: 'lamp', least: 0.1 })
    expect(shown(made).lamp).toBe(26)
    const row = made.rig.lighting.lights as LightingRow
    const out = changeRow('lighting', row, group('gear.position', 'out'))
    made.edit(out ? [out] : [])
    expect(shown(made)).toEqual({ lamp: 0, window: '0   12', strip: '#000000' })
  })

  it('is dimmed by a lever of the panel, and still when that is called otherwise', () => {
    const made = bench(group('part("Slide")'))
    made.report('slide', 1023)
    made.report('slide', 511)
    expect(shown(made).lamp).toBeGreaterThan(120)
    expect(shown(made).lamp).toBeLessThan(135)
    const part = made.rig.part.slide
    if (!part) throw new Error('there is one')
    const renamed = changeRow('part', part, { ...part, name: 'Dimmer' })
    made.edit([...(renamed ? [renamed] : []), ...followRenaming(made.rig, 'part', 'Slide', 'Dimmer')])
    expect(made.rig.lighting.lights?.settings.level).toBe('part("Dimmer")')
    made.report('slide', 1023)
    expect(shown(made).lamp).toBe(255)
  })

  it('takes percent as such', () => {
    const made = bench(group('unit(40, "%")'))
    expect(shown(made).lamp).toBe(102)
    expect(made.engine.lighting.now().lights?.level).toBe(0.4)
  })

  it('whose formula is wrong, or gives nothing, leaves its lights as they are, and says so', () => {
    const wrong = bench(group('levr'))
    expect(shown(wrong)).toMatchObject({ lamp: 255, window: 'f   12' })
    expect(wrong.engine.lighting.now().lights?.problem).toContain('levr')
    const nothing = bench(group('0 / 0'))
    expect(shown(nothing).lamp).toBe(255)
    expect(nothing.engine.lighting.now().lights).toEqual({ level: null, problem: null })
    const text = bench(group('"half"'))
    expect(text.engine.lighting.now().lights?.problem).toContain('needed')
    expect(shown(text).lamp).toBe(255)
  })

  it('never lights what is out, and is said on the path', () => {
    const made = bench(group('0.4'))
    made.frame({ volts: 0 })
    expect(shown(made).lamp).toBe(0)
    const row = trace(made.engine, 'lamp')[0]
    expect(row?.stations.find((s) => s.at === 'shaping')?.what).toBe('bus.volts > 10, dimmed to 40 %')
  })

  it('is past by a light that is tried by itself', () => {
    const made = bench(group('0.4'))
    made.step({
      is: 'exercise',
      partIds: ['lamp'],
      how: { as: 'trial', aspectId: 'lamp', strength: 0.8 },
    })
    expect(shown(made).lamp).toBe(204)
    made.step({ is: 'exercise', partIds: ['lamp'], how: null })
    expect(shown(made).lamp).toBe(102)
  })
})

describe('what is offered to dim by', () => {
  const number = (name: string, description = '') => ({
    ...{ name, description, type: 'number', unit: null, writable: false, range: null, group: '' },
  })
  const variables = [
    number('lights.panel.brightness'),
    number('clock.sun.height'),
    number('clock.hours'),
    number('computer.clock.hours'),
    number('engine.hours.run'),
    { ...number('sky'), description: 'How bright it is outside' },
    { ...number('bright.word'), type: 'text' },
  ] as VariableInfo[]

  it('are variables of light, the sun, and every clock, each a formula that works', () => {
    const offers = [...brightnessOffers(variables), ...timeOffers(variables)]
    expect(offers.map((o) => o.level)).toEqual([
      'lights.panel.brightness',
      'sky',
      'clock.sun.height > 0 ? 1 : 0.25',
      'clock.hours >= 7 && clock.hours < 19 ? 1 : 0.25',
      'computer.clock.hours >= 7 && computer.clock.hours < 19 ? 1 : 0.25',
    ])
    const index = indexCatalogue({ craft: 'Test', variables, events: [] })
    for (const { level } of offers)
      expect(mistakeIn(level, scopeFor(emptyRig(), index, undefined), levelWanted), level).toBeNull()
  })
})
