import { describe, expect, it } from 'vitest'
import { catalogue, control, demoRig, lamp, V } from '../../../tests/rigs'
import { addRow, apply } from '../rig/edit'
import { rowsOf } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import { companionBinding, companionName, companionsOf } from './companions'

const bare = demoRig()
const anyPart = rowsOf(bare, 'part')[0] as PartRow
const part = (id: string, name: string, kind: string, panelId = anyPart.panelId): PartRow => ({
  ...anyPart,
  ...{ id, name, kind, panelId, settings: {} },
})
const other = rowsOf(bare, 'panel').find((p) => p.id !== anyPart.panelId)?.id ?? ''
const rig = apply(bare, [
  addRow('part', part('t', 'Wiper switch left', 'toggle-2')),
  addRow('part', part('l', 'Left wiper lamp', 'lamp-8-green')),
  addRow('part', part('w', 'Wiper left window', 'digits-5-max7219')),
  // Of another thing, elsewhere, in use already, or a control itself.
  addRow('part', part('r', 'Right wiper lamp', 'lamp-8-green')),
  addRow('part', part('e', 'Left wiper lamp', 'lamp-8-green', other)),
  addRow('part', part('u', 'Wiper left light', 'lamp-8-green')),
  addRow('binding', { id: 'u1', partId: 'u', position: 1, on: true, settings: lamp() }),
  addRow('part', part('b', 'Wiper left button', 'lit-button-12-amber')),
])
const info = (slot: number) => catalogue.variables[slot] as (typeof catalogue.variables)[number]

describe('what shows the same thing as a control', () => {
  it('is what is named for the same on its panel and shows nothing yet', () => {
    expect(companionsOf(rig, part('t', 'Wiper switch left', 'toggle-2')).map((c) => c.part.id)).toEqual([
      'l',
      'w',
    ])
  })

  it('is its own lamp before all others, until that shows something', () => {
    const button = rowsOf(rig, 'part').find((p) => p.id === 'b') as PartRow
    const [own] = companionsOf(rig, button)
    expect(own && companionName(button, own)).toBe('its own lamp')
    const bound = apply(rig, [
      addRow('binding', {
        id: 'b1',
        partId: 'b',
        position: 1,
        on: true,
        settings: { ...lamp(), aspect: own?.aspect.id },
      }),
      addRow('binding', { id: 'b2', partId: 'b', position: 2, on: true, settings: control() }),
    ])
    expect(companionsOf(bound, button).map((c) => c.part.id)).toEqual(['l', 'w'])
  })

  it('shows a boolean as it is, a number lit above the least that was seen, digits as they are', () => {
    const [l, w] = companionsOf(rig, part('t', 'Wiper switch left', 'toggle-2'))
    if (!l || !w) throw new Error('there are two')
    expect(companionBinding(rig, l, info(V.pump), [])).toMatchObject({
      variable: 'pump.switch',
      show: 'input',
    })
    expect(companionBinding(rig, l, info(V.height), [9, 4, 0])).toMatchObject({
      show: 'input > 0 ? on : off',
    })
    expect(companionBinding(rig, l, info(V.lever), [])).toMatchObject({ show: 'input > 0 ? on : off' })
    expect(companionBinding(rig, w, info(V.height), [9])).toMatchObject({
      kind: 'digits',
      variable: 'height',
    })
    expect(companionBinding(rig, l, info(V.advice), [])).toBeNull()
  })
})
