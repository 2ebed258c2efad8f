import { describe, expect, it } from 'vitest'
import { legendAt, partAt, plate, plateRig } from '../../../../tests/plates'
import { demoRig } from '../../../../tests/rigs'
import type { Contour } from '../../geometry/contour'
import { flattened } from '../../geometry/flatten'
import { areaOf } from '../../geometry/rings'
import { apply } from '../../rig/edit'
import { panelsOf, type Rig } from '../../rig/rig'
import type { LegendRow, PanelRow, PartRow } from '../../rig/rows'
import { drilledContour, plateOf } from '../plate'
import { thinnestBridge } from './bridges'
import { curedBy } from './cures'
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
      curedBy(now, plate, first.cure).filter((c) => c !== null),
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

describe('openings of the plate itself', () => {
  const window = (x: number, y: number, w: number, h: number) =>
    `M${x} ${y}L${x + w} ${y}L${x + w} ${y + h}L${x} ${y + h}Z`
  const withSettings = (settings: Partial<PanelRow['settings']>): PanelRow => ({
    ...plate,
    settings: { holes: [], ...settings },
  })
  const found = (panel: PanelRow) => fitFindings(plateRig([], [], panel), panel)
  /** The plate after its first finding is cured. */
  const mended = (panel: PanelRow): PanelRow => {
    const [first] = found(panel)
    if (!first?.cure) throw new Error('no cure')
    const rig = plateRig([], [], panel)
    const changed = apply(
      rig,
      curedBy(rig, panel, first.cure).filter((c) => c !== null),
    )
    return changed.panel[panel.id] as PanelRow
  }
  const area = (panel: PanelRow) => {
    const { outline, holes, drilled } = plateOf(plateRig([], [], panel), panel)
    const of = (c: Contour) => Math.abs(areaOf(flattened(c, 0.001)))
    return (
      of(outline) -
      [...holes.map((h) => h.contour), ...drilled.map((d) => drilledContour(d.hole))].reduce(
        (sum, c) => sum + of(c),
        0,
      )
    )
  }

  it.each([
    ['across', { windows: [window(190, 20, 20, 10)] }, { windows: [window(170, 20, 20, 10)] }],
    ['across', { windows: [window(250, 20, 20, 10)] }, {}],
    [
      'across',
      { holes: [{ xMm: 200, yMm: 50, diameterMm: 8 }] },
      { holes: [{ xMm: 190, yMm: 50, diameterMm: 8 }] },
    ],
    [
      'twice',
      { windows: [window(20, 20, 9, 9), window(20.01, 20, 9, 9)] },
      { windows: [window(20, 20, 9, 9)] },
    ],
    [
      'within',
      { windows: [window(20, 20, 30, 30), window(30, 30, 5, 5)] },
      { windows: [window(20, 20, 30, 30)] },
    ],
    [
      'within',
      { windows: [window(20, 20, 30, 30), window(45, 30, 20, 5)] },
      { windows: [window(20, 20, 30, 30), window(55, 30, 20, 5)] },
    ],
    [
      'within',
      { windows: [window(20, 20, 30, 30)], holes: [{ xMm: 30, yMm: 30, diameterMm: 4 }] },
      { windows: [window(20, 20, 30, 30)] },
    ],
  ])('that lie %s are found, not when they just do not, and are cured', (kind, bad, good) => {
    expect(found(withSettings(bad)).map((f) => f.kind)).toEqual([kind])
    expect(found(withSettings(good))).toEqual([])
    expect(found(mended(withSettings(bad)))).toEqual([])
  })

  it('become a notch, or one opening of both, by just what they cover', () => {
    const notched = mended(withSettings({ windows: [window(190, 20, 20, 10)] }))
    expect(area(notched)).toBeCloseTo(area(withSettings({})) - 100, 1)
    const joined = mended(withSettings({ windows: [window(20, 20, 30, 30), window(45, 30, 20, 5)] }))
    expect(area(withSettings({})) - area(joined)).toBeCloseTo(900 + 15 * 5, 1)
  })
})

describe('what is engraved where a hole is', () => {
  const holed: PanelRow = { ...plate, settings: { holes: [{ xMm: 30, yMm: 40, diameterMm: 4 }] } }
  const legend = (settings: LegendRow['settings'], xMm: number, yMm: number): LegendRow => ({
    ...legendAt('own', '', xMm, yMm),
    settings,
  })
  const frame = (yMm: number, title = '') =>
    legend({ kind: 'frame', title, sizeMm: 3, widthMm: 60, heightMm: 30 }, 20, yMm)
  const found = (own: LegendRow) => fitFindings(plateRig([], [own], holed), holed)

  it('is a frame through a screw hole: found, drawn past it, and not found when it just clears it', () => {
    const [first] = found(frame(40, 'FUEL'))
    expect(first).toMatchObject({
      kind: 'through',
      words: 'The frame “FUEL” runs through a hole of the panel.',
    })
    expect(found(frame(43))).toEqual([])
    const rig = plateRig([], [frame(40)], holed)
    const cure = fitFindings(rig, holed)[0]?.cure
    if (!cure) throw new Error('no cure')
    const after = apply(
      rig,
      curedBy(rig, holed, cure).filter((c) => c !== null),
    )
    expect(fitFindings(after, holed)).toEqual([])
    // Its lower side stays where it was.
    const [drawn] = Object.values(after.legend)
    const { settings } = drawn as { settings: { heightMm: number } }
    expect((drawn?.yMm ?? 0) + settings.heightMm).toBeCloseTo(70, 6)
  })

  it('is a word on a hole, moved off it', () => {
    const word = legend({ kind: 'text', text: 'UP', sizeMm: 4, anchor: 'middle' }, 30, 41)
    expect(found(word).map((f) => f.words)).toEqual(['The legend “UP” lies on a hole of the panel.'])
    expect(words(cured(plateRig([], [word], holed)))).toEqual([])
  })

  it('is a letter that no face has', () => {
    const word = legend({ kind: 'text', text: 'A漢', sizeMm: 4, anchor: 'middle' }, 100, 60)
    expect(found(word).map((f) => [f.kind, f.words])).toEqual([
      ['letter', 'No face of the font has “漢” of the legend “A漢”; it would be engraved as an empty box.'],
    ])
  })
})
