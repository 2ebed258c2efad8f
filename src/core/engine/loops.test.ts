import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { control, smallRig, Workbench } from '../../../tests/rigs'
import { type Follower, loopsAmong } from './loops'

const follower = (id: string, reads: number[], writes: number[]): Follower => ({ id, reads, writes })

describe('what would set itself off for ever', () => {
  it('is what reads what it writes, by itself or through others', () => {
    expect(loopsAmong([follower('a', [1], [1])])).toEqual(new Set(['a']))
    const ring = [follower('a', [1], [2]), follower('b', [2], [3]), follower('c', [3], [1])]
    expect(loopsAmong(ring)).toEqual(new Set(['a', 'b', 'c']))
  })

  it('is not what only leads into a ring, or comes out of one', () => {
    const all = [
      follower('into', [9], [1]),
      follower('a', [1], [2]),
      follower('b', [2], [1]),
      follower('out', [2], [8]),
    ]
    expect(loopsAmong(all)).toEqual(new Set(['a', 'b']))
    expect(loopsAmong([follower('a', [1], [2]), follower('b', [2], [3])])).toEqual(new Set())
  })

  it('is there if and only if a way leads back', () => {
    const slot = fc.integer({ min: 0, max: 5 })
    const some = fc.array(fc.record({ reads: fc.array(slot), writes: fc.array(slot) }), { maxLength: 6 })
    fc.assert(
      fc.property(some, (list) => {
        const all = list.map((f, i) => follower(`${i}`, f.reads, f.writes))
        // The ways of any length, by squaring the relation often enough.
        let ways = all.map((a) => all.map((b) => a.writes.some((s) => b.reads.includes(s))))
        for (let i = 0; i < 4; i++)
          ways = ways.map((row, a) =>
            row.map(
              (is, b) => is || row.some((step, k) => step && ways[k]?.[b] === true) || ways[a]?.[b] === true,
            ),
          )
        const expected = all.filter((_, i) => ways[i]?.[i]).map((f) => f.id)
        expect([...loopsAmong(all)].sort()).toEqual(expected.sort())
      }),
    )
  })

  it('is stopped in a rig, and said at its path', () => {
    const rig = smallRig({
      lever: control({
        ...{ when: 'hold', value: 'input ? 1 : 0', onlyWhile: 'gear.lever == 0', position: 'up' },
        actions: [{ do: 'set', variable: 'gear.lever' }],
      }),
    })
    const bench = new Workbench(rig).live()
    const state = bench.engine.units.get('lever')?.controls[0]?.bindings[0]
    expect(state?.looping).toBe(true)
  })
})
