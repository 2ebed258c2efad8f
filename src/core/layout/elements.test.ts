import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { elementKinds } from '../elements/elements'
import { point } from '../geometry/contour'
import { addRow, apply, type Diff } from '../rig/edit'
import { elementsOf, emptyRig } from '../rig/rig'
import type { ElementRow, ScreenRow } from '../rig/rows'
import { aligned, copied, distributed, marked, mirrored, moved, removed, reordered, turned } from './arrange'
import { handleAt, handles, placeOfHandle, sizedBy } from './sized'
import { snap } from './snap'
import { surfaceOfPage, thingAt, thingsOn } from './things'

const screen: ScreenRow = {
  ...{ id: 's', name: 'Screen', position: 0, widthPx: 800, heightPx: 480 },
  settings: { ground: '#000000', widthMm: 108, pageBy: null, guides: [{ axis: 'x', at: 300 }] },
}
let position = 0
const element = (id: string, x: number, y: number, more: Partial<ElementRow> = {}): ElementRow => ({
  ...{
    id,
    screenId: 's',
    pageId: 'p1',
    name: id,
    position: position++,
    x,
    y,
    width: 40,
    height: 20,
    angle: 0,
  },
  settings: elementKinds.bar.fresh().settings,
  ...more,
})
const frame = { ...elementKinds.frame.fresh().settings } as ElementRow['settings']
const rig = apply(emptyRig(), [
  addRow('screen', screen),
  addRow('page', { id: 'p1', screenId: 's', name: 'ONE', position: 0 }),
  addRow('page', { id: 'p2', screenId: 's', name: 'TWO', position: 1 }),
  addRow('element', element('a', 10, 10)),
  addRow('element', element('b', 100, 30)),
  addRow('element', element('c', 300, 90, { angle: 90 })),
  addRow('element', element('other page', 0, 0, { pageId: 'p2' })),
  addRow('element', element('every page', 500, 400, { pageId: null })),
  addRow('element', element('round all', 0, 0, { width: 800, height: 480, settings: frame })),
])
const on = surfaceOfPage(screen, 'p1')
const things = (of = rig) => thingsOn(of, on)
const pick = (...ids: string[]) => things().filter((t) => ids.includes(t.row.id))
const done = (diff: readonly (Diff[number] | null)[]) => {
  const after = apply(
    rig,
    diff.filter((c) => c !== null),
  )
  return (id: string) => after.element[id] as ElementRow
}

describe('elements lie on a page as parts lie on a panel', () => {
  it('those of the page and those of every page', () => {
    expect(things().map((t) => t.row.id)).toEqual(['a', 'b', 'c', 'every page', 'round all'])
    expect(on).toMatchObject({ width: 800, height: 480, unit: 'px', guides: [{ axis: 'x', at: 300 }] })
  })

  it('turned, its box is that of its corners', () => {
    expect(pick('c')[0]?.box).toEqual({ minX: 310, maxX: 330, minY: 80, maxY: 120 })
  })

  it('are moved, aligned, evened out, turned, mirrored', () => {
    expect(done(moved(rig, on, new Map([['element/a', { dx: 5, dy: -2 }]])))('a')).toMatchObject({
      x: 15,
      y: 8,
    })
    expect(done(moved(rig, on, aligned(pick('a', 'b'), 'bottom')))('a').y).toBe(30)
    const spread = done(moved(rig, on, distributed(pick('a', 'b', 'every page'), 'x')))
    expect(spread('b').x).toBe(255)
    expect(done(turned(pick('a'), 90))('a').angle).toBe(90)
    expect(done(mirrored(rig, on, pick('a', 'b'), 'x'))('a').x).toBe(100)
  })

  it('a locked one stays', () => {
    const locked = apply(
      rig,
      marked(pick('a'), { locked: true }).filter((c) => c !== null),
    )
    expect(moved(locked, on, new Map([['element/a', { dx: 5, dy: 0 }]])).filter((c) => c !== null)).toEqual(
      [],
    )
  })

  it('are copied under names of their own, above all others, in groups of their own', () => {
    let n = 0
    const grouped = apply(
      rig,
      marked(pick('a', 'b'), { group: 'g' }).filter((c) => c !== null),
    )
    const own = thingsOn(grouped, on).filter((t) => ['a', 'b'].includes(t.row.id))
    const { changes, keys } = copied(grouped, on, own, [(p) => point(p.x + 50, p.y)], () => `new ${n++}`)
    const after = apply(grouped, changes)
    const made = elementsOf(after, 's').slice(-2)
    expect(made.map((e) => [e.name, e.x, e.y])).toEqual([
      ['a 2', 60, 10],
      ['b 2', 150, 30],
    ])
    expect(keys).toEqual(made.map((e) => `element/${e.id}`))
    const groups = new Set(made.map((e) => e.settings.group))
    expect(groups.size).toBe(1)
    expect(groups.has('g')).toBe(false)
  })

  it('come to the front and go to the back together, in their order', () => {
    const order = (diff: readonly (Diff[number] | null)[]) =>
      elementsOf(
        apply(
          rig,
          diff.filter((c) => c !== null),
        ),
        's',
      ).map((e) => e.id)
    expect(order(reordered(rig, pick('a', 'c'), 'front'))).toEqual([
      'b',
      'other page',
      'every page',
      'round all',
      'a',
      'c',
    ])
    expect(order(reordered(rig, pick('c', 'every page'), 'back')).slice(0, 2)).toEqual(['c', 'every page'])
  })

  it('are removed, and nothing with them', () => {
    expect(removed(rig, on, pick('a')).map((c) => [c.op, c.table, c.id])).toEqual([
      ['remove', 'element', 'a'],
    ])
  })

  it('are taken by what is drawn of them: a frame by its line', () => {
    const at = (x: number, y: number) => thingAt(things(), rig, point(x, y), 3)?.row.id
    expect(at(20, 20)).toBe('a')
    expect(at(320, 85)).toBe('c')
    expect(at(305, 100)).toBeUndefined()
    expect(at(400, 300)).toBeUndefined()
    expect(at(400, 1)).toBe('round all')
  })

  it('snap with their corner to the grid, so that edges lie between dots', () => {
    const caught = snap(
      { minX: 201, maxX: 242, minY: 203, maxY: 224 },
      { others: [], surface: on, guides: [], grid: 4, gridFor: 'corner', within: 3 },
    )
    expect([caught.dx, caught.dy]).toEqual([-1, 1])
  })
})

describe('making an element larger', () => {
  const row = { x: 100, y: 50, width: 40, height: 20, angle: 0 }
  it.each<[string, -1 | 0 | 1, -1 | 0 | 1, [number, number, number, number]]>([
    ['by its right edge', 1, 0, [100, 50, 50, 20]],
    ['by its left edge', -1, 0, [110, 50, 30, 20]],
    ['by its lower right corner', 1, 1, [100, 50, 50, 25]],
    ['by its upper left corner', -1, -1, [110, 55, 30, 15]],
  ])('%s', (_, sx, sy, [x, y, width, height]) => {
    expect(sizedBy(row, { sx, sy }, 10, 5)).toEqual({ x, y, width, height })
  })

  it('keeps its shape where that is wanted, and is never nothing', () => {
    expect(sizedBy(row, { sx: 1, sy: 1 }, 40, 0, true)).toEqual({ x: 100, y: 50, width: 80, height: 40 })
    expect(sizedBy(row, { sx: 1, sy: 0 }, -500, 0).width).toBe(1)
  })

  it('whatever way it is turned, what lies opposite stays, and the handle goes with the hand', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -180, max: 180 }),
        fc.constantFrom(...handles),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 0, max: 60 }),
        (angle, handle, a, b) => {
          const turned = { ...row, angle }
          const opposite = { sx: -handle.sx, sy: -handle.sy } as typeof handle
          // Outwards along the element's own sides, so that it only grows.
          const rad = (angle * Math.PI) / 180
          const [ox, oy] = [handle.sx * a, handle.sy * b]
          const [dx, dy] = [ox * Math.cos(rad) - oy * Math.sin(rad), ox * Math.sin(rad) + oy * Math.cos(rad)]
          const after = { ...turned, ...sizedBy(turned, handle, dx, dy) }
          const [stays, stayed] = [placeOfHandle(turned, opposite), placeOfHandle(after, opposite)]
          expect(stayed.x).toBeCloseTo(stays.x, 1)
          expect(stayed.y).toBeCloseTo(stays.y, 1)
          const [from, to] = [placeOfHandle(turned, handle), placeOfHandle(after, handle)]
          expect(to.x - from.x).toBeCloseTo(dx, 1)
          expect(to.y - from.y).toBeCloseTo(dy, 1)
        },
      ),
    )
  })

  it('takes corners before edges, and leaves something to hold a small one by', () => {
    expect(handleAt(row, point(100, 50), 7)).toEqual({ sx: -1, sy: -1 })
    expect(handleAt(row, point(120, 70), 7)).toEqual({ sx: 0, sy: 1 })
    expect(handleAt(row, point(120, 60), 30)).toBeNull()
    expect(handleAt({ ...row, height: 0 }, point(140, 50), 7)).toEqual({ sx: 1, sy: 0 })
  })
})
