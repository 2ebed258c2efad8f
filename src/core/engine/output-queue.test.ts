import { describe, expect, it } from 'vitest'
import { OutputQueue } from './output-queue'

/** Lamps, needles and text. */
const priorities = { lamp: 0, needle: 1, text: 2 } as const

/** Takes whatever the line carries until nothing waits; says when each went. */
const drain = (queue: OutputQueue, from: number, most = 100_000) => {
  const sent: { at: number; slot: number; row: number; state: number | string }[] = []
  for (let now = from; queue.size > 0 && now < from + most; now = queue.readyAt(now))
    for (const o of queue.take(now)) sent.push({ at: now, ...o })
  return sent
}

describe('what waits for a board', () => {
  it('is only the latest of each slot and row', () => {
    const queue = new OutputQueue()
    queue.put(3, 0, 1, priorities.lamp, 0)
    queue.put(3, 0, 2, priorities.lamp, 0)
    queue.put(4, 1, 'A', priorities.text, 0)
    queue.put(4, 1, 'B', priorities.text, 0)
    queue.put(4, 2, 'C', priorities.text, 0)
    expect(queue.size).toBe(3)
    expect(queue.take(10).map((o) => [o.slot, o.row, o.state])).toEqual([
      [3, 0, 2],
      [4, 1, 'B'],
      [4, 2, 'C'],
    ])
    expect(queue.size).toBe(0)
  })

  it('goes lamps first, then needles, then text', () => {
    const queue = new OutputQueue()
    queue.put(1, 0, 'TEXT', priorities.text, 0)
    queue.put(2, 0, 900, priorities.needle, 0)
    queue.put(3, 0, 255, priorities.lamp, 0)
    // Each class was served just now, so that none is owed a turn.
    expect(queue.take(10).map((o) => o.slot)).toEqual([3, 2, 1])
  })

  it('is no more than the line carries: half of 115,200 baud', () => {
    const queue = new OutputQueue()
    for (let slot = 0; slot < 500; slot++) queue.put(slot, 0, slot, priorities.lamp, 0)
    const sent = drain(queue, 1000)
    expect(sent).toHaveLength(500)
    const last = sent.at(-1)?.at ?? 0
    const bytes = 500 * 4
    // No faster than the line, and no slower than with a frame round each.
    expect(last - 1000).toBeGreaterThan((bytes - 115) / 5.76)
    expect(last - 1000).toBeLessThan((500 * 14) / 5.76)
  })

  it('is told which moment to come back, and something goes then', () => {
    const queue = new OutputQueue()
    for (let slot = 0; slot < 100; slot++) queue.put(slot, 0, 1, priorities.lamp, 0)
    queue.take(1000)
    const ready = queue.readyAt(1000)
    expect(ready).toBeGreaterThan(1000)
    expect(queue.take(ready).length).toBeGreaterThan(0)
  })

  it('starves nothing: text gets its turn while lamps never stop', () => {
    const queue = new OutputQueue()
    const told = { lamp: 0, needle: 0, text: 0 }
    for (let now = 1000; now < 3000; now += 5) {
      for (let slot = 0; slot < 40; slot++) queue.put(slot, 0, now, priorities.lamp, now)
      queue.put(50, 0, now, priorities.needle, now)
      queue.put(60, 0, `LINE ${now}`, priorities.text, now)
      for (const o of queue.take(now)) {
        if (o.slot < 50) told.lamp++
        else if (o.slot === 50) told.needle++
        else told.text++
      }
    }
    expect(told.needle).toBeGreaterThan(20)
    expect(told.text).toBeGreaterThan(10)
    expect(told.lamp).toBeGreaterThan(told.needle)
  })

  it('is sent even where it is longer than a burst', () => {
    const queue = new OutputQueue()
    queue.put(1, 0, 'x'.repeat(250), priorities.text, 0)
    expect(drain(queue, 1000).map((o) => o.slot)).toEqual([1])
  })

  it('is forgotten when the board goes', () => {
    const queue = new OutputQueue()
    queue.put(1, 0, 5, priorities.lamp, 0)
    queue.forget()
    expect([queue.size, queue.take(1000)]).toEqual([0, []])
  })
})

describe('a board that confirms nothing', () => {
  it('costs no more memory the longer it is told, and is confirmed as soon as it says so', () => {
    const queue = new OutputQueue()
    for (let now = 0; now < 600_000; now += 20) {
      queue.put(1, 0, now, priorities.lamp, now)
      queue.take(now)
    }
    expect(queue.kept).toBeLessThanOrEqual(256)
    expect(queue.waitsSince(1)).toBe(0)
    queue.confirm(queue.batch - 1)
    expect(queue.isUnconfirmed).toBe(true)
    queue.confirm(queue.batch)
    expect(queue.isUnconfirmed).toBe(false)
    expect(queue.kept).toBe(0)
  })
})
