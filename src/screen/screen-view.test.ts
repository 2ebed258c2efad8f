// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type ElementKindName, elementKinds } from '../core/elements/elements'
import type { ElementRow } from '../core/rig/rows'
import type { ScreenContent } from '../core/screens/content'
import { ScreenView } from './screen-view'

const element = (
  id: string,
  kind: ElementKindName,
  more: object = {},
  row: Partial<ElementRow> = {},
): ElementRow => {
  const { width, height, settings } = elementKinds[kind].fresh()
  return {
    ...{ id, screenId: 's', pageId: null, name: id, position: 0, x: 10, y: 20, width, height, angle: 0 },
    settings: { ...settings, ...more } as ElementRow['settings'],
    ...row,
  }
}
const follows = (...properties: string[]) => ({
  follows: Object.fromEntries(properties.map((p) => [p, { variable: 'v', show: 'input' }])),
})
const content = (elements: ElementRow[], more: Partial<ScreenContent> = {}): ScreenContent => ({
  screen: {
    ...{ id: 's', name: 'S', position: 0, widthPx: 320, heightPx: 240 },
    settings: { ground: '#101010', widthMm: 60, pageBy: 'p' },
  },
  pages: [
    { id: 'one', screenId: 's', name: 'ONE', position: 0 },
    { id: 'two', screenId: 's', name: 'TWO', position: 1 },
  ],
  pictures: {},
  left: 0,
  elements,
  ...more,
})

let now = 0
let view: ScreenView
let svg: SVGSVGElement
const paged = vi.fn()
beforeEach(() => {
  vi.stubGlobal('requestAnimationFrame', () => 1)
  now = 0
  svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
  document.body.append(svg)
  view = new ScreenView(svg, () => now, paged)
})
afterEach(() => {
  view.end()
  svg.remove()
  vi.unstubAllGlobals()
})

const node = (id: string): Element => svg.querySelector(`[data-element="${id}"]`) as Element
const tell = (values: Record<string, number | string | null>, stale?: readonly number[]) => {
  const keys = Object.keys(values)
  view.setCells(keys)
  view.setValues(
    keys.map((_, i) => i),
    Object.values(values),
    stale,
  )
  view.draw()
}

/** What was touched while something was done: attributes and words, by what they lie in. */
const touched = (work: () => void): string[] => {
  const found = new Set<string>()
  const note = (of: Node | null) => {
    const own = of instanceof Element ? of : of?.parentElement
    found.add(own?.closest('[data-element]')?.getAttribute('data-element') ?? 'screen')
  }
  const set = Element.prototype.setAttribute
  const put = vi.spyOn(Element.prototype, 'setAttribute').mockImplementation(function (
    this: Element,
    name,
    value,
  ) {
    note(this)
    set.call(this, name, value)
  })
  const data = Object.getOwnPropertyDescriptor(CharacterData.prototype, 'data')
  const words = vi.spyOn(CharacterData.prototype, 'data', 'set').mockImplementation(function (
    this: CharacterData,
    to,
  ) {
    note(this)
    data?.set?.call(this, to)
  })
  work()
  put.mockRestore()
  words.mockRestore()
  return [...found].sort()
}

describe('a screen as it is drawn', () => {
  it.each(Object.keys(elementKinds) as ElementKindName[])(
    'draws a %s without a value, with one, with an absurd one, and without again',
    (kind) => {
      const { settings } = elementKinds[kind].fresh()
      const main = elementKinds[kind].live(settings).map((l) => l.property)
      view.setContent(content([element('e', kind, follows(...main))]))
      view.draw()
      const empty = node('e').innerHTML
      expect(empty).not.toBe('')
      const [least, most] = elementKinds[kind].range(settings)
      for (const v of [(least + most) / 2, least, most, 1e30, -1e30, Number.NaN]) {
        tell(Object.fromEntries(main.map((p) => [`e ${p}`, v])))
        expect(node('e').outerHTML).not.toMatch(/NaN|undefined|Infinity/)
      }
      tell(Object.fromEntries(main.map((p) => [`e ${p}`, null])))
      expect(node('e').outerHTML).not.toMatch(/NaN|undefined|null/)
    },
  )

  it('touches what has changed and nothing else', () => {
    const all = ['a', 'b', 'c'].map((id) => element(id, 'value', follows('value')))
    view.setContent(content(all))
    tell({ 'a value': 1, 'b value': 2, 'c value': 3 })
    expect(touched(() => tell({ 'a value': 1, 'b value': 5, 'c value': 3 }))).toEqual(['b'])
    // The same value again, or one that looks the same, is no change.
    expect(touched(() => tell({ 'a value': 1.2, 'b value': 5, 'c value': 3 }))).toEqual([])
  })

  it('lies where it is set, turned about its middle, or where its values say', () => {
    view.setContent(content([element('e', 'frame', follows('x'), { width: 40, height: 20, angle: 90 })]))
    view.draw()
    expect(node('e').getAttribute('transform')).toBe('translate(10 20) rotate(90 20 10)')
    tell({ 'e x': 55.5 })
    expect(node('e').getAttribute('transform')).toBe('translate(55.5 20) rotate(90 20 10)')
    tell({ 'e x': null })
    expect(node('e').getAttribute('transform')).toBe('translate(10 20) rotate(90 20 10)')
  })

  it('grows with a value, is seen or not, and blinks in its time', () => {
    view.setContent(content([element('e', 'frame', follows('width', 'visible', 'blink'))]))
    tell({ 'e width': 77, 'e visible': 1, 'e blink': 2 })
    expect(Number(node('e').querySelector('rect')?.getAttribute('width'))).toBeCloseTo(75.5)
    expect(node('e').getAttribute('opacity')).toBe('1')
    now = 260
    view.draw()
    expect(node('e').getAttribute('opacity')).toBe('0')
    now = 510
    view.draw()
    expect(node('e').getAttribute('opacity')).toBe('1')
    tell({ 'e width': 77, 'e visible': 0, 'e blink': 0 })
    expect(node('e').getAttribute('display')).toBe('none')
    // Whether it is to be seen is not known: then it is not.
    tell({ 'e width': 77, 'e visible': null, 'e blink': 0 })
    expect(node('e').getAttribute('display')).toBe('none')
  })

  it('takes its colour from what it follows, from ranges, or as it is set', () => {
    const ranges = {
      stops: [
        { at: 0, colour: '#00ff00' },
        { at: 50, colour: '#ff0000' },
      ],
      blend: false,
    }
    view.setContent(
      content([
        element('a', 'value', { ...follows('value'), ranges }),
        element('b', 'value', { ...follows('value', 'colour'), ranges }),
      ]),
    )
    const fill = (id: string) => node(id).querySelector('text')?.getAttribute('fill')
    tell({ 'a value': 60, 'b value': 60, 'b colour': 'blue' })
    expect([fill('a'), fill('b')]).toEqual(['#ff0000', '#5aa0e0'])
    tell({ 'a value': 20, 'b value': 60, 'b colour': 'url(javascript:alert(1))' })
    expect([fill('a'), fill('b')]).toEqual(['#00ff00', '#eef2ee'])
  })

  it('that is only glanced at is drawn so often and no more, and ends with the newest', () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] })
    const frames: FrameRequestCallback[] = []
    vi.stubGlobal('requestAnimationFrame', (f: FrameRequestCallback) => frames.push(f))
    view.pauseMs = 250
    view.setContent(content([element('a', 'value', follows('value'))]))
    view.setCells(['a value'])
    let pictures = 0
    for (let ms = 0; ms < 1000; ms += 10) {
      view.setValues([0], [ms], undefined)
      for (const f of frames.splice(0)) {
        pictures++
        f(ms)
      }
      vi.advanceTimersByTime(10)
    }
    vi.advanceTimersByTime(300)
    for (const f of frames.splice(0)) f(0)
    expect(pictures).toBeLessThan(6)
    expect(node('a').textContent).toBe('990')
    vi.useRealTimers()
  })

  it('is grey while its source says nothing', () => {
    view.setContent(
      content([element('a', 'value', follows('value')), element('b', 'value', follows('value'))]),
    )
    tell({ 'a value': 1, 'b value': 2 }, [1])
    expect([node('a').getAttribute('opacity'), node('b').getAttribute('opacity')]).toEqual(['1', '0.4'])
    tell({ 'a value': 1, 'b value': 2 }, [])
    expect(node('b').getAttribute('opacity')).toBe('1')
  })

  it('shows one page with what lies on every page, and says when there is none of the name', () => {
    view.setContent(
      content([
        element('first', 'words', {}, { pageId: 'one' }),
        element('second', 'words', {}, { pageId: 'two' }),
        element('both', 'words'),
      ]),
    )
    const seen = () => ['first', 'second', 'both'].filter((id) => node(id).getAttribute('display') !== 'none')
    view.draw()
    expect(seen()).toEqual(['first', 'both'])
    tell({ ' page': 'TWO' })
    expect(seen()).toEqual(['second', 'both'])
    tell({ ' page': 'THREE' })
    expect(seen()).toEqual(['first', 'both'])
    expect(paged).toHaveBeenLastCalledWith('one', 'There is no page “THREE”.')
    view.showPage('two')
    view.draw()
    expect(seen()).toEqual(['second', 'both'])
  })

  it('after an edit keeps what was not edited, with its values, in the new order', () => {
    const [a, b] = [element('a', 'value', follows('value')), element('b', 'value', follows('value'))]
    view.setContent(content([a, b]))
    tell({ 'a value': 1, 'b value': 2 })
    const kept = node('a')
    view.setContent(content([{ ...b, x: 99 }, JSON.parse(JSON.stringify(a))]))
    view.draw()
    expect(node('a')).toBe(kept)
    expect([...svg.querySelectorAll('[data-element]')].map((e) => e.getAttribute('data-element'))).toEqual([
      'b',
      'a',
    ])
    expect(node('b').textContent).toBe('2')
    view.setContent(content([a]))
    view.draw()
    expect(node('b')).toBeNull()
  })

  it('shows samples in place of what is told, and what is told again afterwards', () => {
    view.setContent(content([element('a', 'value', follows('value'))]))
    tell({ 'a value': 1 })
    view.setSamples(new Map([['a value', 42]]))
    view.draw()
    expect(node('a').textContent).toBe('42')
    view.setValues([0], [7], undefined)
    view.draw()
    expect(node('a').textContent).toBe('42')
    view.setSamples(new Map())
    view.draw()
    expect(node('a').textContent).toBe('7')
  })

  it('what follows nothing any more is as it is set', () => {
    view.setContent(content([element('a', 'frame', follows('x'))]))
    tell({ 'a x': 200 })
    view.setContent(content([element('a', 'frame')]))
    tell({})
    expect(node('a').getAttribute('transform')).toBe('translate(10 20)')
  })

  it('shows a picture as one: nothing of its file becomes part of the page', () => {
    const picture = {
      ...{ id: 'p', screenId: 's', name: 'p' },
      settings: {
        as: 'svg' as const,
        width: 1,
        height: 1,
        data: '<svg xmlns="x" width="1" height="1"><g id="in"/></svg>',
      },
    }
    view.setContent(content([element('a', 'picture', { picture: 'p' })], { pictures: { p: picture } }))
    view.draw()
    expect(node('a').querySelector('image')?.getAttribute('href')).toMatch(/^data:image\/svg\+xml;/)
    expect(node('a').querySelector('g')).toBeNull()
    view.setContent(content([element('a', 'picture', { picture: 'gone' })]))
    view.draw()
    expect(node('a').textContent).toBe('this picture is gone')
  })

  it('a tape is drawn anew only where it has run out of what was drawn, and runs the short way round', () => {
    const tape = element('t', 'tape', {
      ...follows('value'),
      along: 'right',
      round: 360,
      least: null,
      span: 90,
    })
    view.setContent(content([tape]))
    tell({ 't value': 350 })
    const run = node('t').querySelectorAll('g')[1]
    const before = run?.childElementCount
    const drawn = run?.firstElementChild
    tell({ 't value': 20 })
    expect(run?.firstElementChild).toBe(drawn)
    expect(run?.childElementCount).toBe(before)
    // 30° on, and not 330° back: 90° over 80 dots.
    const shift = Number(/translate\((-?[\d.]+)/.exec(run?.getAttribute('transform') ?? '')?.[1])
    expect(shift).toBeCloseTo(40 - 30 * (80 / 90), 1)
    tell({ 't value': 140 })
    expect(run?.firstElementChild).not.toBe(drawn)
  })
})

describe('a part of the catalogue on a screen', () => {
  it('is drawn by whoever draws panels, told the state that a bare value makes of it', () => {
    const told: unknown[] = []
    view.setContent(content([element('d', 'part', { ...follows('value'), part: 'digits-6-max7219' })]))
    tell({ 'd value': 1250 })
    expect(node('d').querySelector('rect')).not.toBeNull()
    view.setParts((group, kind) => {
      group.setAttribute('data-kind', kind.id)
      return (state) => told.push(state)
    })
    view.draw()
    expect(node('d').querySelector('[data-kind]')).not.toBeNull()
    tell({ 'd value': null })
    tell({ 'd value': 7 })
    expect(told.map(String).map((s) => s.slice(1).trim())).toEqual(['1250', '', '7'])
  })
})
