// @vitest-environment happy-dom
import { act } from 'react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useDom } from '../../../tests/dom'

const operate = vi.hoisted(() => vi.fn())
vi.mock('../live/connection', () => ({ operate, select: () => {} }))

import type { PositionsAspect, TravelAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import type { PartRow } from '@/core/rig/rows'
import { SwitchWork } from './switch-work'
import { TravelWork } from './travel-work'
import { Heading } from './working'

const dom = useDom()
let now = 0
beforeEach(() => {
  operate.mockClear()
  now = 1000
  vi.spyOn(performance, 'now').mockImplementation(() => now)
  Object.assign(Element.prototype, { setPointerCapture: () => {} })
})

const horn: PartRow = {
  ...{ id: 'horn-off', panelId: 'p', name: 'Horn off', kind: 'button-10-red' },
  ...{ xMm: 0, yMm: 0, rotationDeg: 0, settings: {} },
}

/** A button as it is worked, and what its contacts tell. */
const worked = async (part = horn) => {
  const kind = partKind(part.kind)
  const aspect = kind?.aspects.find((a) => a.kind === 'positions') as PositionsAspect
  if (!kind) throw new Error('there is no such kind')
  const told = async (pose: string) => {
    const live = { aspects: { [aspect.id]: { told: pose, metered: pose } }, exercised: false }
    await dom.draw(
      <svg>
        <title>worked</title>
        <SwitchWork part={part} kind={kind} aspect={aspect} live={live} operable />
      </svg>,
    )
  }
  const hand = async (type: string, init: object = {}) =>
    act(async () => {
      dom.page
        .querySelector('[data-aspect]')
        ?.dispatchEvent(
          Object.assign(new Event(type, { bubbles: true }), { button: 0, pointerId: 1, ...init }),
        )
    })
  return { told, hand, positions: aspect.positions.map((p) => p.id) }
}
const asked = () => operate.mock.calls.map(([, , m]) => (m as { position: string }).position)

describe('a button on a page that hears late of its contacts', () => {
  it('is let go by the hand that pressed it, however long nothing was heard', async () => {
    const { told, hand, positions } = await worked()
    const [resting = '', pressed = ''] = positions
    await told(resting)
    for (const held of [40, 300, 900, 5000]) {
      operate.mockClear()
      await hand('pointerdown')
      now += held
      await hand('pointerup')
      expect(asked(), `after ${held} ms`).toEqual([pressed, resting])
      now += 10_000
    }
  })

  it('is pressed anew though it was told of late, and moved by another hand is what it was told', async () => {
    const { told, hand, positions } = await worked()
    const [resting = '', pressed = ''] = positions
    await told(resting)
    await hand('pointerdown')
    await hand('pointerup')
    now += 400
    await told(pressed)
    await hand('pointerdown')
    await told(resting)
    await hand('pointerup')
    expect(asked()).toEqual([pressed, resting, pressed, resting])
  })
})

describe('a button whose page goes away under the hand', () => {
  it.each([
    ['to another view', () => dom.draw(null)],
    ['altogether', async () => void window.dispatchEvent(new Event('pagehide'))],
  ])('is let go: %s', async (_, go) => {
    const { told, hand, positions } = await worked()
    const [resting = '', pressed = ''] = positions
    await told(resting)
    await hand('pointerdown')
    await go()
    expect(asked()).toEqual([pressed, resting])
    operate.mockClear()
    await go()
    expect(asked()).toEqual([])
  })

  it('stays where Shift has put it', async () => {
    const { told, hand, positions } = await worked()
    await told(positions[0] ?? '')
    await hand('pointerdown', { shiftKey: true })
    await hand('pointerup')
    await dom.draw(null)
    expect(asked()).toEqual([positions[1]])
  })
})

describe('a lever on such a page', () => {
  it('goes a step further with each key, and on from where another hand has put it', async () => {
    const part: PartRow = { ...horn, id: 'lever', name: 'Lever', kind: 'lever-slide-75' }
    const kind = partKind(part.kind)
    const aspect = kind?.aspects.find((a) => a.kind === 'travel') as TravelAspect
    if (!kind) throw new Error('there is no such kind')
    const told = (metered: number) => {
      const live = { aspects: { [aspect.id]: { told: 0, metered } }, exercised: false }
      return dom.draw(
        <svg>
          <title>worked</title>
          <TravelWork part={part} kind={kind} aspect={aspect} live={live} operable />
        </svg>,
      )
    }
    const up = () => dom.press(dom.page.querySelector('[data-aspect]') as Element, 'ArrowUp')
    await told(0.5)
    for (let i = 0; i < 3; i++) {
      await up()
      now += 900
    }
    const levels = () =>
      operate.mock.calls.map(([, , m]) => Number((m as { level: number }).level.toFixed(3)))
    expect(levels()).toEqual([0.52, 0.54, 0.56])
    await told(0.56)
    await told(0.2)
    await up()
    expect(levels().at(-1)).toBe(0.22)
  })
})

describe('where a switch is headed for', () => {
  it('is where it was asked to go last, until the contacts tell so or somebody else was on it', () => {
    const heading = new Heading()
    expect(heading.from('off', 0)).toBe('off')
    heading.ask('on', 10)
    expect(heading.from('off', 900)).toBe('on')
    heading.ask('off', 910)
    heading.ask('on', 920)
    // What is told of the first is no news of the last.
    expect(heading.from('on', 930)).toBe('on')
    expect(heading.from('off', 940)).toBe('on')
    expect(heading.from('on', 950)).toBe('on')
    expect(heading.from('off', 960)).toBe('off')
    heading.ask('on', 970)
    expect(heading.from('middle', 980)).toBe('middle')
    heading.ask('on', 990)
    expect(heading.from(null, 1000)).toBe('on')
    // Nothing comes of it: the contacts are right.
    expect(heading.from('middle', 5000)).toBe('middle')
  })
})
