import { describe, expect, it } from 'vitest'
import { catalogue, control, lamp, smallRig } from '../../../tests/rigs'
import {
  afterRenaming,
  followRenaming,
  forOtherDirection,
  namesIn,
  oppositeName,
  turnedRound,
  withNames,
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
