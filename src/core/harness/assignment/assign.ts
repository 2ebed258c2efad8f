import { bestPlace, type PinPlace } from './best-place'
import { chooseBoards } from './choose-boards'
import { findAny } from './find-hosts'
import {
  type Assignment,
  costOf,
  type Instance,
  type Need,
  type NeedBlock,
  objections,
  price,
  type Site,
} from './instance'
import { Occupancy, SEVERAL } from './occupancy'

export interface Solution {
  readonly assignment: Assignment
  /** Infinite where something found no place. */
  readonly cost: number
  /** Blocks that found no place. */
  readonly unplaced: readonly number[]
  /** Whether it is certain that no legal assignment places all of them. */
  readonly proven: boolean
}

/** How hard is to be looked. */
export type Search = 'all' | 'if small' | 'quick'

const INF = Number.POSITIVE_INFINITY

/** What it costs to take a site from a block that can go elsewhere, and from one that is soldered there. */
const EVICT = 2
/** Rounds of taking a few blocks out and putting them back; it ends when so many in a row brought nothing. */
const MOST_ROUNDS = 3000
const STALLED = 160
/** The same after a board was opened or cleared, which is tried for each. */
const STALLED_BRIEFLY = 30
/** Wires up to which all boards are searched in any case. */
const SMALL = 60

/**
 * Assigns every wire a site: what is wired stays where that costs nothing, then the hardest blocks are placed first,
 * then a few blocks at a time are taken out and put back better (large neighbourhood search, Shaw 1998). Where that
 * leaves something over, all boards are searched, of large instances only when asked to. `quick` stops once everything is
 * placed that finds a place, without making it better: to compare rigs with. The same instance gives the same assignment.
 */
export const assign = (instance: Instance, search: Search = 'all'): Solution => {
  const o = new Occupancy(instance)
  findFloors(o)
  keepPresent(o)
  const depth = search === 'quick' ? 1 : 3
  for (const b of inOrderOfHardship(o)) if (!o.isPlaced(b)) place(o, b, depth)
  let proven = false
  if (
    unplacedIn(o).length > 0 &&
    (search === 'all' || (search === 'if small' && instance.needs.length <= SMALL))
  ) {
    const any = findAny(instance)
    if ('sites' in any) o.putAll(any.sites)
    else proven = any.proven
  }
  if (search !== 'quick') {
    improve(o)
    chooseBoards(o, {
      place: (b) => place(o, b, 3),
      cost: (b) => costNow(o, b),
      settle: () => improve(o, STALLED_BRIEFLY),
    })
  }
  const unplaced = unplacedIn(o)
  return {
    assignment: o.siteOf,
    cost: costOf(instance, o.siteOf),
    unplaced,
    proven: proven && unplaced.length > 0,
  }
}

/** What each block costs on each board at least. Blocks that ask for the same find the same on boards that are the same. */
const findFloors = (o: Occupancy): void => {
  const { instance } = o
  const hosts = instance.inUse.map((_, host) => {
    const own = (o.sitesOfHost[host] ?? []).map((s) => instance.sites[s] as Site)
    const first = own[0]?.header ?? 0
    return own
      .map(
        (s) => `${s.header - first} ${s.at} ${s.abilities} ${s.cost} ${instance.wholeHeaders.has(s.header)}`,
      )
      .join(';')
  })
  const known = new Map<string, number>()
  for (const [b, block] of instance.blocks.entries()) {
    const needs = block.needs.map((n) => instance.needs[n] as Need)
    // What lies somewhere already asks for just that place.
    const isBare = needs.every((n) => n.present < 0 && !n.locked)
    const asks = `${needs.map((n) => `${n.abilities} ${n.line} ${n.ofFour}`).join(';')}|${block.ribbons.join(';')}`
    for (const [host, layout] of hosts.entries()) {
      const hostCost = block.hostCost[host] ?? INF
      const key = `${asks}|${layout}`
      let bare = isBare && hostCost < INF ? known.get(key) : undefined
      if (bare === undefined) {
        bare = (bestPlace(o, b, host)?.cost ?? INF) - o.opening(host) - (hostCost < INF ? hostCost : 0)
        if (isBare && hostCost < INF) known.set(key, bare)
      }
      o.floors[b * instance.inUse.length + host] = bare + hostCost
    }
  }
}

const unplacedIn = (o: Occupancy): number[] => o.instance.blocks.flatMap((_, b) => (o.isPlaced(b) ? [] : [b]))

/** The cheapest place on any board. */
const cheapest = (o: Occupancy, b: number, extra: ((s: number) => number) | null = null): PinPlace | null => {
  const hosts = o.instance.inUse.length
  let best: PinPlace | null = null
  for (let host = 0; host < hosts; host++) {
    // Nowhere on this board can it cost less than on the empty one.
    if ((o.floors[b * hosts + host] as number) + o.opening(host) >= (best?.cost ?? INF)) continue
    const found = bestPlace(o, b, host, extra)
    if (found && (!best || found.cost < best.cost)) best = found
  }
  return best
}

/** Blocks that lie legally today stay there to begin with; locked ones before all others. */
const keepPresent = (o: Occupancy): void => {
  const { instance } = o
  const isLocked = (b: NeedBlock) => b.needs.some((n) => instance.needs[n]?.locked)
  const ids = instance.blocks.map((_, b) => b)
  ids.sort(
    (a, b) =>
      Number(isLocked(instance.blocks[b] as NeedBlock)) - Number(isLocked(instance.blocks[a] as NeedBlock)),
  )
  for (const b of ids) {
    const block = instance.blocks[b] as NeedBlock
    const sites = block.needs.map((n) => instance.needs[n]?.present ?? -1)
    const free = sites.every((s, i) => s >= 0 && o.isFree(block.needs[i] as number, s))
    if (!free) {
      // Some of its wires are locked: it is placed round those at once, before others take what it needs.
      if (isLocked(block)) place(o, b, 0)
      continue
    }
    o.putBlock(b, sites)
    if (block.needs.some((n, i) => o.cost(n, sites[i] as number) === INF)) o.takeBlock(b)
    else if (objectsTo(o, b)) o.takeBlock(b)
  }
}

/** Whether a block by itself lies as it may not. */
const objectsTo = (o: Occupancy, b: number): boolean => {
  const block = o.instance.blocks[b] as NeedBlock
  const alone: Instance = { ...o.instance, blocks: [block] }
  const only = new Int32Array(o.siteOf.length).fill(-1)
  for (const n of block.needs) only[n] = o.siteOf[n] as number
  return objections(alone, only).length > 0
}

/** First what has few sites to choose from, then what needs many side by side. */
const inOrderOfHardship = (o: Occupancy): number[] => {
  const { instance } = o
  const room = instance.blocks.map((block) => {
    let least = INF
    for (const n of block.needs) {
      let sites = 0
      for (const [s, site] of instance.sites.entries())
        if (Number.isFinite(block.hostCost[site.host]) && o.cost(n, s) < INF) sites++
      least = Math.min(least, sites)
    }
    return least
  })
  const wired = (b: number) =>
    (instance.blocks[b] as NeedBlock).needs.some((n) => (instance.needs[n]?.present ?? -1) >= 0)
  const hardship = (b: number) => {
    const block = instance.blocks[b] as NeedBlock
    return (wired(b) ? -1e9 : 0) - block.ribbons.length * 1e6 + (room[b] as number) - block.needs.length * 30
  }
  return instance.blocks.map((_, b) => b).sort((a, b) => hardship(a) - hardship(b) || a - b)
}

/**
 * Puts a block in its cheapest free place. Where there is none, those that are in the way make room and look for
 * another, down to a depth.
 */
const place = (o: Occupancy, b: number, depth: number): boolean => {
  const free = cheapest(o, b)
  if (free) {
    o.putBlock(b, free.sites)
    return true
  }
  if (depth === 0) return false
  const taken = cheapest(o, b, (s) => evictionCost(o, s))
  if (!taken || taken.cost === INF) return false
  const evicted = new Map<number, readonly number[]>()
  for (const s of taken.sites) {
    const other = o.blockAt[s] as number
    if (other >= 0 && other !== b && !evicted.has(other)) evicted.set(other, o.takeBlock(other))
  }
  o.putBlock(b, taken.sites)
  const placed: number[] = []
  for (const other of evicted.keys()) {
    if (place(o, other, depth - 1)) {
      placed.push(other)
      continue
    }
    // It did not come out: everything as it was.
    for (const p of placed) o.takeBlock(p)
    o.takeBlock(b)
    for (const [e, sites] of evicted) o.putBlock(e, sites)
    return false
  }
  return true
}

const evictionCost = (o: Occupancy, s: number): number => {
  const b = o.blockAt[s] as number
  if (b === SEVERAL) return INF
  const block = o.instance.blocks[b]
  if (!block) return EVICT
  if (block.needs.some((n) => o.instance.needs[n]?.locked)) return INF
  const soldered = block.needs.filter((n) => o.instance.needs[n]?.present === o.siteOf[n]).length
  return EVICT + soldered * price.move
}

/** A generator of numbers below a bound, always the same ones (mulberry32). */
const numbers = (seed: number) => {
  let state = seed
  return (below: number): number => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) % below
  }
}

/** What a block costs where it is now, without the opening of its board, which it may not be alone on. */
const costNow = (o: Occupancy, b: number): number => {
  const { instance } = o
  const block = instance.blocks[b] as NeedBlock
  const sites = block.needs.map((n) => o.siteOf[n] as number)
  const host = instance.sites[sites[0] ?? -1]?.host ?? -1
  let cost = block.hostCost[host] ?? 0
  for (const [i, n] of block.needs.entries()) {
    const s = sites[i] as number
    const need = instance.needs[n] as Need
    if (!o.isShared(n)) cost += o.cost(n, s)
    if (need.present >= 0 && need.present !== s) cost += price.move
    const following = sites[i + 1]
    if (following === undefined || o.isShared(n) || o.isShared(block.needs[i + 1] as number)) continue
    if (o.next[s] !== following && o.previous[s] !== following) cost += price.gap
  }
  return cost
}

const improve = (o: Occupancy, most = STALLED): void => {
  const below = numbers(o.instance.needs.length + 1)
  const now = o.instance.blocks.map((_, b) => (o.isPlaced(b) ? costNow(o, b) : INF))
  let excess = dear(o, now)
  let stalled = 0
  for (let round = 0; round < MOST_ROUNDS && stalled < most && excess.length > 0; round++) {
    const out = companions(o, excess[below(excess.length)] as number, below)
    const before = out.reduce((sum, b) => sum + (now[b] as number), 0)
    stalled++
    const saved = reseat(o, out, before, below)
    if (saved === null) continue
    for (const b of out) now[b] = costNow(o, b)
    if (saved > 1e-9) stalled = 0
    excess = dear(o, now)
  }
}

/** Blocks that cost more than they would if the boards that are used were empty. */
const dear = (o: Occupancy, now: readonly number[]): number[] => {
  const used = o.instance.inUse.flatMap((_, h) => (o.opening(h) === 0 ? [h] : []))
  const hosts = o.instance.inUse.length
  return now.flatMap((cost, b) => {
    const elsewhere = used.some((h) => cost > (o.floors[b * hosts + h] as number) + 1e-9)
    return elsewhere || sharesDearly(o, b) ? [b] : []
  })
}

/** Whether a block shares a site that the whole line could have cheaper: that is part of no block's cost. */
const sharesDearly = (o: Occupancy, b: number): boolean =>
  (o.instance.blocks[b] as NeedBlock).needs.some(
    (n) => o.instance.needs[n]?.line !== 0 && o.isShared(n) && o.isDear(n),
  )

/** A block and a few others: those where it would rather be, and some near by. */
const companions = (o: Occupancy, b: number, below: (n: number) => number): number[] => {
  const out = new Set([b])
  const wished = cheapest(o, b, (s) => (evictionCost(o, s) === INF ? 1e6 : below(4)))
  for (const s of wished?.sites ?? []) {
    const other = o.blockAt[s] as number
    if (other >= 0 && evictionCost(o, s) < INF) out.add(other)
  }
  const host =
    o.instance.sites[wished?.sites[0] ?? o.siteOf[o.instance.blocks[b]?.needs[0] ?? 0] ?? 0]?.host ?? 0
  const own = o.sitesOfHost[host] ?? []
  // A line moves as a whole, or not at all.
  for (const n of o.instance.blocks[b]?.needs ?? [])
    if (o.isShared(n)) for (const m of o.sharing(n)) out.add(o.instance.needs[m]?.block as number)
  for (let more = below(4); more > 0 && own.length > 0; more--) {
    const s = own[below(own.length)] as number
    const other = o.blockAt[s] as number
    if (other >= 0 && evictionCost(o, s) < INF) out.add(other)
  }
  return [...out]
}

/**
 * Takes blocks out and puts them back in another order; keeps that only if it costs less, or as much elsewhere. `own` is
 * what they cost without their boards. Gives what is saved, or null where everything is as it was.
 */
const reseat = (
  o: Occupancy,
  out: readonly number[],
  own: number,
  below: (n: number) => number,
): number | null => {
  const { inUse, sites } = o.instance
  const shared = out.flatMap((b) =>
    (o.instance.blocks[b] as NeedBlock).needs.flatMap((n) =>
      o.isShared(n) ? [{ n, s: o.siteOf[n] as number }] : [],
    ),
  )
  const was = out.map((b) => ({ b, sites: o.isPlaced(b) ? o.takeBlock(b) : null }))
  // Boards that are empty without them were opened for them.
  const left = new Set(was.map((w) => sites[w.sites?.[0] ?? -1]?.host ?? -1))
  const opened = [...left].filter((h) => h >= 0 && !inUse[h] && o.onHost[h] === 0).length
  // A site that a line shared is paid once; by them, if nobody of the line is left there.
  const paid = new Map(shared.flatMap(({ n, s }) => (o.isEmpty(s) ? [[s, o.cost(n, s)] as const] : [])))
  const before = own + opened * price.open + [...paid.values()].reduce((sum, c) => sum + c, 0)
  const order = [...out]
  for (let i = order.length - 1; i > 0; i--) {
    const k = below(i + 1)
    ;[order[i], order[k]] = [order[k] as number, order[i] as number]
  }
  let cost = 0
  const placed: number[] = []
  for (const b of order) {
    const found = cheapest(o, b)
    cost += found?.cost ?? INF
    if (!found || cost > before) break
    o.putBlock(b, found.sites)
    placed.push(b)
  }
  if (placed.length === out.length && cost <= before) return before - cost
  for (const b of placed) o.takeBlock(b)
  for (const { b, sites } of was) if (sites) o.putBlock(b, sites)
  return null
}
