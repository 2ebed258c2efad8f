import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { demoRig } from '../../../tests/rigs'
import { partKind } from '../catalogue/parts'
import { harnessFindings } from '../harness/findings/findings'
import { openEnds, progressOf } from '../harness/open-ends'
import { isWired, wiringsOf } from '../harness/wiring'
import { rowsOf } from './rig'
import { readRigFile } from './rig-file'

describe('a rig file', () => {
  it.each([
    ['{', 'not a rig file'],
    ['{"clavik":"panel"}', 'not a rig file: clavik'],
    ['{"clavik":"rig","format":9,"rows":{}}', 'format 9; this Clavik reads up to 1'],
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
      text.replace(/"kind": ?"lamp",(\s*)"variable"/, '"kind":"hologram",$1"variable"'),
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
