import { describe, expect, it } from 'vitest'
import { catalogue, control, lamp, smallRig, Workbench } from '../../../tests/rigs'
import { indexCatalogue } from '../rig/simulator-catalogue'
import { mistakeIn } from '../signal/expression/compile'
import { agreement } from './agreement'
import { scopeFor } from './scope'
import { trace } from './trace'
import type { PartUnit } from './units'

const stops = (bench: Workbench, partId: string) =>
  trace(bench.engine, partId).map((r) => r.stop?.reason ?? '')
const unit = (bench: Workbench, partId: string) => bench.engine.units.get(partId) as PartUnit

describe('a path says so', () => {
  it('when the simulator has sent nothing for a while, and when it sends again', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.frame({ gear: 1 })
    bench.step({ is: 'quiet', source: 'craft', quiet: true })
    expect(stops(bench, 'lamp')).toEqual(['the value is stale: the simulator has sent nothing for a while'])
    bench.step({ is: 'quiet', source: 'craft', quiet: false })
    expect(stops(bench, 'lamp')).toEqual([''])
  })

  it('for each aspect of a part, bound or not', () => {
    const turn = control({
      when: 'turn',
      aspect: 'inner',
      value: null,
      actions: [{ do: 'event', event: 'horn.cancel' }],
    })
    const bench = new Workbench(smallRig({ knob: turn })).live()
    expect(trace(bench.engine, 'knob').map((r) => [r.aspectId, r.stop?.reason ?? ''])).toEqual([
      ['outer', 'nothing bound yet'],
      ['inner', ''],
      ['push', 'nothing bound yet'],
    ])
  })

  it('not, where another path reads what nothing is bound to', () => {
    const reader = lamp({ onlyWhile: 'part("Button")' })
    const bench = new Workbench(smallRig({ button: null, lamp: reader })).live()
    bench.report('button', 0)
    expect(trace(bench.engine, 'button')[0]).toMatchObject({ stop: null, bindingId: null })
    expect(stops(bench, 'lamp')[0]).toBe('only while part("Button"): it is released')
  })

  it('when the variable that is stepped is absent', () => {
    const bench = new Workbench(
      smallRig({
        button: control({ when: 'press', value: null, actions: [{ do: 'toggle', variable: 'pump.switch' }] }),
      }),
    ).live()
    bench.frame({ pump: null })
    expect(stops(bench, 'button')).toEqual(['variable absent on this craft'])
  })

  it('when a gesture is none that the control knows, or a position none that it has', () => {
    const wrong = (more: Parameters<typeof control>[0], part: 'slide' | 'rocker') =>
      stops(
        new Workbench(
          smallRig({
            [part]: control({ value: null, actions: [{ do: 'event', event: 'horn.cancel' }], ...more }),
          }),
        ).live(),
        part,
      )
    expect(wrong({ when: 'double' }, 'slide')).toEqual(['“double” is nothing that this control does.'])
    expect(wrong({ when: 'press', position: 'left' }, 'rocker')).toEqual([
      'The position “left” is not one of this part.',
    ])
  })

  it('when its layer, or the layer it goes to, is not there any more', () => {
    const bench = new Workbench(
      smallRig({
        lamp: lamp({ layer: 'gone' }),
        button: control({ when: 'press', value: null, actions: [{ do: 'layer', set: 'gone', to: 'next' }] }),
      }),
    ).live()
    expect(stops(bench, 'lamp')).toEqual(['The layer it belongs to is not there any more. Choose another.'])
    expect(stops(bench, 'button')).toEqual(['The layer set it changes is not there any more.'])
  })

  it('when a wire ends on a pin that cannot do what it must', () => {
    const rig = smallRig({
      slide: control({ when: 'move', value: 'bare(input)', actions: [{ do: 'set', variable: 'height' }] }),
    })
    const lead = rig.lead['lead-1']
    const wrong = {
      ...rig,
      lead: { ...rig.lead, 'lead-1': { ...lead, pin: 'D40' } as NonNullable<typeof lead> },
    }
    expect(stops(new Workbench(wrong).live(), 'slide')).toEqual([
      'Test board D40 cannot measure; an analog pin is needed',
    ])
  })
})

describe('panel and craft', () => {
  it('agree or differ by what a control stands at and what it would set', () => {
    const bench = new Workbench(smallRig({ lever: control() })).live()
    bench.report('lever', 0b10)
    bench.frame({ lever: 2 })
    expect(agreement(bench.engine, unit(bench, 'lever'))).toMatchObject({
      panel: 'down',
      craft: 'down',
      agrees: true,
    })
    bench.frame({ lever: 0 })
    expect(agreement(bench.engine, unit(bench, 'lever')).agrees).toBe(false)
  })
  it('are near enough where a lever gives almost what the craft says', () => {
    const move = control({
      when: 'move',
      value: 'bare(input) * 100',
      actions: [{ do: 'set', variable: 'height' }],
    })
    const bench = new Workbench(smallRig({ slide: move })).live()
    bench.report('slide', 512)
    bench.frame({ height: 50.4 })
    expect(agreement(bench.engine, unit(bench, 'slide')).agrees).toBe(true)
    bench.frame({ height: 60 })
    expect(agreement(bench.engine, unit(bench, 'slide')).agrees).toBe(false)
  })
  it('have nothing to compare for a button or a knob, but say what it acts on', () => {
    const turn = control({
      when: 'turn',
      aspect: 'outer',
      value: null,
      actions: [{ do: 'step', variable: 'height', by: 1, least: 0, most: 100, atEnd: 'stop' }],
    })
    const bench = new Workbench(smallRig({ knob: turn })).live()
    bench.frame({ height: 42 })
    expect(agreement(bench.engine, unit(bench, 'knob'))).toMatchObject({
      panel: '–',
      craft: '42 ft',
      agrees: null,
    })
  })
})

describe('an expression that speaks of the rig', () => {
  const index = indexCatalogue(catalogue)
  const rig = smallRig(
    { rotary: null, button: null, button2: null, slide: null, knob: null, lamp: lamp() },
    { layers: { 'Radio line': { layers: ['A', 'B'] } } },
  )
  const mistake = (source: string) =>
    mistakeIn(source, scopeFor(rig, index, undefined), { as: 'condition' })?.message ?? null
  it.each([
    'part("Rotary") == "1"',
    'part("Button") && !part("Second button")',
    'part("Slide") > 0.5',
    'part("Knob", "push")',
    'layer("Radio line") == "A"',
  ])('may say %s', (source) => {
    expect(mistake(source)).toBeNull()
  })
  it.each([
    ['part("Rotery") == "1"', 'There is no part “Rotery”. Did you mean “Rotary”?'],
    ['part("Lamp")', '“Lamp” has no position that could be read.'],
    ['part("Knob", "outer") > 0', '“Knob” has no “outer” that could be read. It has “push”.'],
    ['layer("Line") == "A"', 'There is no layer set “Line”.'],
    ['part(bus.volts)', 'The name of a part stands in quotes.'],
    ['part("Rotary") > 2', 'A number is needed here, this is a text.'],
  ])('cannot say %s', (source, message) => {
    expect(mistake(source)).toBe(message)
  })
  it('cannot tell two parts of one name apart', () => {
    const twin = { ...rig, part: { ...rig.part, lamp: { ...rig.part.lamp, name: 'Rotary' } } } as typeof rig
    const said = mistakeIn('part("Rotary") == "1"', scopeFor(twin, index, undefined), { as: 'condition' })
    expect(said?.message).toBe('Several parts are called “Rotary”; give this one a name of its own.')
  })
})
