import { describe, expect, it } from 'vitest'
import { makeCraft } from '../../standins/craft/craft'
import { type FoundName, searchSimulator } from './search-variables'

const { variables, events } = makeCraft(1).world
const all: FoundName[] = [
  ...variables.map((v): FoundName => ({ is: 'variable', info: v.info })),
  ...events.map((e): FoundName => ({ is: 'event', info: e.info })),
]
const names = (search: string) => searchSimulator(all, search).map((f) => f.info.name)

describe('searching the simulator', () => {
  it('gives everything, in its own order, for nothing', () => {
    expect(names('  ')).toEqual(all.map((f) => f.info.name))
  })
  it('finds by any part of the name, names that begin so first', () => {
    const found = names('gear.main')
    expect(found[0]).toBe('gear.main.left.position')
    expect(found.every((n) => n.includes('gear.main'))).toBe(true)
  })
  it('finds by words of the description, in any order and any case', () => {
    expect(names('Wheel TRAVEL right main')).toEqual(['gear.main.right.position'])
    expect(names('horn cancel')).toContain('gear.horn.cancel')
  })
  it('finds by unit and by group', () => {
    expect(names('V bus main')).toContain('elec.bus.main.volts')
    expect(names('Undescribed').length).toBeGreaterThan(20)
  })
  it('finds nothing where nothing fits', () => {
    expect(names('zebra')).toEqual([])
  })
  it('takes signs as signs, not as patterns', () => {
    expect(names('.*')).toEqual([])
    expect(names('(')).toEqual([])
  })
  it('finds each of many alike', () => {
    const many = Array.from({ length: 100 }, () => all).flat()
    expect(searchSimulator(many, 'wheel main').length).toBe(names('wheel main').length * 100)
  })
})
