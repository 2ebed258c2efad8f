import { describe, expect, it } from 'vitest'
import { smallRig } from '../../../tests/rigs'
import type { PanelRow } from '../rig/rows'
import { resized } from './resized'

const corners = [6, 94].flatMap((xMm) => [6, 94].map((yMm) => ({ xMm, yMm, diameterMm: 4 })))
const plate = (holes: PanelRow['settings']['holes']): PanelRow => {
  const panel = smallRig({ lamp: null }).panel.panel
  if (!panel) throw new Error('no panel')
  return { ...panel, settings: { ...panel.settings, holes } }
}

describe('a plate that is made larger', () => {
  it('takes the holes of its corners along, and no others', () => {
    const { settings } = resized(plate([...corners, { xMm: 50, yMm: 94, diameterMm: 3 }]), { widthMm: 200 })
    expect(settings?.holes.map((h) => [h.xMm, h.yMm])).toEqual([
      [6, 6],
      [6, 94],
      [194, 6],
      [194, 94],
      [50, 94],
    ])
  })
  it('changes nothing else when it only gets thicker', () => {
    expect(resized(plate(corners), { thicknessMm: 4 })).toEqual({ thicknessMm: 4 })
  })
})
