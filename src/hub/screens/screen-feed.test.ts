import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { elementKinds } from '../../core/elements/elements'
import { Engine } from '../../core/engine/engine'
import type { OfScreen } from '../../core/live/screen-feed'
import { addRow, apply, changeRow, type Diff, removeRow } from '../../core/rig/edit'
import { emptyRig, type Rig } from '../../core/rig/rig'
import type { ElementRow, ScreenRow } from '../../core/rig/rows'
import type { SimulatorCatalogue } from '../../core/rig/simulator-catalogue'
import { randomFrom } from '../../standins/craft/world'
import { ScreenFeed } from './screen-feed'

const VARIABLES = 40
const catalogue = {
  craft: 'Test',
  variables: Array.from({ length: VARIABLES }, (_, i) => ({
    ...{
      name: `v.n${i}`,
      type: 'number',
      unit: null,
      description: '',
      writable: false,
      range: null,
      group: '',
    },
  })),
  events: [],
} as unknown as SimulatorCatalogue

const screen: ScreenRow = {
  ...{ id: 's', name: 'Dash', position: 0, widthPx: 320, heightPx: 240 },
  settings: { ground: '#000000', widthMm: 60, pageBy: null },
}
const element = (i: number): ElementRow => ({
  ...{
    id: `e${i}`,
    screenId: 's',
    pageId: null,
    name: `e${i}`,
    position: i,
    x: 0,
    y: 0,
    width: 9,
    height: 9,
    angle: 0,
  },
  settings: {
    ...elementKinds.value.fresh().settings,
    follows: { value: { variable: `v.n${i}`, show: 'round(input, 0.5)' } },
  } as ElementRow['settings'],
})

/** Somebody who looks on, and what is shown there after all that was told. */
class Viewer {
  readonly heard: OfScreen[] = []
  readonly shows = new Map<string, number | string | null>()
  private keys: readonly string[] = []
  full = false
  readonly line = {
    send: (text: string) => this.take(JSON.parse(text) as OfScreen),
    isFull: () => this.full,
  }

  private take(m: OfScreen): void {
    this.heard.push(m)
    if (m.say === 'screen cells') {
      this.keys = m.keys
      this.shows.clear()
    } else if (m.say === 'screen values')
      for (const [k, i] of m.i.entries()) this.shows.set(this.keys[i] ?? '?', m.v[k] ?? null)
  }
}

let engine: Engine
let feed: ScreenFeed
let rig: Rig
beforeEach(() => {
  vi.useFakeTimers({
    toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval', 'setImmediate', 'performance'],
  })
  engine = new Engine()
  feed = new ScreenFeed(engine)
  rig = apply(emptyRig(), [addRow('screen', screen), ...[0, 1, 2].map((i) => addRow('element', element(i)))])
  engine.step({ is: 'rig', rig, diff: null }, 0)
  engine.step({ is: 'sources', sources: [{ id: 'sim', name: 'Sim', on: true, prefix: '', catalogue }] }, 0)
  engine.step({ is: 'source', source: 'sim', up: true }, 0)
})
afterEach(() => {
  vi.useRealTimers()
})

const frame = (values: Record<number, number>) => {
  engine.step(
    { is: 'frame', source: 'sim', indexes: Object.keys(values).map(Number), values: Object.values(values) },
    0,
  )
  feed.stepped()
}
const edit = (diff: Diff) => {
  rig = apply(rig, diff)
  engine.step({ is: 'rig', rig, diff }, 0)
  feed.match()
}
const soon = () => vi.advanceTimersByTime(40)

describe('whoever looks at a screen', () => {
  it('is told what follows values, then what they are, then what has changed', () => {
    const tab = new Viewer()
    frame({ 0: 1, 1: 2 })
    feed.look(tab.line, ['s'])
    soon()
    expect(tab.heard[0]).toMatchObject({
      say: 'screen cells',
      keys: ['e0 value', 'e1 value', 'e2 value'],
      problems: {},
    })
    expect(Object.fromEntries(tab.shows)).toEqual({ 'e0 value': 1, 'e1 value': 2, 'e2 value': null })
    const before = tab.heard.length
    frame({ 1: 7 })
    soon()
    expect(tab.heard.slice(before)).toEqual([{ say: 'screen values', screen: 's', i: [1], v: [7] }])
    // What looks the same once it is shaped is not told.
    frame({ 1: 7.1 })
    soon()
    expect(tab.heard).toHaveLength(before + 1)
  })

  it('is told no more often than a display shows it, and the newest', () => {
    const tab = new Viewer()
    feed.look(tab.line, ['s'])
    soon()
    const before = tab.heard.length
    for (let i = 0; i < 1000; i++) {
      frame({ 0: i })
      vi.advanceTimersByTime(1)
    }
    soon()
    expect(tab.heard.length - before).toBeGreaterThan(55)
    expect(tab.heard.length - before).toBeLessThan(76)
    expect(tab.shows.get('e0 value')).toBe(999)
  })

  it('costs nothing once it looks away', () => {
    const tab = new Viewer()
    feed.look(tab.line, ['s'])
    soon()
    feed.leave(tab.line)
    const before = tab.heard.length
    frame({ 0: 5 })
    soon()
    expect(tab.heard).toHaveLength(before)
    expect(vi.getTimerCount()).toBe(0)
  })

  it('that does not read is told the newest once it does', () => {
    const tab = new Viewer()
    feed.look(tab.line, ['s'])
    soon()
    tab.full = true
    for (let i = 0; i < 50; i++) {
      frame({ 0: i, 2: -i })
      soon()
    }
    tab.full = false
    frame({ 1: 3 })
    soon()
    expect(Object.fromEntries(tab.shows)).toEqual({ 'e0 value': 49, 'e1 value': 3, 'e2 value': -49 })
  })

  it('sees what is stale, and that it is not any more', () => {
    const tab = new Viewer()
    frame({ 0: 1 })
    feed.look(tab.line, ['s'])
    soon()
    engine.step({ is: 'quiet', source: 'sim', quiet: true }, 0)
    feed.stepped()
    soon()
    expect(tab.heard.at(-1)).toEqual({ say: 'screen values', screen: 's', i: [], v: [], stale: [0, 1, 2] })
    engine.step({ is: 'quiet', source: 'sim', quiet: false }, 0)
    feed.stepped()
    soon()
    expect(tab.heard.at(-1)).toMatchObject({ stale: [] })
    engine.step({ is: 'source', source: 'sim', up: false }, 0)
    feed.stepped()
    soon()
    expect(tab.shows.get('e0 value')).toBeNull()
  })
})

describe('a device', () => {
  it('is given its screen by its name', () => {
    const device = new Viewer()
    const leave = feed.join(device.line, 'dash')
    soon()
    expect(device.heard[0]).toMatchObject({
      say: 'screen content',
      content: { screen: { id: 's' } },
      names: ['Dash'],
    })
    leave()
    expect(vi.getTimerCount()).toBe(0)
  })

  it('is told which there are where there is none of its name, and shows it once it is drawn', () => {
    const device = new Viewer()
    feed.join(device.line, 'Fuel')
    expect(device.heard).toEqual([{ say: 'screen content', content: null, names: ['Dash'], mayTouch: false }])
    edit([addRow('screen', { ...screen, id: 't', name: 'Fuel', position: 1 })])
    soon()
    expect(device.heard[1]).toMatchObject({ say: 'screen content', content: { screen: { id: 't' } } })
    edit([removeRow('screen', { ...screen, id: 't', name: 'Fuel', position: 1 })])
    expect(device.heard.at(-1)).toMatchObject({ content: null })
  })

  it('follows edits of its screen, and hears nothing of others', () => {
    const device = new Viewer()
    feed.join(device.line, 'Dash')
    soon()
    const before = device.heard.length
    edit([addRow('screen', { ...screen, id: 't', name: 'Other', position: 1 })])
    edit([addRow('element', { ...element(9), screenId: 't' })])
    soon()
    expect(device.heard.slice(before).filter((m) => m.say === 'screen content')).toEqual([])
    frame({ 3: 12 })
    edit([addRow('element', element(3))])
    soon()
    expect(device.heard.filter((m) => m.say === 'screen content')).toHaveLength(2)
    expect(device.shows.get('e3 value')).toBe(12)
  })
})

it('whatever is told, edited, dropped and looked away from, each shows what a fresh look shows', () => {
  const random = randomFrom(19)
  const pick = (n: number) => Math.floor(random() * n)
  const viewers = Array.from({ length: 4 }, () => new Viewer())
  const leaves = new Map<Viewer, () => void>()
  for (let turn = 0; turn < 1500; turn++) {
    const viewer = viewers[pick(viewers.length)] as Viewer
    const rows = Object.values(rig.element)
    switch (pick(8)) {
      case 0:
        feed.look(viewer.line, pick(3) === 0 ? [] : ['s'])
        break
      case 1:
        if (leaves.has(viewer)) {
          leaves.get(viewer)?.()
          leaves.delete(viewer)
        } else leaves.set(viewer, feed.join(viewer.line, 'Dash'))
        break
      case 2:
        viewer.full = !viewer.full
        break
      case 3: {
        const fresh = pick(VARIABLES)
        if (!rig.element[`e${fresh}`]) edit([addRow('element', element(fresh))])
        break
      }
      case 4: {
        const row = rows[pick(rows.length)]
        if (row)
          edit([
            pick(3) === 0
              ? removeRow('element', row)
              : (changeRow('element', row, { ...row, x: row.x + 1 }) as never),
          ])
        break
      }
      case 5:
        engine.step({ is: 'source', source: 'sim', up: pick(3) > 0 }, turn)
        feed.stepped()
        break
      default:
        frame({ [pick(VARIABLES)]: pick(1000) / 10, [pick(VARIABLES)]: pick(1000) / 10 })
    }
    vi.advanceTimersByTime(pick(30))
  }
  engine.step({ is: 'source', source: 'sim', up: true }, 1e6)
  for (const v of viewers) {
    v.full = false
    feed.look(v.line, ['s'])
  }
  frame({ 0: 123 })
  soon()
  const fresh = new Viewer()
  feed.look(fresh.line, ['s'])
  soon()
  expect(fresh.shows.size).toBeGreaterThan(5)
  for (const v of viewers) expect(Object.fromEntries(v.shows)).toEqual(Object.fromEntries(fresh.shows))
})
