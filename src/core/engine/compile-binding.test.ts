import { describe, expect, it } from 'vitest'
import { catalogue, control, digits, lamp, smallRig, Workbench } from '../../../tests/rigs'
import { partKinds } from '../catalogue/parts'
import { type BindingSettings, bindingSettings } from '../rig/binding'
import { addRow, apply, changeRow } from '../rig/edit'
import type { Rig } from '../rig/rig'
import { indexCatalogue } from '../rig/simulator-catalogue'
import { compileBinding, freshSettings } from './compile-binding'

const index = indexCatalogue(catalogue)
const layers = { Radio: { layers: ['A', 'B'] } }

/** What is wrong with a binding of a part, as `station: message`. */
const mistakesOf = (part: string, settings: BindingSettings, rig?: Rig): string[] => {
  const whole = rig ?? smallRig({ [part]: settings }, { layers })
  const row = whole.binding[`${part}-1`]
  if (!row) throw new Error('no binding')
  return compileBinding(whole, row, index).mistakes.map((m) => `${m.station}: ${m.message}`)
}

const acts = (...actions: Extract<BindingSettings, { kind: 'control' }>['actions']) =>
  control({ when: 'press', value: null, actions })
const turned = (...actions: Extract<BindingSettings, { kind: 'control' }>['actions']) =>
  control({ when: 'turn', value: null, actions })
const step = { do: 'step', variable: 'height', by: 1, least: 0, most: 10, atEnd: 'stop' } as const

describe('a binding that is right', () => {
  it.each([
    ['a lever', 'lever', control()],
    ['a lamp', 'lamp', lamp()],
    ['digits', 'window', digits()],
    ['a knob that steps', 'knob', turned(step)],
    ['a button that goes to the next layer', 'button', acts({ do: 'layer', set: 'Radio', to: 'next' })],
    ['a button for one layer', 'button', acts({ do: 'layer', set: 'Radio', to: 'Radio B' })],
    ['a button with a pause', 'button', acts({ do: 'event', event: 'horn.cancel' }, { do: 'pause', ms: 50 })],
    ['a switch that is turned over', 'button', acts({ do: 'toggle', variable: 'pump.switch' })],
  ] as const)('says nothing: %s', (_, part, settings) => {
    expect(mistakesOf(part, settings as BindingSettings)).toEqual([])
  })
})

describe('a binding that is wrong says so at the station where it is mended', () => {
  it.each([
    ['nothing chosen', 'button', acts(), ['simulator: No variable or event is chosen yet.']],
    [
      'an event without a name',
      'button',
      acts({ do: 'event', event: '' }),
      ['simulator: No variable or event is chosen yet.'],
    ],
    [
      'an event that nearly is one',
      'button',
      acts({ do: 'event', event: 'horn.cancle' }),
      ['simulator: This craft has no event “horn.cancle”. Did you mean “horn.cancel”?'],
    ],
    [
      'an event like no other',
      'button',
      acts({ do: 'event', event: 'zzz' }),
      ['simulator: This craft has no event “zzz”.'],
    ],
    [
      'what cannot be set',
      'lever',
      control({ value: 'input == "up" ? 1 : 0', actions: [{ do: 'set', variable: 'bus.volts' }] }),
      ['simulator: “bus.volts” can be read but not set. Choose an event or another variable.'],
    ],
    [
      'a number turned over',
      'button',
      acts({ do: 'toggle', variable: 'height' }),
      ['simulator: “height” is not a switch, so it cannot be turned over.'],
    ],
    [
      'a switch that is stepped',
      'knob',
      turned({ ...step, variable: 'pump.switch' }),
      ['simulator: “pump.switch” is not a number, so it cannot be stepped.'],
    ],
    [
      'a switch chosen along a list',
      'knob',
      turned({ do: 'choose', variable: 'pump.switch', values: [0, 1], by: 1, atEnd: 'stop' }),
      ['simulator: “pump.switch” is not a number, so it cannot be stepped.'],
    ],
    [
      'limits beyond those of the variable',
      'knob',
      turned({ ...step, variable: 'gear.lever', most: 3 }),
      ["simulator: “gear.lever” goes from 0 to 2; the step's limits lie beyond that."],
    ],
    [
      'a list beyond the variable',
      'knob',
      turned({ do: 'choose', variable: 'gear.lever', values: [-1, 2], by: 1, atEnd: 'stop' }),
      ["simulator: “gear.lever” goes from 0 to 2; the step's limits lie beyond that."],
    ],
    [
      'setting without a value',
      'lever',
      control({ value: null }),
      ['shaping: Setting a variable needs a value.'],
    ],
    [
      'a layer set that is gone',
      'button',
      acts({ do: 'layer', set: 'Gone', to: 'next' }),
      ['simulator: The layer set it changes is not there any more.'],
    ],
    [
      'a layer that is gone',
      'button',
      acts({ do: 'layer', set: 'Radio', to: 'Radio C' }),
      ['simulator: The layer it goes to is not in “Radio” any more.'],
    ],
    [
      'a gesture of another control',
      'knob',
      control({ when: 'press', value: null, actions: [step] }),
      ['shaping: “press” is nothing that this control does.'],
    ],
    [
      'a position of another part',
      'lever',
      control({ position: 'sideways' }),
      ['shaping: The position “sideways” is not one of this part.'],
    ],
    [
      'a layer of its own that is gone',
      'lamp',
      lamp({ layer: 'nowhere' }),
      ['onlyWhile: The layer it belongs to is not there any more. Choose another.'],
    ],
    [
      'a binding of another kind of part',
      'lever',
      lamp(),
      ['part: Wheel lever, 3 positions has nothing that such a binding fits.'],
    ],
  ] as const)('%s', (_, part, settings, said) => {
    expect(mistakesOf(part, settings as BindingSettings)).toEqual(said)
  })

  it('every mistake at once, not only the first', () => {
    const found = mistakesOf('lever', control({ value: 'nope + 1', onlyWhile: 'bus.volts >', position: 'x' }))
    expect(found.map((m) => m.split(':')[0]).sort()).toEqual(['onlyWhile', 'shaping', 'shaping'])
  })

  it('but nothing as long as the simulator has never been there', () => {
    const rig = smallRig({ lever: control({ actions: [{ do: 'set', variable: 'no.such' }] }) })
    const row = rig.binding['lever-1']
    if (!row) throw new Error('no binding')
    const none = indexCatalogue({ ...catalogue, variables: [], events: [] })
    expect(compileBinding(rig, row, none).mistakes).toEqual([])
  })

  it('of a part that is gone, without falling over', () => {
    const rig = smallRig({ lever: control() })
    const row = rig.binding['lever-1']
    if (!row) throw new Error('no binding')
    const { mistakes } = compileBinding({ ...rig, part: {} }, row, index)
    expect(mistakes.map((m) => m.station)).toEqual(['part'])
  })
})

describe('what a new binding begins as', () => {
  const kinds = partKinds.filter((k) => k.aspects.length > 0)

  it.each(kinds.map((k) => [k.name, k] as const))('%s: valid, and complete but for its target', (_, kind) => {
    const rig = smallRig({ lever: null })
    const part = rig.part.lever
    if (!part) throw new Error('no part')
    const change = changeRow('part', part, { ...part, kind: kind.id })
    const now = change ? apply(rig, [change]) : rig
    for (const aspect of kind.aspects) {
      const settings = freshSettings(now, 'lever', aspect.id)
      expect(settings).not.toBeNull()
      expect(bindingSettings.safeParse(settings).success).toBe(true)
      const bound = apply(now, [
        addRow('binding', {
          ...{ id: 'lever-1', partId: 'lever', position: 1, on: true },
          settings: settings as BindingSettings,
        }),
      ])
      const allowed = /^simulator: |choose|chosen/i
      for (const m of mistakesOf('lever', settings as BindingSettings, bound)) expect(m).toMatch(allowed)
    }
  })

  it('is nothing for a part that is gone or does nothing', () => {
    const rig = smallRig({ lever: null })
    expect(freshSettings(rig, 'nobody')).toBeNull()
    const part = rig.part.lever
    const screw = partKinds.find((k) => k.aspects.length === 0)
    if (!part || !screw) throw new Error('the catalogue has changed')
    const change = changeRow('part', part, { ...part, kind: screw.id })
    expect(freshSettings(apply(rig, change ? [change] : []), 'lever')).toBeNull()
  })
})

describe('a position that is mistyped', () => {
  it('is refused where it is written, with those that there are', () => {
    const wrong = control({ value: 'match(input, "up", 0, "dwn", 2)' })
    const bench = new Workbench(smallRig({ lever: wrong })).live()
    const program = bench.engine.units.get('lever')?.programs[0]
    expect(program?.mistakes[0]?.message).toBe('This is never “dwn”; it is one of “up”, “off”, “down”.')
    const read = lamp({ variable: null, show: 'part("Lever") == "dwn"', onlyWhile: null })
    const other = new Workbench(smallRig({ lever: null, lamp: read })).live()
    expect(other.engine.units.get('lamp')?.programs[0]?.mistakes[0]?.message).toContain('“dwn”')
  })
})
