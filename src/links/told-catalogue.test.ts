import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readerOfSimulator } from './simulator-link'
import { readCatalogue } from './told-catalogue'

describe('a catalogue', () => {
  it('needs nothing but names', () => {
    const { variables, events, odd } = readCatalogue([{ name: 'height' }], [{ name: 'horn' }])
    expect(variables[0]).toEqual({
      ...{
        name: 'height',
        type: 'number',
        unit: null,
        writable: false,
        range: null,
        description: '',
        group: '',
      },
    })
    expect(events[0]).toEqual({ name: 'horn', description: '', group: '', value: null })
    expect(odd).toEqual([])
  })
  it('keeps every place, whatever stands at some of them, and says what is odd', () => {
    const { variables, odd } = readCatalogue(
      [
        { name: 'a' },
        7,
        { name: 'b', type: 'colour' },
        { name: 'a' },
        { name: 'GEAR:LEFT 1', unit: 'feet' },
        { name: 'c', unit: 'furlong', range: [5, 1] },
      ],
      [],
    )
    expect(variables.map((v) => v.name)).toEqual(['a', 'variable 1', 'b', 'a #2', 'GEAR:LEFT 1', 'c'])
    expect(variables[4]?.unit).toBe('ft')
    expect(variables[5]).toMatchObject({ unit: 'furlong', range: null })
    const said = odd.join(' ')
    for (const word of ['variable 1', '“b” (type)', '“a”', '“GEAR:LEFT 1”', '“furlong”', '“c”'])
      expect(said).toContain(word)
  })
  it('is read whatever it is', () => {
    fc.assert(
      fc.property(fc.array(fc.anything(), { maxLength: 8 }), (list) => {
        const { variables } = readCatalogue(list, list)
        expect(variables).toHaveLength(list.length)
        expect(new Set(variables.map((v) => v.name)).size).toBe(list.length)
      }),
    )
  })
})

describe('a value beyond all numbers', () => {
  it('is no value', () => {
    expect(readerOfSimulator().push('{"say":"frame","t":1,"i":[0,1],"v":[1e999,5]}\n')).toEqual([
      { say: 'frame', t: 1, i: [0, 1], v: [null, 5] },
    ])
  })
})
