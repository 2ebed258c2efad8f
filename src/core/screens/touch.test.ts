import { describe, expect, it } from 'vitest'
import { elementKinds } from '../elements/elements'
import { clicksBetween, levelAt } from '../elements/touch'
import { harnessFindings } from '../harness/findings/findings'
import { removed } from '../layout/arrange'
import { fitFindings } from '../layout/fit/fit'
import { surfaceOfPage, thingsOn } from '../layout/things'
import { addRow, apply, invalidRows } from '../rig/edit'
import { boardsOf, connectionsOf, emptyRig, leadsOf, panelsOf, type Rig, rowsOf } from '../rig/rig'
import type { ElementRow, ScreenRow } from '../rig/rows'
import { addingTouch, movementOf, touchBoardOf } from './touch'

const screen: ScreenRow = {
  ...{ id: 's', name: 'Fuel page', position: 0, widthPx: 800, heightPx: 480 },
  settings: { ground: '#000000', widthMm: 108, pageBy: null },
}
const empty = apply(emptyRig(), [
  addRow('rig', { id: 'r', name: 'Rig', format: 2 }),
  addRow('screen', screen),
  addRow('page', { id: 'p', screenId: 's', name: 'ONE', position: 0 }),
])

let n = 0
const add = (
  rig: Rig,
  is: 'button' | 'slider' | 'knob',
  name: string,
): { rig: Rig; element: string; part: string } => {
  const made = addingTouch(
    rig,
    screen,
    is,
    name,
    () => `id-${n++}`,
    () => '00112233445566aa',
  )
  if ('problem' in made) throw new Error(made.problem)
  expect(invalidRows(apply(rig, made.diff), made.diff)).toEqual([])
  const row: ElementRow = {
    ...{
      id: `e-${n++}`,
      screenId: 's',
      pageId: 'p',
      name,
      position: 0,
      x: 0,
      y: 0,
      width: 90,
      height: 60,
      angle: 0,
    },
    settings: { ...elementKinds.touch.fresh().settings, is, part: made.part.id } as ElementRow['settings'],
  }
  return { rig: apply(rig, [...made.diff, addRow('element', row)]), element: row.id, part: made.part.id }
}

describe('a control for fingers', () => {
  const a = add(empty, 'button', 'Go')
  const b = add(a.rig, 'slider', 'Dim')
  const c = add(b.rig, 'knob', 'Turn')
  const { rig } = c

  it('is a part like any other, on one board for all of them, without anything to be wired, bought or mended', () => {
    expect(rowsOf(rig, 'part').map((p) => [p.name, p.kind])).toEqual([
      ['Go', 'button-10-grey'],
      ['Dim', 'slide-pot-45'],
      ['Turn', 'encoder'],
    ])
    expect(connectionsOf(rig).map((r) => r.settings.kind)).toEqual(['touch screen'])
    expect(boardsOf(rig)).toHaveLength(1)
    expect(touchBoardOf(rig, 's')?.own?.given).toBe(true)
    expect(leadsOf(rig, c.part)).toHaveLength(2)
    expect(harnessFindings(rig).map((f) => f.words)).toEqual([])
    expect(panelsOf(rig).flatMap((p) => fitFindings(rig, p).map((f) => f.words))).toEqual([])
  })

  it('does what a finger does', () => {
    expect(movementOf(rig, a.element, { press: true })).toEqual({
      ...{ partId: a.part, aspectId: 'press' },
      movement: { to: 'position', position: 'pressed' },
    })
    expect(movementOf(rig, a.element, { press: false })?.movement).toEqual({
      to: 'position',
      position: 'released',
    })
    expect(movementOf(rig, b.element, { level: 0.25 })?.movement).toEqual({ to: 'slide', level: 0.25 })
    expect(movementOf(rig, c.element, { turn: -3 })?.movement).toEqual({ to: 'turn', clicks: -3 })
    // What it is not does nothing.
    expect(movementOf(rig, a.element, { turn: 1 })).toBeNull()
    expect(movementOf(rig, b.element, { press: true })).toBeNull()
    expect(movementOf(rig, 'nobody', { press: true })).toBeNull()
  })

  it('goes with its element, and nothing else does', () => {
    const on = surfaceOfPage(screen, 'p')
    const picked = thingsOn(rig, on).filter((t) => t.row.id === b.element)
    const after = apply(rig, removed(rig, on, picked))
    expect(rowsOf(after, 'part').map((p) => p.name)).toEqual(['Go', 'Turn'])
    expect(leadsOf(after, b.part)).toEqual([])
    expect(rowsOf(after, 'legend').some((l) => l.partId === b.part)).toBe(false)
  })

  it('finds room for as many as there are contacts, and says when there is none', () => {
    let full = empty
    let problem = ''
    for (let i = 0; i < 40 && problem === ''; i++) {
      const made = addingTouch(
        full,
        screen,
        'slider',
        `S${i}`,
        () => `id-${n++}`,
        () => '00112233445566aa',
      )
      if ('problem' in made) problem = made.problem
      else full = apply(full, made.diff)
    }
    expect(rowsOf(full, 'part')).toHaveLength(24)
    expect(problem).toMatch(/no room for another slider/)
  })
})

describe('a finger', () => {
  it('slides from the bottom up, or to the right, and not beyond', () => {
    const box = { width: 40, height: 200 }
    expect(levelAt('up', box, 20, 200)).toBe(0)
    expect(levelAt('up', box, 20, 50)).toBe(0.75)
    expect(levelAt('up', box, 20, -90)).toBe(1)
    expect(levelAt('right', box, 10, 0)).toBe(0.25)
  })

  it('turns a knob by clicks, whichever way round, and loses nothing between them', () => {
    expect(clicksBetween(350, 12, 0)).toEqual({ clicks: 1, left: 7 })
    expect(clicksBetween(12, 350, 0)).toEqual({ clicks: -1, left: -7 })
    let left = 0
    let clicks = 0
    for (let deg = 0; deg < 720; deg += 4) {
      const by = clicksBetween(deg % 360, (deg + 4) % 360, left)
      left = by.left
      clicks += by.clicks
    }
    expect(clicks).toBe(48)
  })
})
