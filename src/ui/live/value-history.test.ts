import { describe, expect, it } from 'vitest'
import { HISTORY_MS, ValueHistory } from './value-history'

describe('the last minute of a variable', () => {
  it('keeps what came, and one sample from before its left edge', () => {
    const history = new ValueHistory()
    for (let t = 0; t <= 3 * HISTORY_MS; t += 1000) history.add('a', t, t)
    const kept = history.of('a')
    expect(kept.at(-1)).toEqual({ t: 3 * HISTORY_MS, v: 3 * HISTORY_MS })
    expect(kept[0]?.t).toBeLessThanOrEqual(2 * HISTORY_MS)
    expect(kept[1]?.t).toBeGreaterThanOrEqual(2 * HISTORY_MS)
  })
  it('does not grow with the rate of frames, and still ends with the newest value', () => {
    const history = new ValueHistory()
    for (let i = 0; i < 60 * 100; i++) history.add('a', i, i * 10)
    expect(history.of('a').length).toBeLessThan(1000)
    expect(history.of('a').at(-1)?.v).toBe(5999)
  })
  it('keeps no texts and nothing absent, and each variable for itself', () => {
    const history = new ValueHistory()
    history.add('a', 'up', 0)
    history.add('a', null, 10)
    history.add('b', 1, 10)
    expect(history.of('a')).toEqual([])
    expect(history.of('b')).toHaveLength(1)
  })
})
