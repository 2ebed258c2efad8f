import { expect, it } from 'vitest'
import { makeCraft } from '../../standins/craft/craft'
import { torskLayout } from '../connections/torsk-layout'
import { LayoutReader } from '../datagrams/read-datagram'
import { likelyEvents, likelyNames } from './likely-names'
import type { VariableInfo } from './simulator-catalogue'

const skerry = makeCraft(12).world.variables.map((v) => v.info)
const torsk = new LayoutReader(torskLayout).variables
const of = (name: string): VariableInfo => {
  const found = skerry.find((v) => v.name === name)
  if (!found) throw new Error(`the craft has no ${name}`)
  return found
}

it.each([
  ['engine.left.oil.pressure', 'oil.pressure'],
  ['engine.left.oil.temperature', 'oil.temperature'],
  ['engine.left.fuel.flow', 'fuel.flow'],
  ['speed.ground', 'speed'],
  ['elec.battery.volts', 'battery'],
])('%s is proposed to be %s', (from, to) => {
  expect(likelyNames(of(from), torsk)[0]?.name).toBe(to)
})

it('nothing is proposed where nothing is like it, or where the unit speaks against it', () => {
  expect(
    likelyNames(
      of('gear.lever'),
      torsk.filter((v) => v.name !== 'gear'),
    ),
  ).toEqual([])
  const text: VariableInfo = { ...of('speed.ground'), name: 'speed', type: 'text', unit: null }
  expect(
    likelyNames(
      text,
      torsk.filter((v) => v.type === 'number'),
    ),
  ).toEqual([])
  const wrong: VariableInfo = { ...of('speed.ground'), unit: '°C' }
  expect(likelyNames(wrong, torsk).every((l) => l.name !== 'speed' || l.likeness < 0.6)).toBe(true)
})

it('what a craft has itself is likeliest to be itself', () => {
  const named = skerry.filter((v) => v.description !== '' && v.name.includes('.'))
  const right = named.filter((v) => likelyNames(v, skerry)[0]?.name === v.name)
  expect(right.length / named.length).toBeGreaterThan(0.95)
})

it('events go by their names and words', () => {
  const event = (name: string, description: string) => ({ name, description, group: '', value: null })
  expect(
    likelyEvents(event('lights.landing.toggle', 'Toggles the landing light'), [
      event('landing.lights', 'Landing light on or off'),
      event('horn', 'Sounds the horn'),
    ])[0]?.name,
  ).toBe('landing.lights')
})
