import { describe, expect, it } from 'vitest'
import { control, lamp, catalogue as ours, smallRig } from '../../../tests/rigs'
import { isBound } from './binding'
import { CopyPlan, meanings } from './copy-plan'
import { addRow, apply } from './edit'
import { bindingsOf, type Rig } from './rig'
import { indexCatalogue, type VariableInfo } from './simulator-catalogue'
import type { SourcePlace } from './sources'

const number = (name: string, unit: string | null = null): VariableInfo => ({
  ...{ name, type: 'number', unit, writable: true, range: null, description: '', group: '' },
})
const theirs = [number('truck.height', 'm'), number('truck.slip')]
const index = indexCatalogue({
  craft: '',
  variables: [...ours.variables, ...theirs],
  events: [...ours.events],
})
const truck: SourcePlace = {
  ...{ id: 'truck', name: 'Truck', craft: 'Torsk R4', prefix: '', on: true },
  variables: [ours.variables.length, ours.variables.length + 2],
  events: [1, 1],
} as unknown as SourcePlace
const set = {
  ...{ id: 'torsk', name: 'Torsk', position: 1 },
  settings: { patterns: ['torsk *'], replaces: true },
}
const withSet = (rig: Rig): Rig => apply(rig, [addRow('craftSet', set)])
let n = 0
const id = () => `copy-${n++}`

const plan = (rig: Rig) => new CopyPlan(rig, null, Object.keys(rig.part), index, truck)
const copies = (rig: Rig, chosen: Record<string, string> = {}) => {
  const after = apply(rig, plan(rig).changes(set, new Map(Object.entries(chosen)), id))
  return Object.keys(rig.part).flatMap((p) =>
    bindingsOf(after, p).filter((b) => b.settings.craftSet === 'torsk'),
  )
}

describe('a craft set begun by copying', () => {
  const rig = withSet(
    smallRig({
      lever: control({ onlyWhile: 'bus.volts > 20' }),
      lamp: lamp({ variable: 'height', show: 'input > 100', onlyWhile: null }),
    }),
  )

  it('proposes what is alike, leaves away conditions of what is lacking, and lets targets be found later', () => {
    const p = plan(rig)
    expect(p.names).toEqual(['bus.volts', 'gear.lever', 'height'])
    expect(p.proposed('height')).toBe('truck.height')
    expect(p.proposed('bus.volts')).toBe(meanings.without)
    expect(p.proposed('gear.lever')).toBe(meanings.later)
    expect(p.outcome(new Map())).toEqual({ copied: 2, open: 1, lacks: ['gear.lever'] })
    const [lever, light] = copies(rig)
    expect(lever?.settings).toMatchObject({ actions: [], onlyWhile: null, craftSet: 'torsk' })
    expect(lever && isBound(lever.settings)).toBe(false)
    expect(light?.settings).toMatchObject({ variable: 'truck.height', show: 'input > 100' })
  })

  it('does what is chosen: another name, the same name, or nothing at all', () => {
    expect(
      copies(rig, { 'gear.lever': 'truck.slip', 'bus.volts': meanings.stays })[0]?.settings,
    ).toMatchObject({
      actions: [{ variable: 'truck.slip' }],
      onlyWhile: 'bus.volts > 20',
    })
    expect(copies(rig, { 'gear.lever': meanings.left })).toHaveLength(1)
    // A condition may be needed after all: then what stands under it is left out with it.
    expect(copies(rig, { 'bus.volts': meanings.left })).toHaveLength(1)
  })

  it('leaves out what cannot wait, because it is read elsewhere as well', () => {
    const read = withSet(
      smallRig({ lamp: lamp({ variable: 'way', show: 'input > way + 1', onlyWhile: null }) }),
    )
    const p = plan(read)
    expect(p.offers.get('way')).toMatchObject({ needed: true, isTarget: false })
    expect(p.proposed('way')).toBe(meanings.left)
    expect(p.outcome(new Map())).toEqual({ copied: 0, open: 0, lacks: ['way'] })
    expect(copies(read, { way: meanings.later })).toEqual([])
  })

  it('keeps two bindings apart that say the same of two parts', () => {
    const two = withSet(smallRig({ lever: [control(), control({ onlyWhile: 'way > 3' })] }))
    expect(copies(two, { way: meanings.left })).toHaveLength(1)
  })
})
