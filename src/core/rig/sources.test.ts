import { describe, expect, it } from 'vitest'
import { catalogue } from '../../../tests/rigs'
import type { SimulatorCatalogue } from './simulator-catalogue'
import { joined, MOST_SOURCES, type Source, sourceAt } from './sources'

const info = { type: 'number', unit: null, writable: true, range: null, description: '', group: '' } as const
const tells = (
  craft: string,
  names: readonly string[],
  events: readonly string[] = [],
): SimulatorCatalogue => ({
  craft,
  variables: names.map((name) => ({ ...info, name })),
  events: events.map((name) => ({ name, description: '', group: '', value: null })),
})
const source = (id: string, told: SimulatorCatalogue | null, more: Partial<Source> = {}): Source => ({
  id,
  name: id.toUpperCase(),
  on: true,
  prefix: '',
  catalogue: told,
  ...more,
})
const names = (sources: readonly Source[]) => joined(sources).catalogue.variables.map((v) => v.name)

describe('the names of several sources', () => {
  it('lie side by side, each source where its own begin', () => {
    const all = joined([
      source('a', tells('A', ['x', 'y'], ['go'])),
      source('b', tells('B', ['z'], ['stop', 'halt'])),
    ])
    expect(all.catalogue.variables.map((v) => v.name)).toEqual(['x', 'y', 'z'])
    expect(all.places.map((p) => [p.variables, p.events])).toEqual([
      [
        [0, 2],
        [0, 1],
      ],
      [
        [2, 3],
        [1, 3],
      ],
    ])
    expect(all.catalogue.craft).toBe('A, B')
    expect([0, 1, 2, 3].map((i) => sourceAt(all.places, 'variables', i))).toEqual([0, 0, 1, -1])
  })

  it('are told apart where two sources have the same, by the name of the later one', () => {
    const both = [source('a', tells('A', ['x'])), source('b', tells('B', ['x', 'w']))]
    expect(names(both)).toEqual(['x', 'B: x', 'w'])
    expect(joined(both).renamed).toEqual({ b: ['B: x'] })
    expect(names([...both, source('c', tells('C', ['B: x']))])).toEqual(['x', 'B: x', 'w', 'C: B: x'])
  })

  it('begin with what the builder says', () => {
    expect(
      names([source('a', tells('A', ['x'])), source('b', tells('B', ['x']), { prefix: 'tele.' })]),
    ).toEqual(['x', 'tele.x'])
  })

  it('of one that has never been there are none, and push nothing aside', () => {
    const all = joined([source('a', null), source('b', catalogue)])
    expect(all.places[0]?.variables).toEqual([0, 0])
    expect(all.catalogue.variables).toEqual(catalogue.variables)
  })

  it('of more sources than can be kept apart are left out', () => {
    const many = Array.from({ length: MOST_SOURCES + 3 }, (_, i) => source(`s${i}`, tells('S', [`v${i}`])))
    expect(joined(many).places).toHaveLength(MOST_SOURCES)
  })
})
