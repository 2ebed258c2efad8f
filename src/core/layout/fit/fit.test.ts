import { describe, expect, it } from 'vitest'
import { legendAt, partAt, plate, plateRig } from '../../../../tests/plates'
import { demoRig } from '../../../../tests/rigs'
import { apply } from '../../rig/edit'
import { panelsOf, type Rig } from '../../rig/rig'
import type { PanelRow, PartRow } from '../../rig/rows'
import { moved } from '../arrange'
import { thinnestBridge } from './bridges'
import { fitFindings } from './fit'

const kinds = (rig: Rig, panel: PanelRow = plate) => fitFindings(rig, panel).map((f) => f.kind)
const words = (rig: Rig) => fitFindings(rig, plate).map((f) => f.words)

/** Takes every way out that is offered, one after the other, until nothing is found. */
const cured = (rig: Rig): Rig => {
  let now = rig
  for (let i = 0; i < 12; i++) {
    const [first] = fitFindings(now, plate)
    if (!first?.cure) break
    now = apply(
      now,
      moved(now, plate, first.cure.moves).filter((c) => c !== null),
    )
  }
  return now
}

/** Each case as it does not fit, and as it just does. */
const cases: readonly [string, PartRow[], PartRow[]][] = [
  [
    'in front',
    [partAt('a', 'lamp-8-green', 50, 50), partAt('b', 'lamp-8-green', 59.1, 50)],
    [partAt('a', 'lamp-8-green', 50, 50), partAt('b', 'lamp-8-green', 60.4, 50)],
  ],
  [
    'fingers',
    [partAt('a', 'encoder', 50, 50), partAt('b', 'lamp-3-green', 64.9, 50)],
    [partAt('a', 'encoder', 50, 50), partAt('b', 'lamp-3-green', 65.2, 50)],
  ],
  [
    'behind',
    [partAt('a', 'rotary-6', 50, 50), partAt('b', 'lamp-8-green', 50, 67.4)],
    [partAt('a', 'rotary-6', 50, 50), partAt('b', 'lamp-8-green', 50, 68.8)],
  ],
  [
    'bridge',
    [partAt('a', 'lamp-3-green', 50, 50), partAt('b', 'lamp-3-green', 55.2, 50)],
    [partAt('a', 'lamp-3-green', 50, 50), partAt('b', 'lamp-3-green', 55.4, 50)],
  ],
  ['edge', [partAt('a', 'lamp-3-green', 3.6, 50)], [partAt('a', 'lamp-3-green', 3.8, 50)]],
  ['beyond', [partAt('a', 'encoder', 8.8, 50)], [partAt('a', 'encoder', 9.1, 50)]],
]

describe('what does not fit', () => {
  it.each(cases)('%s is found, and not when it just fits', (kind, bad, good) => {
    expect(kinds(plateRig(bad))).toContain(kind)
    expect(kinds(plateRig(good))).toEqual([])
  })

  it.each(cases)('%s has a way out that leads to a plate without findings', (_kind, bad) => {
    expect(words(cured(plateRig(bad)))).toEqual([])
  })

  it('is found for turned parts by their real outline', () => {
    const strip = (deg: number) => partAt('s', 'strip-8', 100, 50, { rotationDeg: deg })
    const lamp = partAt('l', 'lamp-3-green', 100, 70)
    expect(kinds(plateRig([strip(0), lamp]))).toEqual([])
    expect(kinds(plateRig([strip(90), lamp]))).toContain('in front')
    // The box round a slanting strip covers the lamp; the strip does not.
    expect(kinds(plateRig([strip(45), partAt('l', 'lamp-3-green', 114, 38)]))).toEqual([])
  })

  it('lets a shallow part lie under a deep circuit board on standoffs', () => {
    const text = partAt('t', 'text-20x4', 100, 50)
    const deep = partAt('l', 'lamp-3-green', 100, 77)
    expect(kinds(plateRig([text, deep]))).toEqual(['behind'])
    const flat = partAt('l', 'strip-8', 100, 75.5)
    expect(kinds(plateRig([text, flat]))).not.toContain('behind')
  })

  it('asks for stouter bridges in plywood than in steel', () => {
    const of = (material: 'plywood' | 'steel') =>
      thinnestBridge({ ...plate, settings: { holes: [], material } })
    expect(of('plywood')).toBe(3)
    expect(of('steel')).toBe(1.5)
    const near = [partAt('a', 'lamp-3-green', 50, 50), partAt('b', 'lamp-3-green', 55.4, 50)]
    const wooden: PanelRow = { ...plate, settings: { holes: [], material: 'plywood' } }
    expect(kinds(plateRig(near, [], wooden), wooden)).toEqual(['bridge'])
  })

  it('holes of the panel itself count too', () => {
    const holed: PanelRow = { ...plate, settings: { holes: [{ xMm: 50, yMm: 50, diameterMm: 4 }] } }
    const [found] = fitFindings(plateRig([partAt('a', 'lamp-3-green', 54, 50)], [], holed), holed)
    expect(found?.words).toContain('Only 0.4 mm of plate are left between a hole of the panel and “a”')
    expect(found?.keys).toEqual(['part/a'])
  })

  it('legends under a knob or off the plate are found and moved out', () => {
    const rig = plateRig([partAt('a', 'encoder', 50, 50)], [legendAt('l', 'HEADING', 50, 57)])
    expect(words(rig)).toEqual(['The legend “HEADING” lies under “a”.'])
    expect(words(cured(rig))).toEqual([])
    const off = plateRig([], [legendAt('l', 'HEADING', 4, 50)])
    expect(words(off)).toEqual(['The legend “HEADING” reaches beyond the panel.'])
    expect(words(cured(off))).toEqual([])
    const onLegend = plateRig([partAt('a', 'legend-lamp-amber', 50, 50)], [legendAt('l', 'OIL', 50, 51)])
    expect(words(onLegend)).toEqual([])
  })

  it('a word where the switch does not stop is found and put where it does', () => {
    const labels = { '1': 'OFF', '2': 'SBY', '3': 'ON', '4': 'ALT' }
    const knob = partAt('knob', 'rotary-4', 100, 50, { settings: { labels } })
    // Four positions of 30°: −45°, −15°, 15°, 45°. The word stands at −90°.
    const rig = plateRig([knob], [legendAt('l', 'OFF', 84, 51, 'knob')])
    expect(words(rig)).toEqual(['“OFF” stands at −89°, but “knob” stops at −45°.'])
    expect(words(cured(rig))).toEqual([])
    const ring = { kind: 'ring', radiusMm: 15, sizeMm: 3, ticks: true } as const
    const round = plateRig([knob], [{ ...legendAt('r', '', 100, 50, 'knob'), settings: ring }])
    expect(words(round)).toEqual([])
  })

  it('nothing is wrong with the panels of the demo', () => {
    const rig = demoRig()
    for (const panel of panelsOf(rig))
      expect(
        fitFindings(rig, panel).map((f) => f.words),
        panel.name,
      ).toEqual([])
  })
})
