import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { demoRig } from '../../../tests/rigs'
import { partKind } from '../catalogue/parts'
import { harnessFindings } from '../harness/findings/findings'
import { openEnds, progressOf } from '../harness/open-ends'
import { isWired, wiringsOf } from '../harness/wiring'
import { apply, changeRow } from './edit'
import { emptyRig, type Rig, rowsOf } from './rig'
import { readRigFile } from './rig-file'
import { writeRigFile } from './write-rig-file'

describe('a rig file', () => {
  it.each([
    ['{', 'not a rig file'],
    ['{"clavik":"panel"}', 'not a rig file: clavik'],
    ['{"clavik":"rig","format":9,"rows":{}}', 'format 9; this Clavik reads up to 2'],
    [
      '{"clavik":"rig","format":1,"rows":{"board":[{"id":"b","name":"","model":"x","identity":null,"position":1}]}}',
      'a name is needed',
    ],
    ['{"clavik":"rig","format":1,"rows":{"wire":[]}}', 'not a rig file'],
  ])('%s is refused: %s', (text, words) => {
    const read = readRigFile(text)
    expect('problem' in read && read.problem).toContain(words)
  })

  it('with a binding from a newer Clavik is refused, naming the row and the place', () => {
    const text = readFileSync(new URL('../../../demo/skerry-12.rig.json', import.meta.url), 'utf8')
    const read = readRigFile(
      text.replace(/"settings":\{([^{}]*)"kind":"lamp"/, '"settings":{$1"kind":"hologram"'),
    )
    expect('problem' in read && read.problem).toContain('settings')
  })
})

describe('the demo rig', () => {
  const rig = demoRig()
  it('uses only parts of the catalogue, all of them wired', () => {
    for (const part of rowsOf(rig, 'part')) {
      expect(partKind(part.kind), part.kind).toBeDefined()
      for (const { wiring, aspect } of wiringsOf(rig, part))
        expect(isWired(wiring), `${part.name} ${aspect.id}`).toBe(true)
    }
  })

  it('leaves one open end for the builder: the horn button', () => {
    expect(openEnds(rig)).toEqual([{ partId: 'horn-off', station: 'simulator', what: 'nothing bound yet' }])
    expect(progressOf(rig, rowsOf(rig, 'part'))).toEqual({ parts: 143, wired: 143, bound: 142 })
  })

  it('has nothing in its wiring that will not work', () => {
    expect(harnessFindings(rig).map((f) => f.words)).toEqual([])
  })
})

describe('a rig that is written as a file', () => {
  const text = readFileSync(new URL('../../../demo/skerry-12.rig.json', import.meta.url), 'utf8')
  const again = (written: string): Rig => {
    const read = readRigFile(written)
    if ('problem' in read) throw new Error(read.problem)
    return apply(emptyRig(), read.diff)
  }

  it('comes back as it was, and is written the same again; the demo is such a file', () => {
    const rig = demoRig()
    expect(writeRigFile(rig)).toBe(text)
    expect(again(writeRigFile(rig))).toEqual(rig)
  })

  it('is the same whatever the order of rows and fields in memory', () => {
    const rig = demoRig()
    const turned = Object.fromEntries(
      Object.entries(rig).map(([table, rows]) => [
        table,
        Object.fromEntries(
          Object.entries(rows as Record<string, object>)
            .reverse()
            .map(([id, row]) => [id, Object.fromEntries(Object.entries(row).reverse())]),
        ),
      ]),
    ) as unknown as Rig
    expect(writeRigFile(turned)).toBe(text)
  })

  it('differs by one line where one row does', () => {
    const rig = demoRig()
    const part = rig.part['wheel-lever']
    if (!part) throw new Error('no lever')
    const change = changeRow('part', part, { ...part, xMm: part.xMm + 1 })
    const [before, after] = [rig, apply(rig, change ? [change] : [])].map((r) => writeRigFile(r).split('\n'))
    expect(after).toHaveLength(before?.length ?? 0)
    expect(after?.filter((l, i) => l !== before?.[i])).toHaveLength(1)
  })

  it.each(['first', 'five-panels'])('of an earlier day is still read: %s', (name) => {
    const old = readFileSync(new URL(`../../../tests/rigs-of-old/${name}.rig.json`, import.meta.url), 'utf8')
    const rig = again(old)
    expect(rowsOf(rig, 'part').length).toBeGreaterThan(10)
    expect(again(writeRigFile(rig))).toEqual(rig)
  })

  it('is refused with a sentence when it is cut off, far too large, or has rows that point nowhere', () => {
    const problem = (t: string) => {
      const read = readRigFile(t)
      return 'problem' in read ? read.problem : null
    }
    expect(problem(text.slice(0, text.length / 2))).toContain('cut off')
    expect(problem(' '.repeat(20_000_001))).toContain('larger than 20 MB')
    expect(problem('['.repeat(1000))).toContain('nested')
    const lost = text.replace('"panelId":"engines"', '"panelId":"nowhere"')
    expect(lost).not.toBe(text)
    expect(problem(lost)).toContain('belongs to the panel “nowhere” (panelId), which is not there')
    const twice = text.replace('"id":"engines"', '"id":"radio-stack"')
    expect(twice).not.toBe(text)
    expect(problem(twice)).toContain('“radio-stack” is there twice')
  })
})
