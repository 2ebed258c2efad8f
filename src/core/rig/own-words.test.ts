import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalogue } from '../../../tests/rigs'
import { type OwnWord, withWords } from './own-words'
import { readWordsFile, writeWordsFile } from './words-file'

const word = (name: string, more: Partial<OwnWord> = {}): OwnWord => ({
  name,
  called: '',
  unit: null,
  description: '',
  ...more,
})

describe('what the builder says of names', () => {
  it('is said with them, and their places stay what they are', () => {
    const words = [
      word('height', { called: 'Above the ground', unit: 'metre' }),
      word('horn.cancel', { description: 'Stops the horn' }),
      word('ice.boots', { description: 'Pressure of the boots', unit: 'psi' }),
    ]
    const with_ = withWords(catalogue, words)
    expect(with_.variables.slice(0, catalogue.variables.length).map((v) => v.name)).toEqual(
      catalogue.variables.map((v) => v.name),
    )
    expect(with_.variables.find((v) => v.name === 'height')).toMatchObject({
      called: 'Above the ground',
      unit: 'm',
    })
    expect(with_.events[0]?.description).toBe('Stops the horn')
    // What the craft does not tell is known, and cannot be written.
    expect(with_.variables.at(-1)).toMatchObject({ name: 'ice.boots', unit: 'psi', writable: false })
    // What is not said stays as it is told.
    expect(with_.variables.find((v) => v.name === 'speed')?.unit).toBe('kt')
  })

  it('is the same for the same words, so that nothing is compiled anew', () => {
    const words = [word('height', { called: 'H' })]
    expect(withWords(catalogue, words)).toBe(withWords(catalogue, words))
    expect(withWords(catalogue, [])).toBe(catalogue)
    expect(withWords(catalogue, undefined)).toBe(catalogue)
  })
})

const read = (text: string) => {
  const result = readWordsFile(text)
  if ('problem' in result) throw new Error(result.problem)
  return result
}

describe('a file of words', () => {
  it('is read as it was written', () => {
    const text = fc.string({ maxLength: 20, unit: 'binary' }).map((s) => s.trim())
    const some = fc.uniqueArray(
      fc.record({
        name: fc.string({ minLength: 1, maxLength: 20 }).map((s) => `n${s.trim()}`),
        called: text.map((s) => `c${s}`),
        unit: fc.constantFrom(null, 'ft', 'wibble'),
        description: text,
      }),
      { selector: (w) => w.name, minLength: 1, maxLength: 12 },
    )
    fc.assert(
      fc.property(some, (words) => {
        expect(read(writeWordsFile(words)).words).toEqual(words)
      }),
    )
  })

  it('of another program is taken: CSV or JSON, its columns by what they are named', () => {
    const both = [word('a.b', { unit: 'ft', description: 'Height' })]
    expect(read('Variable;Units;Comment\r\na.b;ft;Height\r\n').words).toEqual(both)
    expect(read('[{"name":"a.b","unit":"ft","description":"Height","other":[1]}]').words).toEqual(both)
    expect(read('{"craft":"X","variables":[{"name":"a.b","unit":"ft","note":"Height"}]}').words).toEqual(both)
  })

  it('says what is left out of it, and where, and keeps the rest', () => {
    const { words, odd } = read('name,called,unit\na,A,ft\n,B,ft\nc,,\nd,D,wibble\na,Again,\n')
    expect(words.map((w) => w.called)).toEqual(['Again', 'D'])
    expect(odd).toEqual([
      'No name that can be taken stands in line 3; left out.',
      'Nothing is said of the name in line 4; left out.',
      'The unit “wibble” in line 5 is not known, so that nothing is converted; it is kept as it is.',
      'A name stands again in line 6; the last one counts.',
    ])
  })

  it.each([
    ['', 'There is nothing in the file.'],
    ['bolts,nuts\n1,2', 'Its first line has no column “name”: there are “bolts”, “nuts”.'],
    [
      'name,called\n,x\n',
      'It has no name of which it says anything. No name that can be taken stands in line 2; left out.',
    ],
    ['{"a":1}', 'It has no list of names in it.'],
    ['[1,', 'It is not understood'],
  ])('that is none is refused: %j', (text, words) => {
    const result = readWordsFile(text)
    expect('problem' in result ? result.problem : 'read').toContain(words)
  })
})
