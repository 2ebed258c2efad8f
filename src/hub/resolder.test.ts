import { expect, it } from 'vitest'
import type { ToStandins } from '../links/hand-link'
import type { HandClient } from './hand-client'
import { type Hanging, resolder } from './resolder'

const identity = '00112233445566aa'
const hanging = (places: Readonly<Record<string, number>>, analog = false): Hanging =>
  new Map(Object.entries(places).map(([t, place]) => [t, { identity, place, analog }]))

/** Fingers that note what they are asked to do, on a board with these contacts closed and wipers set. */
const fingers = (closed: readonly number[], wipers: readonly [number, number][] = []) => {
  const asked: ToStandins[] = []
  const hands = {
    closed: new Map([[identity, new Set(closed)]]),
    wipers: new Map([[identity, new Map(wipers)]]),
    send: (m: ToStandins) => void asked.push(m),
  } as unknown as HandClient
  /** Which contacts are closed when all of it is done. */
  const after = () => {
    const now = new Set(closed)
    for (const m of asked)
      if (m.say === 'move')
        for (const c of m.contacts) {
          if (c.closed) now.add(c.pin)
          else now.delete(c.pin)
        }
    return [...now].sort((a, b) => a - b)
  }
  return { hands, asked, after }
}

it('takes a switch that is on along with its wire', () => {
  const f = fingers([22])
  resolder(
    f.hands,
    hanging({ 'lever up': 22, 'lever down': 24 }),
    hanging({ 'lever up': 40, 'lever down': 24 }),
  )
  expect(f.after()).toEqual([40])
})

it('keeps two switches as they stand when their wires are exchanged', () => {
  const f = fingers([22])
  resolder(f.hands, hanging({ a: 22, b: 24 }), hanging({ a: 24, b: 22 }))
  expect(f.after()).toEqual([24])
})

it('opens what hangs nowhere any more, and leaves alone what has not moved', () => {
  const f = fingers([22, 30])
  resolder(f.hands, hanging({ a: 22, b: 30 }), hanging({ b: 30 }))
  expect(f.after()).toEqual([30])
  expect(f.asked).toHaveLength(1)
})

it('takes a wiper along', () => {
  const f = fingers([], [[54, 0.3]])
  resolder(f.hands, hanging({ lever: 54 }, true), hanging({ lever: 260 }, true))
  expect(f.asked).toEqual([{ say: 'slide', identity, pin: 260, level: 0.3 }])
})
