import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { byCorrelation, byCount, isTop, kinds, type Run, run } from '../../../tests/hunt-scenes'
import { huntWords, rankHunt } from './hunt'
import { HuntWatch } from './hunt-watch'

const TRIES = 5
const judged = (operations: number) => {
  const runs = Object.values(kinds).flatMap((kind) =>
    Array.from({ length: TRIES }, (_, seed) => run(kind, operations, 100 * operations + seed)),
  )
  const share = (judge: (r: Run) => boolean) => runs.filter(judge).length / runs.length
  return { hunt: share(isTop), count: share(byCount), correlation: share(byCorrelation) }
}

describe('the hunt', () => {
  it('finds what the hand moves among what moves by itself, sooner than other ways', () => {
    const one = judged(1)
    const three = judged(3)
    expect(one.hunt).toBeGreaterThan(0.7)
    expect(three.hunt).toBeGreaterThan(0.95)
    expect(three.count).toBeLessThan(three.hunt - 0.2)
    expect(one.correlation).toBeLessThan(one.hunt)
  })
  for (const [name, kind] of Object.entries(kinds))
    it(`finds ${name} after three operations`, () => {
      let right = 0
      for (let seed = 1; seed <= TRIES; seed++) if (isTop(run(kind, 3, 7000 + seed))) right++
      expect(right).toBeGreaterThanOrEqual(TRIES - 1)
    })
  it('finds a pair of which one moves each way', () => {
    const operated = [0, 1, 2, 3].map((i) => 10_000 + i * 4000)
    const watch = new HuntWatch(50, 0)
    for (let i = 0; i < 50; i++) watch.begin(i, 0)
    const at: [number, number, number][] = operated.flatMap((o, i): [number, number, number][] => [
      [o, i % 2 === 0 ? 7 : 31, 1],
      [o + 120, i % 2 === 0 ? 7 : 31, 0],
    ])
    // Another that moves at the first mark, and in between.
    at.push([10_100, 9, 1], [16_200, 9, 0])
    for (const [t, i, v] of at.sort((a, b) => a[0] - b[0])) watch.note(i, v, t)
    const [best] = rankHunt(
      watch,
      operated.map((o) => o + 200),
      26_000,
    )
    expect([best?.index, best?.partner]).toEqual([7, 31])
    expect(huntWords(best as never)).toBe(
      'one of the two moved at all 4 marks, never otherwise; goes and comes back',
    )
  })
  it('takes nothing for moved that a 32-bit float would not tell apart, until it has crept far enough', () => {
    const watch = new HuntWatch(1, 0)
    watch.begin(0, 1900)
    watch.note(0, 1900.00001, 9000)
    expect(rankHunt(watch, [9100], 9500)).toEqual([])
    for (let i = 2; i <= 40; i++) watch.note(0, 1900 + i * 0.00001, 9000 + i)
    expect(rankHunt(watch, [9100], 9500)).toHaveLength(1)
  })
  it('takes nothing for found that came into being, or moved before anybody marked', () => {
    const watch = new HuntWatch(3, 0)
    watch.begin(0, Number.NaN)
    watch.begin(1, 5)
    watch.begin(2, 5)
    watch.note(0, 1, 9000)
    watch.note(1, 6, 3000)
    watch.note(2, 6, 9000)
    expect(rankHunt(watch, [], 9500)).toEqual([])
    expect(rankHunt(watch, [9100], 9500).map((c) => c.index)).toEqual([2])
  })
  it('counts no movement for two marks, however quickly one follows the other', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 8 }),
        fc.array(fc.array(fc.integer({ min: 0, max: 400 }), { maxLength: 9 }), {
          minLength: 1,
          maxLength: 6,
        }),
        (gaps, moves) => {
          let at = 10_000
          const marks = gaps.map((g) => {
            at += 100 * g
            return at
          })
          const watch = new HuntWatch(moves.length, 0)
          const all = moves.flatMap((list, i) => {
            watch.begin(i, 0)
            return list.map((t, k) => [8000 + 100 * t, i, k + 1] as const)
          })
          for (const [t, i, v] of all.sort((a, b) => a[0] - b[0])) watch.note(i, v, t)
          const ranked = rankHunt(watch, marks, at + 30_000)
          for (const c of ranked) {
            const there = c.atMarks.filter((o) => o !== null)
            expect(new Set(there).size).toBe(there.length)
            expect(c.otherwise).toBeGreaterThanOrEqual(0)
            expect(Number.isFinite(c.score) && c.sure >= 0 && c.sure <= 1).toBe(true)
          }
          expect(ranked.map((c) => c.score)).toEqual(ranked.map((c) => c.score).sort((a, b) => b - a))
        },
      ),
      { numRuns: 400 },
    )
  })
  it('says why, in words', () => {
    const { watch, marks, now, right } = run(kinds['a switch of three positions'] as never, 4, 5)
    const [best] = rankHunt(watch, marks, now)
    expect(best?.index).toBe(right)
    expect(best?.sure).toBeGreaterThan(0.9)
    expect(huntWords(best as never)).toBe('moved at all 4 marks, never otherwise; 3 levels')
    expect([...(best?.levels ?? [])].sort()).toEqual([0, 4, 9])
  })
})
