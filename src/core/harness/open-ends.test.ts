import { describe, expect, it } from 'vitest'
import { control, lamp, smallRig } from '../../../tests/rigs'
import { addRow, apply, changeRow, removeRow } from '../rig/edit'
import { leadsOf, type Rig, rowsOf } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import { plainLead } from './leads'
import { openEnds, progressOf } from './open-ends'

const saidOf = (rig: Rig, partId: string) =>
  openEnds(rig).flatMap((e) => (e.partId === partId ? [`${e.station}: ${e.what}`] : []))

/** Takes the lead of a part's terminal away. */
const without = (rig: Rig, partId: string, terminal: string): Rig => {
  const lead = leadsOf(rig, partId).find((l) => l.terminal === terminal)
  return lead ? apply(rig, [removeRow('lead', lead)]) : rig
}

const drawn = (id: string, kind = 'button-10-red'): PartRow => ({
  ...{ id, panelId: 'panel', name: id, kind, xMm: 0, yMm: 0, rotationDeg: 0, settings: {} },
})

describe('open ends', () => {
  it('are none where everything is wired and bound', () => {
    const rig = smallRig({ lamp: lamp() })
    const whole = apply(rig, [
      addRow('lead', {
        ...plainLead,
        ...{ id: 'minus', partId: 'lamp', terminal: 'minus' },
        number: 90,
        colour: 'black',
        ground: true,
      }),
    ])
    expect(saidOf(rig, 'lamp')).toHaveLength(1)
    expect(saidOf(whole, 'lamp')).toEqual([])
  })

  it('are terminals without a lead, by the name of the terminal', () => {
    const rig = without(smallRig({ lever: control() }), 'lever', 'up')
    expect(saidOf(rig, 'lever')).toContain('pin: terminal “upper contact” has no lead')
    expect(saidOf(rig, 'lever').join()).not.toContain('lower contact')
  })

  it('are aspects that nothing is bound to, by their names where there are several', () => {
    expect(saidOf(smallRig({ button: null }), 'button')).toContain('simulator: nothing bound yet')
    const knob = smallRig({ knob: control({ when: 'turn', aspect: 'outer' }) })
    expect(saidOf(knob, 'knob')).toContain('simulator: nothing bound yet to its encoder “inner”')
    expect(saidOf(knob, 'knob')).toContain('simulator: nothing bound yet to its switch “push”')
    expect(saidOf(knob, 'knob').join()).not.toContain('“outer”')
  })

  it('are not what some expression reads, of a binding or of a choice of layers', () => {
    const read = smallRig({ toggle: null, lamp: lamp({ onlyWhile: 'part("Toggle") == "closed"' }) })
    expect(saidOf(read, 'toggle').join()).not.toContain('nothing bound')
    const chosen = smallRig(
      { rotary: null },
      { layers: { Radio: { layers: ['A', 'B'], chosenBy: "part('Rotary') == '1' ? 'A' : 'B'" } } },
    )
    expect(saidOf(chosen, 'rotary').join()).not.toContain('nothing bound')
    // An indicator that somebody reads still shows nothing.
    const odd = smallRig({ lamp: null, lamp2: lamp({ onlyWhile: 'part("Lamp") == 1' }) })
    expect(saidOf(odd, 'lamp')).toContain('simulator: nothing bound yet')
  })

  it('are bindings without a target, and bindings that are off', () => {
    const rig = smallRig({ lever: control({ actions: [] }) })
    expect(saidOf(rig, 'lever')).toContain('simulator: its binding has no target')
    const row = rig.binding['lever-1']
    const off = row && changeRow('binding', row, { ...row, on: false })
    expect(saidOf(apply(rig, off ? [off] : []), 'lever')).toContain('simulator: its binding is off')
  })

  it('are one for all parts of a panel that are only drawn, and their own for a single one', () => {
    const rig = smallRig({})
    const one = apply(rig, [addRow('part', drawn('one'))])
    expect(openEnds(one).every((e) => e.panelId === undefined)).toBe(true)
    expect(openEnds(one).length).toBeGreaterThan(1)
    const three = apply(one, [addRow('part', drawn('two')), addRow('part', drawn('three'))])
    expect(openEnds(three)).toEqual([
      {
        ...{ partId: 'one', panelId: 'panel', station: 'pin' },
        what: '3 parts drawn, not wired or bound yet',
      },
    ])
  })

  it('are none of what does nothing by itself: screws, connectors', () => {
    const rig = apply(smallRig({}), [
      addRow('part', drawn('a', 'screw-m3')),
      addRow('part', drawn('b', 'screw-m3')),
    ])
    expect(openEnds(rig)).toEqual([])
  })
})

describe('how far a panel is', () => {
  const count = (rig: Rig) => progressOf(rig, rowsOf(rig, 'part'))

  it('counts what does something, what is wired to pins, and what is bound', () => {
    const rig = smallRig({ lever: control(), lamp: lamp(), button: null })
    expect(count(rig)).toEqual({ parts: 3, wired: 3, bound: 2 })
    expect(count(without(rig, 'lever', 'up'))).toEqual({ parts: 3, wired: 2, bound: 2 })
  })

  it('counts a binding that is off as none, and a part that is read as used', () => {
    const rig = smallRig({
      lever: control(),
      toggle: null,
      lamp: lamp({ onlyWhile: 'part("Toggle") == "open"' }),
    })
    const row = rig.binding['lever-1']
    const off = row && changeRow('binding', row, { ...row, on: false })
    expect(count(apply(rig, off ? [off] : []))).toEqual({ parts: 3, wired: 3, bound: 2 })
  })

  it('does not count screws', () => {
    const rig = apply(smallRig({ lever: control() }), [addRow('part', drawn('a', 'screw-m3'))])
    expect(count(rig)).toEqual({ parts: 1, wired: 1, bound: 1 })
  })
})
