import { describe, expect, it } from 'vitest'
import { depthOfJson, isReservedName, objectionTo, parseOutside } from './plain-json'
import { apply } from './rig/edit'
import { diffSchema, editObjection } from './rig/edit-schema'
import { emptyRig } from './rig/rig'

describe('JSON from outside', () => {
  it.each([
    ['', 0],
    ['{"a":[1,{"b":[]}]}', 4],
    ['"[[[["', 0],
    ['["\\"[["]', 1],
    ['['.repeat(100_000), 65],
  ])('is measured before it is read: %.20s', (text, depth) => {
    expect(depthOfJson(text)).toBe(depth)
  })

  it('is refused with a sentence when it is too deep or broken', () => {
    expect(parseOutside(`${'['.repeat(65)}${']'.repeat(65)}`)).toEqual({
      problem: 'it is nested more than 64 deep',
    })
    expect(parseOutside(`${'['.repeat(64)}${']'.repeat(64)}`)).toHaveProperty('value')
    expect(parseOutside('{"a":')).toEqual({ problem: 'it is no JSON' })
  })
})

describe('what cannot be kept', () => {
  it.each<[unknown, string | null]>([
    ['plain', null],
    ['a pair \u{1f6e9}', null],
    ['half \ud83d', 'character'],
    ['\udc00 the other half', 'character'],
    ['a\0', 'character'],
    [{ a: [{ b: Number.POSITIVE_INFINITY }] }, 'a[0].b is no number'],
    [JSON.parse('{"__proto__":1}'), 'a field that cannot be'],
    [{ a: { constructor: 1 } }, 'a field that cannot be'],
  ])('%j', (value, objection) => {
    if (objection === null) expect(objectionTo(value)).toBeNull()
    else expect(objectionTo(value)).toContain(objection)
  })

  it('is found in an edit, whatever it changes', () => {
    const change = (more: object) => ({
      ...{ op: 'change', table: 'part', id: 'a', before: { name: 'a' }, after: { name: 'b' } },
      ...more,
    })
    const problem = (c: object) => diffSchema.safeParse([c]).error?.issues[0]?.message ?? null
    expect(problem(change({}))).toBeNull()
    expect(problem(change({ after: {}, before: {} }))).toContain('changes nothing')
    expect(problem(change({ after: { nmae: 'b' }, before: {} }))).toContain('no field “nmae”')
    expect(problem(change({ id: 'constructor' }))).toContain('no id')
    expect(problem(change({ after: { id: 'b' }, before: { id: 'a' } }))).toContain('cannot be changed')
    expect(problem(change({ before: { kind: 'x' } }))).toContain('other fields')
    expect(problem({ op: 'add', table: 'rig', id: 'b', row: { id: 'b', name: 'B', format: 1 } })).toContain(
      'never adds or removes a rig',
    )
    expect(editObjection('A\0', [])).toContain('a character that is none')
  })
})

it('finds nothing in a rig by a name that every object has', () => {
  for (const name of ['constructor', '__proto__', 'toString', 'hasOwnProperty']) {
    expect(isReservedName(name)).toBe(true)
    expect(emptyRig().panel[name]).toBeUndefined()
    const row = { id: 'a', name: 'a' }
    expect(apply(emptyRig(), [{ op: 'add', table: 'panel', id: 'a', row }]).panel[name]).toBeUndefined()
  }
})
