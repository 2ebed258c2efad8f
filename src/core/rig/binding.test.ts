import { describe, expect, it } from 'vitest'
import { control, digits, lamp } from '../../../tests/rigs'
import { partKind } from '../catalogue/parts'
import { aspectFor, type BindingSettings, bindingSettings, isBound, retarget, targetOf } from './binding'

const step = { do: 'step', variable: 'height', by: 1, least: 0, most: 10, atEnd: 'stop' } as const
const choose = { do: 'choose', variable: 'height', values: [0, 5, 9], by: 1, atEnd: 'wrap' } as const
const pause = { do: 'pause', ms: 200 } as const
const layer = { do: 'layer', set: 'Radio', to: 'next' } as const

const text = (show: string): BindingSettings => ({
  ...{ kind: 'text', variable: null, onlyWhile: null, rest: 'out' },
  lines: [{ show }],
})
const colour = (more: object = {}) => ({
  ...{
    kind: 'colour',
    variable: 'height',
    show: 'input',
    onlyWhile: null,
    rest: 'out',
    blend: true,
    fill: 'all',
  },
  stops: [
    { at: 0, colour: '#000000' },
    { at: 1, colour: '#ff0000' },
  ],
  ...more,
})

/** What is said of settings that are not valid. */
const refusal = (settings: unknown): string => {
  const read = bindingSettings.safeParse(settings)
  return read.success ? 'valid' : (read.error.issues[0]?.message ?? '')
}
const acting = (action: unknown) => refusal({ ...control(), actions: [action] })

describe('what a binding may say', () => {
  it('takes what is whole', () => {
    for (const settings of [control(), lamp(), digits(), text('"A"'), colour()])
      expect(refusal(settings)).toBe('valid')
    for (const action of [step, choose, pause, layer]) expect(acting(action)).toBe('valid')
  })

  it.each([
    [{ ...step, by: 0 }, 'a step cannot be zero'],
    [{ ...step, least: 10, most: 10 }, 'the least must be less than the most'],
    [
      { ...step, digit: { place: 1, base: 10 }, within: 1 },
      'a step moves a digit or a part of the value, not both',
    ],
    [{ ...step, by: 0.5, digit: { place: 1, base: 10 } }, 'a digit moves in whole steps'],
    [{ ...choose, by: 0 }, 'a step cannot be zero'],
    [{ ...choose, values: [0, 5, 5] }, 'the values must rise'],
    [
      { ...choose, values: [0, 100], every: 100 },
      'values that repeat lie between 0 and the stretch they repeat in',
    ],
    [
      { ...choose, values: [-1, 5], every: 100 },
      'values that repeat lie between 0 and the stretch they repeat in',
    ],
  ])('refuses an action that contradicts itself: %o', (action, words) => {
    expect(acting(action)).toBe(words)
  })

  it('refuses pauses too short and too long, unknown fields, colours written otherwise, stops that fall', () => {
    expect(acting({ do: 'pause', ms: 5 })).not.toBe('valid')
    expect(acting({ do: 'pause', ms: 60_000 })).not.toBe('valid')
    expect(acting({ ...step, why: 'because' })).toMatch(/unrecognized/i)
    expect(refusal(colour({ stops: [{ at: 0, colour: 'red' }] }))).toBe('a colour is written #rrggbb')
    const falling = [
      { at: 1, colour: '#000000' },
      { at: 0, colour: '#ffffff' },
    ]
    expect(refusal(colour({ stops: falling }))).toBe('colour stops must rise')
  })
})

describe('the aspect a binding belongs to', () => {
  const knob = partKind('encoder-dual-push')?.aspects ?? []

  it('is the one it names, else the first it fits', () => {
    expect(aspectFor(knob, control())?.kind).toBe('encoder')
    const push = knob.find((a) => a.kind === 'positions')
    expect(aspectFor(knob, control({ aspect: push?.id ?? '' }))).toBe(push)
  })

  it('is none where it names one that is gone or of another kind', () => {
    expect(aspectFor(knob, control({ aspect: 'gone' }))).toBeUndefined()
    expect(aspectFor(knob, lamp())).toBeUndefined()
  })
})

describe('what a binding tells or asks', () => {
  it('is the first action that the simulator hears of', () => {
    expect(targetOf(control({ actions: [pause, layer, step] }))).toEqual({ variable: 'height' })
    expect(targetOf(control({ actions: [{ do: 'event', event: 'horn.cancel' }] }))).toEqual({
      event: 'horn.cancel',
    })
    expect(targetOf(control({ actions: [pause] }))).toBeNull()
    expect(targetOf(lamp())).toEqual({ variable: 'gear.position' })
    expect(targetOf(lamp({ variable: '' }))).toBeNull()
  })

  it('makes it bound; so does a layer to change, or something to show without any', () => {
    expect(isBound(control({ actions: [] }))).toBe(false)
    expect(isBound(control({ actions: [layer] }))).toBe(true)
    expect(isBound(lamp({ variable: null }))).toBe(false)
    expect(isBound(lamp({ variable: null, show: 'on' }))).toBe(true)
    expect(isBound(text('"ALT"'))).toBe(true)
    expect(isBound(text('input'))).toBe(false)
    // A name that only begins like it is not the input.
    expect(isBound(lamp({ variable: null, show: 'inputs.one' }))).toBe(true)
  })
})

describe('another target', () => {
  it('goes in the place of the first one told; what is round it stays', () => {
    const before = control({ actions: [pause, step, { do: 'event', event: 'horn.cancel' }] })
    expect(retarget(before, { variable: 'speed' })).toMatchObject({
      actions: [pause, { ...step, variable: 'speed' }, { do: 'event', event: 'horn.cancel' }],
    })
    expect(retarget(before, { event: 'horn.test' })).toMatchObject({
      actions: [pause, { do: 'event', event: 'horn.test' }, { do: 'event', event: 'horn.cancel' }],
    })
  })

  it('is a value to set where there was an event or nothing', () => {
    const set = { do: 'set', variable: 'speed' }
    expect(retarget(control({ actions: [] }), { variable: 'speed' })).toMatchObject({ actions: [set] })
    expect(
      retarget(control({ actions: [{ do: 'event', event: 'a' }] }), { variable: 'speed' }),
    ).toMatchObject({ actions: [set] })
  })

  it('of an indicator is a variable; events tell it nothing', () => {
    expect(retarget(lamp(), { variable: 'speed' })).toEqual(lamp({ variable: 'speed' }))
    expect(retarget(lamp(), { event: 'horn.cancel' })).toEqual(lamp())
  })
})
