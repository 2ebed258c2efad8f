import { describe, expect, it } from 'vitest'
import { rawLine, typedHex, typedText } from './raw-text'

describe('bytes that are typed', () => {
  it.each([
    ['02 01 00', '020100'],
    ['0x02, 0x1F,0xa', '021f0a'],
    ['0201ff', '0201ff'],
    [' 7 ', '07'],
  ])('%s', (text, hex) => expect(typedHex(text)).toEqual({ hex }))

  it.each([
    ['02 zz', '“zz” is no byte'],
    ['02f', '“02f” has half a byte'],
    ['  ', 'there is nothing to send'],
  ])('%s is objected to', (text, problem) => {
    const read = typedHex(text)
    expect('problem' in read && read.problem).toContain(problem)
  })
})

describe('text that is typed', () => {
  it.each([
    ['A\\r\\n', '410d0a'],
    ['\\x41\\0\\t\\\\', '4100095c'],
    ['é→', 'c3a9e28692'],
    ['😀', 'f09f9880'],
  ])('%s', (text, hex) => expect(typedText(text)).toEqual({ hex }))

  it.each([['\\q'], ['\\x4'], ['end\\']])('%s is objected to', (text) => {
    expect(typedText(text)).toHaveProperty('problem')
  })
})

it('a line of a raw view tells time, way, whether it was sound, words and bytes', () => {
  const text = rawLine({
    t: new Date(2026, 1, 3, 4, 5, 6, 78).getTime(),
    d: 'in',
    raw: '02 00',
    words: 'no sound frame',
    sound: false,
  })
  expect(text).toBe('04:05:06.078\t<\t!\tno sound frame\t02 00')
})
