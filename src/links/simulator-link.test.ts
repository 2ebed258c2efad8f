import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type FromSimulator, line, readerOfClavik, readerOfSimulator } from './simulator-link'

const frame: FromSimulator = { say: 'frame', t: 1.5, i: [0, 3], v: [1, 'wheels — up'] }
const done: FromSimulator = { say: 'done', id: 4 }

describe('the simulator link', () => {
  it('finds whole messages however the text is split', () => {
    const text = line(frame) + line(done) + line(frame)
    fc.assert(
      fc.property(fc.array(fc.nat(text.length), { maxLength: 20 }), (cuts) => {
        const reader = readerOfSimulator()
        const at = [0, ...cuts.sort((a, b) => a - b), text.length]
        const got = at.slice(1).flatMap((end, i) => reader.push(text.slice(at[i], end)))
        expect(got).toEqual([frame, done, frame])
      }),
    )
  })

  it('drops and counts what it does not understand, says why, and goes on with the next line', () => {
    const reader = readerOfSimulator()
    expect(reader.push(`hello?\n{"say":"frame","t":"x"}\n{"say":"sing"}\n${line(done)}`)).toEqual([done])
    expect(reader.bad).toBe(3)
    expect(reader.problem).toContain('say')
  })

  it.each([
    '{"say":"frame","t":1,"i":[0,1],"v":[5]}',
    '{"say":"frame","t":1,"i":[-1],"v":[5]}',
    '{"say":"frame","t":1,"i":[0.5],"v":[5]}',
    '{"say":"frame","t":1,"i":[0],"v":[{"x":1}]}',
    '{"say":"frame","t":"1","i":[],"v":[]}',
  ])('refuses the frame %s', (text) => {
    const reader = readerOfSimulator()
    expect(reader.push(`${text}\n`)).toEqual([])
    expect(reader.bad).toBe(1)
  })

  it('never crashes on noise', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (noise) => {
        expect(
          readerOfSimulator()
            .push(`${noise}\n${line(done)}`)
            .at(-1),
        ).toEqual(done)
      }),
    )
  })

  it('gives up on a line without end, and hears the one after it', () => {
    const reader = readerOfSimulator()
    const mega = 'x'.repeat(1024 * 1024)
    for (let i = 0; i < 18; i++) expect(reader.push(mega)).toEqual([])
    expect(reader.bad).toBe(1)
    expect(reader.push(`\n${line(done)}`)).toEqual([done])
  })
})

describe('a line', () => {
  const reader = () => readerOfClavik()
  const set = line({ say: 'set', id: 1, i: 0, v: 1 })

  it('is given up after ten megabytes of brackets without reading them as JSON, and what follows is heard', () => {
    const r = reader()
    for (let i = 0; i < 10; i++) r.push('['.repeat(1_000_000))
    expect(r.push(`\n${set}`)).toHaveLength(1)
    expect(r.bad).toBe(1)
    expect(r.problem).toContain('nested')
  })

  it('of an HTTP request ends everything: what a page has hidden behind it is not obeyed', () => {
    for (const method of ['GET', 'POST', 'OPTIONS']) {
      const r = reader()
      expect(r.push(`${method} /x?y HTTP/1.1\r\nHost: a\r\n\r\n${set}`)).toEqual([])
      expect(r.foreign).toBe(true)
      expect(r.push(set)).toEqual([])
    }
    const honest = reader()
    expect(honest.push(`${set}${set}`)).toHaveLength(2)
    expect(honest.foreign).toBe(false)
  })
})
