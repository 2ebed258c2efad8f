import { describe, expect, it } from 'vitest'
import { legendAt, partAt, plate, plateRig } from '../../../tests/plates'
import { point } from '../geometry/contour'
import { apply, type Change, invert } from '../rig/edit'
import type { Rig } from '../rig/rig'
import {
  aligned,
  copied,
  distributed,
  type Edge,
  gridPlaces,
  marked,
  mirrored,
  moved,
  removed,
  roundPlaces,
  turned,
} from './arrange'
import { snap } from './snap'
import { surfaceOfPanel, thingAt, thingsOn, withGroups, withTied } from './things'

const rig = plateRig(
  [partAt('a', 'lamp-8-green', 20, 20), partAt('b', 'encoder', 60, 40), partAt('c', 'toggle-2', 150, 70)],
  [legendAt('word', 'BOW', 20, 30, 'a')],
)
const on = surfaceOfPanel(plate)
const things = (r: Rig = rig) => thingsOn(r, on)
const pick = (...ids: string[]) => things().filter((t) => ids.includes(t.row.id))
const done = (changes: readonly (Change | null)[], r: Rig = rig): Rig =>
  apply(
    r,
    changes.filter((c) => c !== null),
  )
const at = (r: Rig, id: string) => [r.part[id]?.xMm, r.part[id]?.yMm]
let ids = 0
const newId = () => `new-${++ids}`

describe('arranging', () => {
  it('moves a part with its legend, and leaves what is locked', () => {
    const after = done(moved(rig, on, new Map([['part/a', { dx: 5, dy: -2.5 }]])))
    expect(at(after, 'a')).toEqual([25, 17.5])
    expect([after.legend.word?.xMm, after.legend.word?.yMm]).toEqual([25, 27.5])
    const held = done(marked(pick('a'), { locked: true }))
    expect(moved(held, on, new Map([['part/a', { dx: 5, dy: 0 }]])).filter((c) => c !== null)).toEqual([])
  })

  it('leaves the legends of a locked part with it, and words round a knob at their knob', () => {
    const held = done(marked(pick('a'), { locked: true }))
    const all = thingsOn(held, on)
    expect(withTied(all, new Set(['part/a'])).map((t) => t.key)).toEqual(['part/a'])
    const both = all.filter((t) => t.row.id === 'a' || t.row.id === 'b')
    const after = done(mirrored(held, on, both, 'x'), held)
    expect(at(after, 'a')).toEqual([20, 20])
    expect(after.legend.word).toEqual(held.legend.word)
    const ring = { kind: 'ring', radiusMm: 14, sizeMm: 3, ticks: true } as const
    const round = plateRig(
      [partAt('k', 'rotary-4', 60, 40)],
      [{ ...legendAt('r', '', 60, 40, 'k'), settings: ring }],
    )
    expect(moved(round, on, new Map([['legend/r', { dx: 5, dy: 5 }]])).filter((c) => c !== null)).toEqual([])
  })

  it('gives back exactly what was typed, and is undone exactly', () => {
    const changes = moved(rig, on, new Map([['part/b', { dx: 0.1 + 0.2, dy: 0 }]])).filter((c) => c !== null)
    const after = apply(rig, changes)
    expect(at(after, 'b')).toEqual([60.3, 40])
    expect(apply(after, invert(changes))).toEqual(rig)
  })

  it.each([
    ['left', (r: Rig) => things(r).map((t) => t.box.minX)],
    ['right', (r: Rig) => things(r).map((t) => t.box.maxX)],
    ['centre', (r: Rig) => Object.values(r.part).map((p) => p.xMm)],
    ['top', (r: Rig) => things(r).map((t) => t.box.minY)],
    ['bottom', (r: Rig) => things(r).map((t) => t.box.maxY)],
    ['middle', (r: Rig) => Object.values(r.part).map((p) => p.yMm)],
  ] as [Edge, (r: Rig) => number[]][])('aligns to the %s', (edge, of) => {
    const after = done(moved(rig, on, aligned(pick('a', 'b', 'c'), edge)))
    const [first, ...rest] = of({ ...after, legend: {} })
    for (const n of rest) expect(n).toBeCloseTo(first as number, 6)
  })

  it('evens out gaps between different sizes', () => {
    const after = done(moved(rig, on, distributed(pick('a', 'b', 'c'), 'x')))
    const [a, b, c] = ['a', 'b', 'c'].map((id) => things(after).find((t) => t.row.id === id)?.box)
    expect((b?.minX ?? 0) - (a?.maxX ?? 0)).toBeCloseTo((c?.minX ?? 0) - (b?.maxX ?? 0), 6)
    expect(at(after, 'a')).toEqual(at(rig, 'a'))
    expect(at(after, 'c')).toEqual(at(rig, 'c'))
  })

  it('copies in rows and columns, with legends, fresh names, and without wires', () => {
    const { changes, keys } = copied(rig, on, pick('a'), gridPlaces(3, 2, 15, 20), newId)
    const after = done(changes)
    expect(keys).toHaveLength(5)
    expect(Object.keys(after.legend)).toHaveLength(6)
    expect(new Set(Object.values(after.part).map((p) => p.name)).size).toBe(8)
    expect(
      Object.values(after.part)
        .filter((p) => p.kind === 'lamp-8-green')
        .map((p) => [p.xMm, p.yMm]),
    ).toContainEqual([50, 40])
  })

  it('copies round a middle, and the whole turn closes', () => {
    const { changes } = copied(rig, on, pick('a'), roundPlaces(point(20, 40), 4, 360), newId)
    const after = Object.values(done(changes).part).filter((p) => p.kind === 'lamp-8-green')
    expect(after.map((p) => [p.xMm, p.yMm])).toEqual([
      [20, 20],
      [40, 40],
      [20, 60],
      [0, 40],
    ])
    expect(roundPlaces(point(0, 0), 3, 90)[1]?.(point(0, -10)).x).toBeCloseTo(10, 9)
  })

  it('mirrors places, not words, and twice is once more as it was', () => {
    const once = done(mirrored(rig, on, pick('a', 'b'), 'x'))
    expect(at(once, 'a')[0]).toBeGreaterThan(at(once, 'b')[0] as number)
    const again = done(
      mirrored(
        once,
        on,
        thingsOn(once, on).filter((t) => ['a', 'b'].includes(t.row.id)),
        'x',
      ),
      once,
    )
    expect(again).toEqual(rig)
  })

  it('groups, picks groups whole, and removes parts with what hangs on them', () => {
    const grouped = done(marked(pick('a', 'b'), { group: 'g' }))
    expect(withGroups(thingsOn(grouped, on), new Set(['part/a']))).toEqual(new Set(['part/a', 'part/b']))
    const loose = apply(
      grouped,
      marked(thingsOn(grouped, on), { group: undefined }).filter((c) => c !== null),
    )
    expect(loose).toEqual(rig)
    const after = done(removed(rig, on, pick('a')))
    expect(Object.keys(after.part)).toEqual(['b', 'c'])
    expect(Object.keys(after.legend)).toEqual([])
  })

  it('turns parts on the spot', () => {
    const after = done(turned(pick('c'), 90))
    expect(after.part.c?.rotationDeg).toBe(90)
    const box = thingsOn(after, on).find((t) => t.row.id === 'c')?.box
    expect((box?.maxX ?? 0) - (box?.minX ?? 0)).toBeCloseTo(24, 6)
  })
})

describe('what lies at a place', () => {
  it('is the part before a frame round it, and a frame only at its line', () => {
    const framed = plateRig(
      [partAt('a', 'lamp-8-green', 50, 50)],
      [
        {
          ...legendAt('f', '', 30, 30),
          settings: { kind: 'frame', title: '', sizeMm: 3, widthMm: 60, heightMm: 40 },
        },
      ],
    )
    const all = thingsOn(framed, on)
    expect(thingAt(all, framed, point(50, 50), 1)?.key).toBe('part/a')
    expect(thingAt(all, framed, point(70, 60), 1)).toBeNull()
    expect(thingAt(all, framed, point(30.4, 55), 1)?.key).toBe('legend/f')
  })
})

describe('snapping', () => {
  const box = (x: number, y: number, w = 10, h = 10) => ({ minX: x, minY: y, maxX: x + w, maxY: y + h })
  const to = {
    others: [box(20, 20), box(50, 20)],
    surface: on,
    guides: [],
    grid: 0,
    gridFor: 'middle' as const,
    within: 2,
  }

  it('goes to edges, centres, guides and equal gaps, the nearest first', () => {
    expect(snap(box(21.5, 60), to)).toMatchObject({ dx: -1.5, dy: 0 })
    expect(snap(box(80.7, 26), to).dx).toBeCloseTo(-0.7, 9)
    expect(snap(box(80.7, 26), to).lines[0]?.why).toBe('gap')
    const guided = { ...to, guides: [{ axis: 'x' as const, at: 120 }] }
    expect(snap(box(119.2, 70), guided).dx).toBeCloseTo(0.8, 9)
    expect(snap(box(114.4, 70), guided).dx).toBeCloseTo(0.6, 9)
  })

  it('falls back to the grid, and leaves alone what is near nothing', () => {
    expect(snap(box(130.2, 70.3), to)).toEqual({ dx: 0, dy: 0, lines: [] })
    const gridded = snap(box(130.2, 70.3), { ...to, grid: 1 })
    expect(gridded.dx).toBeCloseTo(-0.2, 9)
    expect(gridded.dy).toBeCloseTo(-0.3, 9)
  })
})
