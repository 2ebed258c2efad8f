import { describe, expect, it } from 'vitest'
import { catalogue, control, digits, lamp, smallRig } from '../../../tests/rigs'
import type { BindingSettings } from './binding'
import {
  afterRenaming,
  allNamesIn,
  followRenaming,
  forOtherDirection,
  namesIn,
  oppositeName,
  turnedRound,
  unknownName,
  withNames,
  withNewNames,
  withStep,
  withUnit,
} from './binding-change'
import { apply } from './edit'

const step = (by: number) =>
  control({
    when: 'clockwise',
    value: null,
    actions: [{ do: 'step', variable: 'height', by, least: 0, most: 9000, atEnd: 'stop' }],
  })
const events = {
  ...catalogue,
  events: ['trim.up', 'trim.down', 'lamp.left.on'].map((name) => ({
    name,
    description: '',
    group: '',
    value: null,
  })),
}

describe('a binding turned round', () => {
  it('steps the other way', () => {
    expect(turnedRound(step(100), catalogue)).toEqual(step(-100))
  })
  it('sends the opposite event where the craft has it, and the same one where it has not', () => {
    const sends = (event: string) =>
      control({ when: 'press', value: null, actions: [{ do: 'event', event }] })
    expect(turnedRound(sends('trim.up'), events)).toEqual(sends('trim.down'))
    expect(turnedRound(sends('lamp.left.on'), events)).toEqual(sends('lamp.left.on'))
  })
  it('finds the opposite of the last word that has one', () => {
    expect(oppositeName('lamp.left.on')).toBe('lamp.left.off')
    expect(oppositeName('engine.left.power')).toBe('engine.right.power')
    expect(oppositeName('bus.volts')).toBeNull()
  })
  it('is for the other way of turning, or for the opposite position', () => {
    const rig = smallRig({ rocker: control({ position: 'up' }), knob: step(1) })
    expect(forOtherDirection(rig, 'knob', step(1), events)).toEqual({ ...step(-1), when: 'counter' })
    const up = control({
      when: 'repeat',
      position: 'up',
      value: null,
      actions: [{ do: 'event', event: 'trim.up' }],
    })
    expect(forOtherDirection(rig, 'rocker', up, events)).toMatchObject({
      position: 'down',
      actions: [{ do: 'event', event: 'trim.down' }],
    })
    expect(forOtherDirection(rig, 'rocker', lamp(), events)).toBeNull()
  })
})

describe('many bindings changed at once', () => {
  it('get another step size and keep their signs', () => {
    expect(withStep(step(-100), 10)).toEqual(step(-10))
    expect(withStep(control(), 10)).toBeNull()
  })
  it('get another unit, and not one inside the other', () => {
    const once = withUnit(control({ value: 'input * 2' }), 'ft')
    expect(once).toMatchObject({ value: 'to(input * 2, "ft")' })
    expect(once && withUnit(once, 'm')).toMatchObject({ value: 'to(input * 2, "m")' })
    expect(withUnit(lamp(), 'ft')).toBeNull()
  })
  it('get other names wherever they stand', () => {
    const left = lamp({
      variable: 'fuel.left.low',
      show: 'fuel.left.low && input',
      onlyWhile: 'bus.left > 20',
    })
    const right = withNames(left, '.left', '.right')
    expect(right).toMatchObject({
      variable: 'fuel.right.low',
      show: 'fuel.right.low && input',
      onlyWhile: 'bus.right > 20',
    })
    expect(namesIn(right)).toEqual(['fuel.right.low'])
  })
  it('follow a part that is renamed, and leave alone what only looks like it', () => {
    const s = lamp({
      onlyWhile: 'part("Trim (left)") == "up" && part(\'Trim\') && layer("Trim (left)") == "A"',
    })
    expect(afterRenaming(s, 'part', 'Trim (left)', 'Pitch').onlyWhile).toBe(
      'part("Pitch") == "up" && part(\'Trim\') && layer("Trim (left)") == "A"',
    )
  })
  it('and choices of layers follow in one edit with the name itself', () => {
    const rig = smallRig(
      { rotary: null, lamp: lamp({ onlyWhile: 'part("Rotary") == "1"' }) },
      { layers: { Line: { layers: ['A', 'B'], chosenBy: 'part("Rotary")' } } },
    )
    const after = apply(rig, followRenaming(rig, 'part', 'Rotary', 'Selector'))
    expect(after.binding['lamp-1']?.settings.onlyWhile).toBe('part("Selector") == "1"')
    expect(after.layerSet.Line?.settings.chosenBy).toBe('part("Selector")')
    expect(followRenaming(rig, 'layer', 'Other', 'Another')).toEqual([])
  })
})

describe('each kind of binding', () => {
  const showing = { variable: 'radio.one.frequency', onlyWhile: 'bus.one > 20', rest: 'out' } as const
  const text: BindingSettings = {
    ...{ kind: 'text', ...showing, lines: [{ show: '"ONE " + input' }, { show: 'one.name' }] },
    powered: 'bus.one > 10',
  }
  const needle: BindingSettings = { kind: 'needle', ...showing, show: 'one.level' }
  const window = digits({ ...showing, show: 'one.standby', brightness: 'one.dim', powered: 'bus.one > 10' })
  const button = control({
    ...{ when: 'press', value: 'one.next', onlyWhile: 'bus.one > 20' },
    actions: [
      { do: 'event', event: 'radio.one.swap' },
      { do: 'toggle', variable: 'radio.one.on' },
      { do: 'pause', ms: 100 },
      { do: 'layer', set: 'one', to: 'next' },
    ],
  })

  it.each([
    ['text', text],
    ['needle', needle],
    ['digits', window],
    ['button', button],
  ] as const)('gets other names everywhere they stand: %s', (_, settings) => {
    const there = JSON.stringify(withNames(settings, 'one', 'two'))
    // A layer set is known by its id, which is no name.
    expect(there.replace('"set":"one"', '')).not.toContain('one')
    expect(withNames(withNames(settings, 'one', 'two'), 'two', 'one')).toEqual(settings)
    expect(withNames(settings, '', 'two')).toBe(settings)
  })

  it('keeps what it does not have left out', () => {
    const bare = withNames(digits(), 'height', 'depth')
    expect(bare).toEqual(digits({ variable: 'depth' }))
    expect('brightness' in bare || 'powered' in bare).toBe(false)
  })

  it('is converted to another unit where it shows a number', () => {
    expect(withUnit(window, 'MHz')).toMatchObject({ show: 'to(one.standby, "MHz")' })
    expect(withUnit(needle, 'kt')).toMatchObject({ show: 'to(one.level, "kt")' })
    expect(withUnit(button, 'kt')).toMatchObject({ value: 'to(one.next, "kt")' })
    expect(withUnit(control({ value: null }), 'kt')).toBeNull()
    expect(withUnit(text, 'kt')).toBeNull()
  })

  it('is turned round only where it acts', () => {
    for (const s of [text, needle, window]) expect(turnedRound(s, catalogue)).toBe(s)
    expect(turnedRound(button, catalogue)).toMatchObject({
      actions: [
        { do: 'event', event: 'radio.one.swap' },
        { do: 'toggle', variable: 'radio.one.on' },
        { do: 'pause', ms: 100 },
        { do: 'layer', set: 'one', to: 'previous' },
      ],
    })
    const back = control({ actions: [{ do: 'layer', set: 'one', to: 'previous' }] })
    expect(turnedRound(back, catalogue)).toMatchObject({ actions: [{ to: 'next' }] })
    const one = control({ actions: [{ do: 'layer', set: 'one', to: 'one B' }] })
    expect(turnedRound(one, catalogue)).toEqual(one)
    const along = { do: 'choose' as const, variable: 'height', values: [0, 5], by: 2, atEnd: 'wrap' as const }
    expect(turnedRound(control({ actions: [along] }), catalogue)).toMatchObject({ actions: [{ by: -2 }] })
  })

  it('says which names it speaks of, and the first that the craft does not have', () => {
    expect(namesIn(button)).toEqual(['radio.one.swap', 'radio.one.on'])
    expect(namesIn(needle)).toEqual(['radio.one.frequency'])
    expect(namesIn(lamp({ variable: null }))).toEqual([])
    expect(unknownName(button, catalogue)).toBe('radio.one.swap')
    expect(unknownName(lamp(), catalogue)).toBeNull()
    const known = control({ actions: [{ do: 'event', event: 'horn.cancel' }] })
    expect(unknownName(known, catalogue)).toBeNull()
  })

  it('has no other direction where its position has no opposite, or the part has not that one', () => {
    const rig = smallRig({ rotary: control({ position: '2' }), toggle: control({ position: 'open' }) })
    expect(forOtherDirection(rig, 'rotary', control({ position: '2' }), events)).toBeNull()
    expect(forOtherDirection(rig, 'toggle', control(), events)).toBeNull()
    expect(forOtherDirection(rig, 'nobody', control({ position: 'up' }), events)).toBeNull()
    expect(withStep(step(5), 0)).toBeNull()
    expect(withStep(button, 5)).toBeNull()
  })

  it('follows no renaming that changes nothing, and quotes a name that needs it', () => {
    const rig = smallRig({ lever: control({ onlyWhile: `part('Lamp') == 1` }), lamp: lamp() })
    expect(followRenaming(rig, 'part', 'Lamp', 'Lamp')).toEqual([])
    const quoted = followRenaming(rig, 'part', 'Lamp', 'The "big" lamp')
    const after = apply(rig, quoted)
    expect(after.binding['lever-1']?.settings.onlyWhile).toBe('part("The \\"big\\" lamp") == 1')
  })
})

describe('names of another craft', () => {
  const s = control({
    value: 'height > 3 ? speed : match(input, "speed", 1, 0)',
    actions: [{ do: 'set', variable: 'gear.lever' }],
    onlyWhile: 'gear.lever.locked == 0 && speed < 9',
  })
  it('stand wherever the old ones stood, and nowhere else', () => {
    const names = new Map([
      ['speed', 'truck.speed'],
      ['gear.lever', 'truck.gear'],
    ])
    expect(withNewNames(s, names)).toMatchObject({
      value: 'height > 3 ? truck.speed : match(input, "speed", 1, 0)',
      actions: [{ do: 'set', variable: 'truck.gear' }],
      onlyWhile: 'gear.lever.locked == 0 && truck.speed < 9',
    })
    expect(withNewNames(s, new Map())).toEqual(s)
  })
  it('are found in actions and expressions', () => {
    const known = new Set(['height', 'speed', 'gear.lever', 'other'])
    expect(allNamesIn(s, (n) => known.has(n)).sort()).toEqual(['gear.lever', 'height', 'speed'])
  })
})
