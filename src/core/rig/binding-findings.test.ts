import { describe, expect, it } from 'vitest'
import { catalogue, control, demoRig, lamp, smallRig } from '../../../tests/rigs'
import { bindingFindings, byLikeness, layersForPositions } from './binding-findings'
import { type Rig, rowsOf } from './rig'
import { indexCatalogue } from './simulator-catalogue'

const index = indexCatalogue(catalogue)
const found = (rig: Rig) => bindingFindings(rig, index).map((f) => `${f.kind}: ${f.words}`)

describe('slips of copying', () => {
  it('are two parts that set one variable to where they stand', () => {
    const rig = smallRig({ lever: control(), toggle: control({ value: 'input == "up" ? 1 : 0' }) })
    expect(found(rig)).toEqual([
      expect.stringContaining('two on one: “Lever” and “Toggle” each set gear.lever'),
    ])
    const apart = smallRig({ lever: control(), toggle: control({ onlyWhile: 'speed > 5' }) })
    expect(found(apart).filter((f) => f.startsWith('two'))).toEqual([])
  })
  it('are two indicators of a panel that show just the same', () => {
    expect(found(smallRig({ lamp: lamp(), lamp2: lamp() }))).toEqual([
      expect.stringContaining('twin: “Lamp” and “Second lamp”'),
    ])
    expect(found(smallRig({ lamp: lamp(), lamp2: lamp({ show: 'input < 1' }) }))).toEqual([])
  })
})

describe('slips of the hand', () => {
  it('are positions without an action, and ones that are not there', () => {
    const value = 'match(input, "up", 0, "dwn", 2)'
    expect(found(smallRig({ lever: control({ value }) }))).toEqual([
      expect.stringContaining('does nothing in “off”, “down”'),
      expect.stringContaining('has no position “dwn”'),
    ])
    expect(found(smallRig({ lever: control({ value: 'match(input, "up", 0, 1)' }) }))).toEqual([])
    expect(found(smallRig({ lever: control() }))).toEqual([])
  })
  it('are values outside what a variable takes', () => {
    const value = 'match(input, "up", 0, "off", 1, "down", 7)'
    expect(found(smallRig({ lever: control({ value }) }))).toEqual([
      'value: “Lever” gives gear.lever 7, which takes 0 to 2.',
    ])
  })
  it('are not in the demo rig', () => {
    expect(found(demoRig())).toEqual([])
  })
})

describe('what a binding is copied to', () => {
  it('is first what is like it and has none, on the same panel', () => {
    const rig = smallRig({ button: control({ when: 'press' }), lamp: null, button2: null, lamp2: lamp() })
    const first = rig.part.lamp
    if (!first) throw new Error('no lamp')
    expect(byLikeness(rig, first, rowsOf(rig, 'part')).map((p) => p.id)[0]).toBe('lamp2')
  })
})

describe('layers for the positions of a selector', () => {
  const rig = smallRig({ rotary: null }, { layers: { Radio: { layers: ['COM', 'NAV', 'ADF'] } } })
  it('are those of the same name, else in order', () => {
    const named = [
      { id: '1', label: 'nav' },
      { id: '2', label: 'com' },
      { id: '3', label: 'test' },
    ]
    expect(layersForPositions(rig, 'Radio', named)).toEqual(['NAV', 'COM', null])
    const plain = ['1', '2', '3', '4'].map((id) => ({ id, label: id }))
    expect(layersForPositions(rig, 'Radio', plain)).toEqual(['COM', 'NAV', 'ADF', null])
  })
})
