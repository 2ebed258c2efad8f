import { describe, expect, it } from 'vitest'
import { partAt, plate, plateRig } from '../../../tests/plates'
import { boundsOf } from '../geometry/boxes'
import { fitFindings } from '../layout/fit/fit'
import { plateOf } from '../layout/plate'
import { frontOutline } from '../layout/things'
import { apply, invalidRows } from '../rig/edit'
import { exchanged, ownMakes } from '../rig/exchange'
import { readPartFile, writePartFile } from '../rig/own-file'
import { kindOf, type OwnKind, ownKind, ownKindLike } from './own-kind'
import { partKind, partKinds } from './parts'

const toggle = partKind('toggle-2') ?? partKinds[0]
if (!toggle) throw new Error('there are no parts')
const big: OwnKind = {
  ...ownKindLike(toggle),
  name: 'Big toggle',
  widthMm: 20,
  heightMm: 40,
  cutout: { is: 'window', widthMm: 14, heightMm: 30, cornerMm: 1 },
  screws: [{ xMm: 0, yMm: 19, diameterMm: 3.2 }],
  bodyWidthMm: 18,
  bodyHeightMm: 36,
  depthMm: 44,
}
const placed = partAt('t', 'toggle-2', 100, 50, { settings: { own: big } })

describe('a part of one’s own', () => {
  it('has its own measures and works like the one it was made from', () => {
    const kind = kindOf(placed)
    expect(kind?.frontMm).toEqual({ width: 20, height: 40 })
    expect(kind?.mount.body.depthMm).toBe(44)
    expect(kind?.terminals).toBe(toggle.terminals)
    expect(kind?.aspects).toBe(toggle.aspects)
    expect(kindOf(placed)).toBe(kind)
    expect(frontOutline(placed)[0]).toEqual({ x: 90, y: 30 })
    const rig = plateRig([placed])
    const { holes, drilled } = plateOf(rig, plate)
    expect(holes.map((h) => boundsOf(h.contour))).toEqual([{ minX: 93, minY: 35, maxX: 107, maxY: 65 }])
    expect(drilled.map((d) => d.hole)).toEqual([{ centre: { x: 100, y: 69 }, diameterMm: 3.2 }])
    expect(fitFindings(rig, plate)).toEqual([])
    const near = plateRig([placed, partAt('l', 'lamp-3-green', 112.2, 50)])
    expect(fitFindings(near, plate).map((f) => f.kind)).toContain('fingers')
  })

  it.each(partKinds.map((k) => [k.id, k] as const))('can be begun from %s as it is', (_id, kind) => {
    const own = ownKindLike(kind)
    expect(ownKind.safeParse(own).error).toBeUndefined()
    const same = kindOf({ kind: kind.id, settings: { own } })
    expect(same?.mount.body.depthMm).toBe(kind.mount.body.depthMm)
    expect(same?.mount.reach.widthMm).toBeCloseTo(kind.mount.reach.widthMm, 1)
  })

  it('goes through a file and back; broken ones are refused with a sentence', () => {
    expect(readPartFile(writePartFile(big))).toEqual({ own: big })
    const problem = (text: string) => {
      const read = readPartFile(text)
      return 'problem' in read ? read.problem : ''
    }
    expect(problem('{')).toContain('not a part file')
    expect(problem('{"clavik":"rig"}')).toBe('This is not a part file.')
    expect(problem('{"clavik":"part","format":7,"part":{}}')).toContain('format 7')
    expect(problem(writePartFile({ ...big, widthMm: -3 }))).toContain('widthMm: has to be more than 0')
    expect(problem(writePartFile({ ...big, like: 'teleporter' }))).toContain('knows no such part')
    const flat = { is: 'flat-sided', diameterMm: 10, acrossMm: 4 } as const
    expect(problem(writePartFile({ ...big, cutout: flat }))).toContain('between the middle and the edge')
    expect(problem('x'.repeat(200_000))).toContain('too large')
  })

  it('is valid in the rig, is offered again, and goes when it is exchanged for the catalogue’s', () => {
    const rig = plateRig([placed, { ...placed, id: 'u', name: 'u' }])
    expect(invalidRows(rig, [{ op: 'add', table: 'part', id: 't', row: placed }])).toEqual([])
    expect(ownMakes(rig)).toEqual([big])
    const back = exchanged(rig, placed, toggle)
    expect(apply(rig, back.changes).part.t?.settings.own).toBeUndefined()
    const lamp = partKind('toggle-3')
    const on = lamp && exchanged(rig, placed, lamp, { ...big, like: 'toggle-3' })
    expect(on && kindOf(apply(rig, on.changes).part.t ?? placed)?.frontMm.height).toBe(40)
  })
})
