import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { apply, invalidRows } from '../rig/edit'
import { elementsOf, emptyRig, screensOf } from '../rig/rig'
import { readRigFile } from '../rig/rig-file'
import { contentOf, MOST_ELEMENTS, pageShown, type ScreenContent, screenNamed } from './content'
import { readScreenFile, writeScreenFile } from './screen-file'

const read = readRigFile(readFileSync(new URL('../../../demo/skerry-12.rig.json', import.meta.url), 'utf8'))
if ('problem' in read) throw new Error(read.problem)
const rig = apply(emptyRig(), read.diff)
const content = contentOf(rig, 'fuel-page') as ScreenContent
const text = writeScreenFile(content)
const ids = () => {
  let n = 0
  return () => `new-${n++}`
}

describe('a screen as a file', () => {
  it('is one readable file, a line a row, always the same', () => {
    expect(text).toBe(writeScreenFile(content))
    expect(text.split('\n').filter((l) => l.startsWith('{"id"'))).toHaveLength(2 + content.elements.length)
    expect(JSON.parse(text).clavik).toBe('screen')
  })

  it('comes in beside the one it was made of, under a free name and ids of its own, and is the same again', () => {
    const came = readScreenFile(text, rig, ids())
    if ('problem' in came) throw new Error(came.problem)
    const after = apply(rig, came.diff)
    expect(invalidRows(after, came.diff)).toEqual([])
    expect(screensOf(after).map((s) => s.name)).toEqual(['Fuel page', 'Fuel page 2'])
    const made = elementsOf(after, came.screenId)
    expect(made.map((e) => [e.name, e.x, e.y, e.settings])).toEqual(
      content.elements.map((e) => [e.name, e.x, e.y, e.settings]),
    )
    // Pages go along, each with what lies on it.
    const pageName = (id: string | null) => (id === null ? null : after.page[id]?.name)
    expect(made.map((e) => pageName(e.pageId))).toEqual(content.elements.map((e) => pageName(e.pageId)))
  })

  const changed = (change: (file: { elements: { settings: object }[] }) => void): string => {
    const file = JSON.parse(text)
    change(file)
    return JSON.stringify(file)
  }
  it.each<[string, string, RegExp]>([
    ['nothing', '', /not a screen file/],
    ['cut off', text.slice(0, 900), /cut off/],
    ['a rig', '{"clavik":"rig","format":2,"rows":{}}', /clavik/],
    ['of a newer Clavik', changed((f) => Object.assign(f, { format: 9 })), /format 9/],
    ['without a page', changed((f) => Object.assign(f, { pages: [] })), /pages/],
    [
      'with an element of an unknown kind',
      changed((f) => Object.assign(f.elements[3]?.settings ?? {}, { kind: 'oracle' })),
      /elements 3 settings/,
    ],
    [
      'with an element on no page',
      changed((f) => Object.assign(f.elements[0] ?? {}, { pageId: 'gone' })),
      /“Title” lies on a page that is not there/,
    ],
    ['with one thing twice', changed((f) => f.elements.push(...f.elements.slice(0, 1))), /there twice/],
    [
      'with a picture that runs something',
      changed((f) =>
        Object.assign(f, {
          pictures: [
            {
              ...{ id: 'p', screenId: 'x', name: 'p' },
              settings: { as: 'svg', width: 1, height: 1, data: '<svg width="1" height="1"><script/></svg>' },
            },
          ],
        }),
      ),
      /it holds a script/,
    ],
    [
      'with ten thousand elements',
      changed((f) => Object.assign(f, { elements: Array(10_000).fill(f.elements[0]) })),
      /10000 elements; up to 2000/,
    ],
  ])('%s is refused with a sentence, and nothing of it is taken', (_, bad, words) => {
    const came = readScreenFile(bad, rig, ids())
    expect('problem' in came && came.problem).toMatch(words)
    expect('problem' in came && came.problem).toMatch(/Nothing was changed\.$/)
  })
})

describe('what a device is given', () => {
  it('is the same again while nothing of its screen has changed', () => {
    expect(contentOf(rig, 'fuel-page')).toBe(content)
    expect(contentOf(rig, 'nowhere')).toBeNull()
    expect(screenNamed(rig, ' fuel PAGE ')?.id).toBe('fuel-page')
    expect(screenNamed(rig, 'nowhere')).toBeNull()
  })

  it('shows the page that is named, the first while nobody knows, and says where there is none of that name', () => {
    expect(pageShown(content, 'HULL').page?.name).toBe('HULL')
    expect(pageShown(content, null).page?.name).toBe('FUEL')
    expect(pageShown(content, undefined).problem).toBeNull()
    expect(pageShown(content, 'CELLAR')).toEqual({
      page: content.pages[0],
      problem: 'There is no page “CELLAR”.',
    })
    const fixed = {
      ...content,
      screen: { ...content.screen, settings: { ...content.screen.settings, pageBy: null } },
    }
    expect(pageShown(fixed, 'HULL').page?.name).toBe('FUEL')
  })

  it('of ten thousand elements draws as many as a device can, and says so', () => {
    const one = content.elements[0]
    if (!one) throw new Error('the demo has no element')
    const element = Object.fromEntries(
      Array.from({ length: 10_000 }, (_, i) => [`e${i}`, { ...one, id: `e${i}`, position: i }]),
    )
    const many = contentOf({ ...rig, element }, 'fuel-page') as ScreenContent
    expect(many.elements).toHaveLength(MOST_ELEMENTS)
    expect(pageShown(many, null).problem).toBe('8000 elements more than 2000 are not drawn.')
  })
})
