import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assign } from './assign'
import {
  ability,
  costOf,
  type Instance,
  type Need,
  type NeedBlock,
  objections,
  price,
  type Site,
} from './instance'

const { contact, wiper, lamp, coil } = ability
const all = contact | wiper | lamp | coil

interface Shape {
  readonly inUse: readonly [boolean, boolean]
  readonly rows: readonly {
    readonly host: number
    readonly sites: readonly number[]
    readonly whole: boolean
  }[]
  readonly blocks: readonly {
    readonly asks: readonly number[]
    readonly ribbon: boolean
    readonly four: boolean
    readonly line: number
    /** Where each wire ends today, as a share of all sites; above 1 for nowhere. */
    readonly present: readonly number[]
    readonly locked: boolean
    readonly reach: readonly boolean[]
  }[]
}

/** Small boards, few parts: small enough to look at every assignment there is. */
const shape: fc.Arbitrary<Shape> = fc.record({
  inUse: fc.tuple(fc.boolean(), fc.boolean()),
  rows: fc.array(
    fc.record({
      host: fc.integer({ min: 0, max: 1 }),
      sites: fc.array(fc.constantFrom(all, contact, contact | wiper, lamp, contact | lamp), {
        minLength: 1,
        maxLength: 4,
      }),
      whole: fc.boolean(),
    }),
    { minLength: 1, maxLength: 3 },
  ),
  blocks: fc.array(
    fc.record({
      asks: fc.array(fc.constantFrom(contact, wiper, lamp), { minLength: 1, maxLength: 3 }),
      ribbon: fc.boolean(),
      four: fc.integer({ min: 0, max: 5 }).map((n) => n === 0),
      line: fc.integer({ min: 0, max: 2 }),
      present: fc.array(fc.double({ min: 0, max: 2, noNaN: true }), { minLength: 4, maxLength: 4 }),
      locked: fc.boolean(),
      reach: fc.tuple(fc.boolean(), fc.boolean()),
    }),
    { minLength: 1, maxLength: 4 },
  ),
})

const build = ({ inUse, rows, blocks }: Shape): Instance => {
  const sites: Site[] = []
  const wholeHeaders = new Set<number>()
  const byHost = [...rows].sort((a, b) => a.host - b.host)
  for (const [header, row] of byHost.entries()) {
    const whole = row.whole && row.sites.length === 4
    if (whole) wholeHeaders.add(header)
    for (const [at, abilities] of row.sites.entries())
      sites.push({ host: row.host, header, at, abilities: whole ? coil : abilities, cost: 0 })
  }
  const needs: Need[] = []
  const made: NeedBlock[] = []
  for (const [b, { asks, ribbon, four, line, present, locked, reach }] of blocks.entries()) {
    const wants = four ? [coil, coil, coil, coil] : asks
    const own = wants.map((abilities, i) => {
      const at = Math.floor((present[i] ?? 2) * sites.length)
      const where = at < sites.length ? at : -1
      const shares = i === 0 && !four && !ribbon ? line : 0
      needs.push({
        ...{ block: b, abilities, line: shares, present: where, ofFour: four ? i : -1 },
        locked: locked && i === 0 && where >= 0,
      })
      return needs.length - 1
    })
    made.push({
      needs: own,
      ribbons: ribbon && !four && own.length > 1 ? [[0, own.length - 1]] : [],
      hostCost: reach.map((r) => (r ? 0 : Number.POSITIVE_INFINITY)),
    })
  }
  return { inUse, sites, wholeHeaders, needs, blocks: made }
}

/** The cheapest of all legal assignments, by looking at every one. */
const byLooking = (instance: Instance): number => {
  const siteOf = new Int32Array(instance.needs.length).fill(-1)
  let best = Number.POSITIVE_INFINITY
  const go = (n: number) => {
    const need = instance.needs[n]
    if (!need) {
      if (objections(instance, siteOf).length === 0) best = Math.min(best, costOf(instance, siteOf))
      return
    }
    for (const [s, site] of instance.sites.entries()) {
      if ((site.abilities & need.abilities) !== need.abilities) continue
      if (need.line === 0 && siteOf.subarray(0, n).includes(s)) continue
      if (need.locked && s !== need.present) continue
      siteOf[n] = s
      go(n + 1)
    }
    siteOf[n] = -1
  }
  go(0)
  return best
}

const small = shape.map(build).filter((i) => i.needs.length <= 7)

describe('an assignment', () => {
  it('is legal, whatever it is given', () => {
    fc.assert(
      fc.property(small, (instance) => {
        expect(objections(instance, assign(instance).assignment)).toEqual([])
      }),
      { numRuns: 400 },
    )
  })

  it('is found whenever there is one, and is said to be impossible when there is none', () => {
    fc.assert(
      fc.property(small, (instance) => {
        const { unplaced, proven } = assign(instance)
        const possible = byLooking(instance) < Number.POSITIVE_INFINITY
        expect({ placed: unplaced.length === 0, proven }).toEqual({ placed: possible, proven: !possible })
      }),
      { numRuns: 400 },
    )
  })

  it('never moves a locked wire', () => {
    fc.assert(
      fc.property(small, (instance) => {
        const { assignment } = assign(instance)
        for (const [n, need] of instance.needs.entries())
          if (need.locked && assignment[n] !== -1) expect(assignment[n]).toBe(need.present)
      }),
      { numRuns: 300 },
    )
  })

  it('costs as little as any in nearly every small case', () => {
    let cases = 0
    let dearer = 0
    fc.assert(
      fc.property(small, (instance) => {
        const least = byLooking(instance)
        if (least === Number.POSITIVE_INFINITY) return
        cases++
        const { cost } = assign(instance)
        expect(cost).toBeGreaterThanOrEqual(least - 1e-9)
        if (cost > least + 1e-9) dearer++
      }),
      { numRuns: 1500, seed: 12 },
    )
    expect(cases).toBeGreaterThan(100)
    expect(dearer / cases).toBeLessThan(0.01)
  })

  it('opens a board when all that would go there saves more than its price, and not before', () => {
    /** A board in use and one that is not; so many parts of one wire that would rather be on the second. */
    const rig = (parts: number, away: number): Instance => ({
      inUse: [true, false],
      sites: Array.from({ length: 60 }, (_, i) => ({
        ...{ host: i < 30 ? 0 : 1, header: i < 30 ? 0 : 1, at: i % 30, abilities: contact, cost: 0 },
      })),
      wholeHeaders: new Set(),
      needs: Array.from({ length: parts }, (_, block) => ({
        ...{ block, abilities: contact, line: 0, present: -1, locked: false, ofFour: -1 },
      })),
      blocks: Array.from({ length: parts }, (_, b) => ({ needs: [b], ribbons: [], hostCost: [away, 0] })),
    })
    expect(assign(rig(9, 10)).cost).toBe(90)
    expect(assign(rig(11, 10)).cost).toBe(price.open)
    // One has no room on the first board: then all go where they would rather be, as far as there is room.
    expect(assign(rig(31, 1)).cost).toBe(price.open + 1)
  })

  it('is the same each time', () => {
    fc.assert(
      fc.property(small, (instance) => {
        expect([...assign(instance).assignment]).toEqual([...assign(instance).assignment])
      }),
      { numRuns: 50 },
    )
  })
})
