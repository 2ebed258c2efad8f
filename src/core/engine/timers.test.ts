import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { OutputQueue } from './output-queue'

/** Lamps, needles and text. */
const priorities = { lamp: 0, needle: 1, text: 2 } as const

import { Timers } from './timers'

describe('timers', () => {
  it('come due in order of time, and of asking at the same time', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 20 }), { maxLength: 60 }), (times) => {
        const timers = new Timers<number>()
        for (const [i, at] of times.entries()) timers.add(at, i)
        const got: number[] = []
        for (let what = timers.due(100); what !== undefined; what = timers.due(100)) got.push(what)
        expect(got).toEqual(
          times
            .map((at, i) => ({ at, i }))
            .sort((a, b) => a.at - b.at || a.i - b.i)
            .map((x) => x.i),
        )
      }),
    )
  })
  it('do not come due early', () => {
    const timers = new Timers<string>()
    timers.add(50, 'later')
    expect(timers.due(49)).toBeUndefined()
    expect(timers.next()).toBe(50)
    expect(timers.due(50)).toBe('later')
    expect(timers.next()).toBeNull()
  })
})

describe('the output queue of a board', () => {
  it('never sends more than a line of 115,200 baud carries, and never queues more than one state a slot', () => {
    const queue = new OutputQueue()
    let bytes = 0
    for (let ms = 0; ms < 2000; ms++) {
      for (let slot = 0; slot < 40; slot++) queue.put(slot, 0, ms, 0, ms)
      const batch = queue.take(ms)
      if (batch.length > 0) bytes += 10 + batch.length * 4
      expect(queue.size).toBeLessThanOrEqual(40)
    }
    expect(bytes / 2).toBeLessThan(11_520)
    expect(bytes / 2).toBeGreaterThan(3000)
  })

  it('lets every slot have its turn, with its latest state', () => {
    const queue = new OutputQueue()
    const told = new Map<number, number>()
    for (let slot = 0; slot < 200; slot++) queue.put(slot, 0, 1, 0, 0)
    queue.put(7, 0, 2, 0, 0)
    for (let ms = 0; queue.size > 0; ms = queue.readyAt(ms))
      for (const o of queue.take(ms)) told.set(o.slot, Number(o.state))
    expect(told.size).toBe(200)
    expect(told.get(7)).toBe(2)
  })

  it('sends lamps before needles before text, and of each only the latest', () => {
    const queue = new OutputQueue()
    for (let row = 0; row < 4; row++) queue.put(3, row, 'x'.repeat(20), priorities.text, 0)
    for (let slot = 10; slot < 30; slot++) queue.put(slot, 0, 900, priorities.needle, 0)
    for (let slot = 40; slot < 60; slot++) queue.put(slot, 0, 255, priorities.lamp, 0)
    queue.put(3, 2, 'y'.repeat(20), priorities.text, 0)
    const order: string[] = []
    const rows = new Map<number, string>()
    for (let ms = 0; queue.size > 0; ms = queue.readyAt(ms)) {
      for (const o of queue.take(ms)) {
        order.push(typeof o.state === 'string' ? 'text' : o.slot < 30 ? 'needle' : 'lamp')
        if (typeof o.state === 'string') rows.set(o.row, o.state)
      }
    }
    expect(order).toEqual([...Array(20).fill('lamp'), ...Array(20).fill('needle'), ...Array(4).fill('text')])
    expect(rows.get(2)).toBe('y'.repeat(20))
  })

  it('lets needles and text have their turn while lamps never stop', () => {
    const queue = new OutputQueue()
    const told = { lamp: 0, needle: 0, text: 0 }
    for (let ms = 0; ms < 10_000; ms += 2) {
      for (let slot = 0; slot < 40; slot++) queue.put(slot, 0, ms & 255, priorities.lamp, ms)
      queue.put(50, 0, ms, priorities.needle, ms)
      queue.put(60, 0, `${ms}`.padEnd(20), priorities.text, ms)
      for (const o of queue.take(ms)) told[o.slot < 50 ? 'lamp' : o.slot < 60 ? 'needle' : 'text']++
    }
    expect(told.needle).toBeGreaterThan(150)
    expect(told.text).toBeGreaterThan(60)
    expect(told.lamp).toBeGreaterThan(5 * (told.needle + told.text))
  })
})
