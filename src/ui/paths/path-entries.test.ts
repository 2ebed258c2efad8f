import { describe, expect, it } from 'vitest'
import { control, demoRig, lamp, smallRig } from '../../../tests/rigs'
import { pathEntries, searchPaths } from './path-entries'

describe('the table of paths', () => {
  const everything = pathEntries(demoRig())
  const all = everything.filter((e) => e.panel.id !== 'overhead')

  it('has one line for each binding, and one for each aspect without', () => {
    expect(all).toHaveLength(80)
    expect(everything).toHaveLength(171)
    expect(all.filter((e) => e.binding === null).map((e) => e.part.name)).toEqual([
      'Horn off',
      'Trim switch right',
    ])
    const two = pathEntries(smallRig({ lamp: [lamp(), lamp({ show: 'on' })], lever: control() }))
    expect(two.map((e) => e.key).sort()).toEqual(['lamp-1', 'lamp-2', 'lever-1'])
    const knob = pathEntries(smallRig({ knob: control({ when: 'turn', aspect: 'inner', value: null }) }))
    expect(knob.map((e) => e.aspect)).toEqual(['inner', 'outer', 'push'])
  })

  it.each([
    [['bilge'], ['Bilge lamp left', 'Bilge lamp right', 'Bilge pump left', 'Bilge pump right']],
    [
      ['bilge', 'lamp'],
      ['Bilge lamp left', 'Bilge lamp right'],
    ],
    [['port', 'd31'], ['Main right']],
    [['beacon digit'], ['Radio display', ...Array(5).fill('Radio knob')]],
    [['gear.lever'], ['Wheel lever']],
    [['nothing bound'], ['Horn off', 'Trim switch right']],
    [
      ['volts', 'bow'],
      ['Bow left', 'Bow right'],
    ],
    [['zebra'], []],
  ])('finds %j', (words, names) => {
    expect(
      searchPaths(all, words)
        .map((e) => e.part.name)
        .sort(),
    ).toEqual(names)
  })
})
