import { describe, expect, it } from 'vitest'
import { control, smallRig } from '../../../tests/rigs'
import { addRow, apply, changeRow } from '../rig/edit'
import { leadsOf, type Rig } from '../rig/rig'
import type { LeadRow } from '../rig/rows'
import { propose } from './assignment/propose'
import { plainLead } from './leads'
import { asRibbon, freeRibbon, ribbonMates } from './ribbon'

const lead = (rig: Rig, part: string, terminal: string): LeadRow => {
  const found = leadsOf(rig, part).find((l) => l.terminal === terminal)
  if (!found) throw new Error(`${part} has no ${terminal}`)
  return found
}
/** A rotary switch on four pins with its common on ground, and a lever. */
const rig = apply(smallRig({ rotary: control(), lever: control() }), [
  addRow('lead', {
    ...{ ...plainLead, id: 'common', partId: 'rotary', terminal: 'common' },
    ...{ number: 90, colour: 'black', ground: true },
  }),
])

describe('a ribbon of a whole part', () => {
  it('takes all its wires to pins of that board, and not the one to ground', () => {
    const after = apply(rig, asRibbon(rig, lead(rig, 'rotary', '2')))
    expect(leadsOf(after, 'rotary').map((l) => [l.terminal, l.ribbon])).toEqual([
      ['1', 'R1'],
      ['2', 'R1'],
      ['3', 'R1'],
      ['4', 'R1'],
      ['common', null],
    ])
    expect(leadsOf(after, 'lever').every((l) => l.ribbon === null)).toBe(true)
  })

  it('has the name that the wire has, else the first that is free', () => {
    const up = lead(rig, 'lever', 'up')
    const named = apply(
      rig,
      [changeRow('lead', up, { ...up, ribbon: 'R1' })].filter((c) => c !== null),
    )
    expect(freeRibbon(named)).toBe('R2')
    const whole = apply(named, asRibbon(named, lead(named, 'lever', 'up')))
    expect(lead(whole, 'lever', 'down').ribbon).toBe('R1')
    expect(asRibbon(named, lead(named, 'rotary', '1'))[0]?.table).toBe('lead')
    expect(apply(named, asRibbon(named, lead(named, 'rotary', '1'))).lead['lead-1']?.ribbon).toBe('R2')
  })

  it('leaves out what hangs on another board, and is nothing for a wire of an expander', () => {
    const two = apply(rig, [
      addRow('board', { ...(rig.board.board as never as object), id: 'other', identity: null } as never),
    ])
    const first = lead(two, 'rotary', '1')
    const apart = apply(
      two,
      [changeRow('lead', first, { ...first, boardId: 'other' })].filter((c) => c !== null),
    )
    expect(ribbonMates(apart, lead(apart, 'rotary', '1'))).toHaveLength(1)
    expect(ribbonMates(apart, lead(apart, 'rotary', '2'))).toHaveLength(3)
    expect(ribbonMates(rig, { ...first, partId: null, fromExpanderId: 'u' })).toEqual([])
  })

  it('lies side by side when pins are assigned', () => {
    const one = lead(rig, 'rotary', '1')
    const apart = apply(
      rig,
      [changeRow('lead', one, { ...one, pin: 'D53' })].filter((c) => c !== null),
    )
    const bound = apply(apart, asRibbon(apart, lead(apart, 'rotary', '1')))
    let n = 0
    const after = apply(bound, propose(bound, { partIds: null }, () => `new-${++n}`).changes)
    const pins = ['1', '2', '3', '4'].map((t) => Number(lead(after, 'rotary', t).pin?.slice(1)))
    const steps = new Set(pins.slice(1).map((p, i) => p - (pins[i] as number)))
    expect(steps.size).toBe(1)
  })
})
