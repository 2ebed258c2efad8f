import { describe, expect, it } from 'vitest'
import { catalogue, control } from '../../../tests/rigs'
import type { PositionsAspect } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import type { VariableInfo } from './simulator-catalogue'
import { positionValues, suited, suitedAction, suitedStep } from './suited'

const info = (name: string, more: Partial<VariableInfo> = {}): VariableInfo => {
  const found = catalogue.variables.find((v) => v.name === name)
  if (!found) throw new Error(name)
  return { ...found, ...more }
}
const lever = partKind('wheel-lever')?.aspects[0] as PositionsAspect

describe('a binding that is given its variable', () => {
  it('has a value for each position of its switch, by the names of the choices', () => {
    const fresh = control({ value: null, actions: [{ do: 'set', variable: 'gear.lever' }] })
    expect(suited(fresh, info('gear.lever'), lever)).toMatchObject({
      value: 'match(input, "up", 0, "off", 1, "down", 2)',
    })
    const turned = info('gear.lever', { choices: ['down', 'off', 'up'] })
    expect(suited(fresh, turned, lever)).toMatchObject({
      value: 'match(input, "up", 2, "off", 1, "down", 0)',
    })
  })
  it('steps by what suits the range, and no further than it goes', () => {
    expect(suitedAction('step', info('height', { range: [0, 1], unit: 'ratio' }))).toMatchObject({
      by: 0.05,
      least: 0,
      most: 1,
    })
    expect(suitedAction('step', info('gear.lever'))).toMatchObject({ by: 1, least: 0, most: 2 })
    expect(suitedAction('step', info('height', { unit: 'deg', range: [0, 359] }))).toMatchObject({
      atEnd: 'wrap',
    })
  })
  it('goes as far as the new variable does when its step was made for another, by as much at once as it did', () => {
    const step = (by: number) =>
      control({
        when: 'turn',
        value: null,
        actions: [{ do: 'step', variable: 'speed', by, least: 0, most: 20_000, atEnd: 'stop' }],
      })
    const speed = info('speed', { range: [-3000, 3000] })
    expect(suited(step(100), speed, undefined)).toMatchObject({
      actions: [{ by: 100, least: -3000, most: 3000 }],
    })
    expect(suited(step(5000), speed, undefined)).toMatchObject({ actions: [{ by: 1, least: -3000 }] })
    // What lies within is as the builder wants it.
    const narrow = info('speed', { range: [-30_000, 30_000] })
    expect(suited(step(100), narrow, undefined)).toEqual(step(100))
  })
  it('turns a switch over with a button, and leaves a value alone that is there', () => {
    const press = control({ when: 'press', value: null, actions: [{ do: 'set', variable: 'pump.switch' }] })
    expect(suited(press, info('pump.switch'), undefined)).toMatchObject({ actions: [{ do: 'toggle' }] })
    const set = { ...press, value: 'true' }
    expect(suited(set, info('pump.switch'), undefined)).toEqual(set)
  })
})

describe('positions and choices', () => {
  const of = (...ids: string[]) => ids.map((id) => ({ id }))
  it('match by name, else in order, else not at all', () => {
    expect(positionValues(of('up', 'down'), ['Down', 'Up'])).toEqual([1, 0])
    expect(positionValues(of('1', '2', '3'), ['low', 'mid', 'high'])).toEqual([0, 1, 2])
    expect(positionValues(of('1', '2'), ['low', 'mid', 'high'])).toBeNull()
  })
})

describe('a step', () => {
  it('is a round number of about a twentieth of a narrow range', () => {
    expect(
      [
        [0, 1],
        [0, 10],
        [-1, 1],
        [0, 0.2],
        [0, 360],
      ].map((r) => suitedStep(r as [number, number])),
    ).toEqual([0.05, 0.5, 0.1, 0.01, 1])
  })
})
