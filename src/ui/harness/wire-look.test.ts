import { describe, expect, it } from 'vitest'
import { kindOf } from '@/core/catalogue/own-kind'
import { partKind, partKinds } from '@/core/catalogue/parts'
import type { AspectLive, PartLive } from '@/core/live/feed'
import type { PartRow } from '@/core/rig/rows'
import { hasWords, liveAt } from './wire-look'

const part = (kind: string): PartRow => ({
  ...{ id: 'p', panelId: 'panel', name: 'P', kind, xMm: 0, yMm: 0, rotationDeg: 0, settings: {} },
})
const live = (aspects: Record<string, Partial<AspectLive>>): PartLive => ({
  aspects: Object.fromEntries(
    Object.entries(aspects).map(([id, a]) => [id, { told: null, metered: null, ...a }]),
  ),
  exercised: false,
})
/** The only aspect of a kind, or the one of this sort. */
const aspectId = (kind: string, sort?: string): string => {
  const aspect = partKind(kind)?.aspects.find((a) => sort === undefined || a.kind === sort)
  if (!aspect) throw new Error(`${kind} has no ${sort}`)
  return aspect.id
}
const at = (kind: string, terminal: string, now: Partial<AspectLive>, sort?: string) =>
  liveAt(part(kind), terminal, live({ [aspectId(kind, sort)]: now }))

describe('what is live at the end of a wire', () => {
  it('is on where the contact is closed in the position the board tells, else in that of the hand', () => {
    expect(at('wheel-lever', 'up', { told: 'up' })).toEqual({ on: true, words: null })
    expect(at('wheel-lever', 'down', { told: 'up' })).toEqual({ on: false, words: null })
    expect(at('wheel-lever', 'up', { told: 'down', metered: 'up' }).on).toBe(false)
    expect(at('wheel-lever', 'up', { metered: 'up' }).on).toBe(true)
  })

  it('is on while a lamp has a level, by the meter on its pin before what was asked; at either terminal', () => {
    expect(at('lamp-8-green', 'plus', { told: 255 }).on).toBe(true)
    expect(at('lamp-8-green', 'minus', { told: 255 }).on).toBe(true)
    // It blinks and is out just now.
    expect(at('lamp-8-green', 'plus', { told: 255, metered: 0 }).on).toBe(false)
    // A period of blinking is no level.
    expect(at('lamp-8-green', 'plus', { told: 20 << 8 }).on).toBe(false)
    expect(at('lamp-8-green', 'plus', {}).on).toBeNull()
  })

  it('is in words where it stands or what it shows, at the first of several wires', () => {
    expect(at('lever-slide-75', 'wiper', { told: 0.5 })).toEqual({ on: null, words: '0.500' })
    expect(at('digits-5-max7219', 'data', { told: 'F 1013' }).words).toBe('1013')
    expect(at('digits-5-max7219', 'clock', { told: 'F 1013' })).toEqual({ on: null, words: null })
    expect(at('gauge-50', 'coil-1', { told: 0, metered: 1575 }).words).toBe('0°')
    expect(at('rotary-4-ladder', 'wiper', { told: '3' }).words).toBe('3')
    expect(at('encoder-dual-push', 'outer-a', { told: 12 }, 'encoder').words).toBe('12 clicks')
    expect(at('encoder-dual-push', 'outer-b', { told: 12 }, 'encoder').words).toBeNull()
  })

  it('is nothing at supplies and commons, for what nothing was heard of, and for unknown parts', () => {
    const nothing = { on: null, words: null }
    expect(at('wheel-lever', 'common', { told: 'up' })).toEqual(nothing)
    expect(at('digits-5-max7219', 'plus', { told: 'F 1013' })).toEqual(nothing)
    expect(at('lever-slide-75', 'wiper', {})).toEqual(nothing)
    expect(liveAt(part('wheel-lever'), 'up', undefined)).toEqual(nothing)
    expect(liveAt(part('no-such-part'), 'up', live({}))).toEqual(nothing)
  })

  it('has room for words wherever there may be some, and nowhere else', () => {
    for (const kind of partKinds)
      for (const t of kind.terminals) {
        const silent = ['plus', 'ground', 'common', 'lamp-plus', 'lamp-minus'].includes(t.role)
        if (silent) expect(hasWords(kindOf(part(kind.id)), t.id), `${kind.id} ${t.id}`).toBe(false)
      }
    expect(hasWords(partKind('lever-slide-75'), 'wiper')).toBe(true)
    expect(hasWords(undefined, 'wiper')).toBe(false)
  })
})
