import { expect, it } from 'vitest'
import { torskLayout } from '../connections/torsk-layout'
import { readLayoutFile, writeLayoutFile } from './layout-file'
import { layoutFindings } from './layout-findings'

it('a layout comes back from its file as it was, a line a field in the order of their bytes', () => {
  const text = writeLayoutFile(torskLayout)
  expect(readLayoutFile(text)).toEqual({ layout: torskLayout })
  expect(text).toContain('   {"name":"speed","at":12,"as":"f32","description":"Speed over the ground",')
  expect(layoutFindings(torskLayout)).toEqual([])
})

it.each([
  ['no JSON', '{"clavik":', 'This is not a layout of datagrams: '],
  ['another file', '{"clavik":"rig"}', 'This is a rig file, not a layout of datagrams.'],
  ['nothing', '[]', 'This is not a layout of datagrams.'],
  [
    'newer',
    '{"clavik":"datagram layout","format":9}',
    'This layout has format 9; this Clavik reads up to 1.',
  ],
  [
    'a field that will not do',
    '{"clavik":"datagram layout","format":1,"craft":"","order":"little","packets":[{"name":"P","bytes":9,"fields":[{"name":"9x","at":0,"as":"u8"}]}]}',
    'The layout in this file is not valid: “P” “9x” name: a name begins with a letter',
  ],
  [
    'a packet without a size',
    '{"clavik":"datagram layout","format":1,"craft":"","order":"little","packets":[{"name":"P","bytes":0,"fields":[]}]}',
    'The layout in this file is not valid: “P” bytes: it has at least one byte.',
  ],
])('%s is refused with a sentence', (_, text, sentence) => {
  const read = readLayoutFile(text)
  expect('problem' in read && read.problem).toContain(sentence)
})
