import fc from 'fast-check'
import { expect, it } from 'vitest'
import { Growing } from './growing'

it('whatever comes late or twice is left out, and what is taken only grows', () => {
  fc.assert(
    fc.property(
      fc.array(fc.record({ lost: fc.boolean(), twice: fc.boolean(), swapped: fc.boolean() }), {
        minLength: 4,
        maxLength: 120,
      }),
      (faults) => {
        const line: number[] = []
        for (const [i, f] of faults.entries()) {
          if (f.lost) continue
          line.push(i)
          if (f.twice) line.push(i)
          // Late by one place: the next overtakes it.
          if (f.swapped && line.length > 1) {
            const last = line.length - 1
            ;[line[last], line[last - 1]] = [line[last - 1] as number, line[last] as number]
          }
        }
        const growing = new Growing()
        const taken = line.filter((n) => growing.isNews(n))
        expect(taken.every((n, i) => i === 0 || n > (taken[i - 1] as number))).toBe(true)
        // Nothing that is newer than all before it is left out.
        let newest = -1
        for (const n of line) {
          if (n > newest) expect(taken).toContain(n)
          newest = Math.max(newest, n)
        }
      },
    ),
  )
})

it('a number that wraps round goes on, and a sender that begins anew is heard after three', () => {
  const growing = new Growing()
  expect([65_534, 65_535, 0, 1].map((n) => growing.isNews(n, 65_536))).toEqual([true, true, true, true])
  const again = new Growing()
  expect([5000, 5001, 0, 1, 2, 3].map((n) => again.isNews(n))).toEqual([true, true, false, false, true, true])
})
