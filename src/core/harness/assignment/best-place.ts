import { type Instance, type Need, price } from './instance'
import type { Occupancy } from './occupancy'

export interface PinPlace {
  readonly cost: number
  readonly sites: readonly number[]
}

const INF = Number.POSITIVE_INFINITY
/** How a wire came to its site: it begins a run, or goes on with one to the right or to the left. */
const BEGINS = 0
const RIGHT = 1
const LEFT = 2
const WAYS = 3
/** How often a place that would use a site twice is looked for again, with one or the other wire elsewhere, for each wire. */
const TRIES = 6

/**
 * The cheapest place of a block on a board as things lie there: shortest path over its wires in order, one layer of
 * states (site, way) a wire (Viterbi 1967). `extra` says what it costs to take a site that another block has; without
 * it only free sites count. Null where there is none.
 */
export const bestPlace = (
  o: Occupancy,
  b: number,
  host: number,
  extra: ((site: number) => number) | null = null,
): PinPlace | null => {
  const { instance } = o
  const block = instance.blocks[b] as Instance['blocks'][number]
  const hostCost = block.hostCost[host] ?? INF
  if (hostCost === INF || o.mustClose.has(host)) return null
  const open = o.opening(host)
  const paths: Path[] = []
  const look = (forbidden: ReadonlySet<number>) => {
    const found = shortest(o, b, host, extra, forbidden)
    if (found) paths.push({ ...found, forbidden })
  }
  look(none)
  for (let tries = TRIES * (block.needs.length + 1); tries > 0 && paths.length > 0; tries--) {
    const path = paths.reduce((least, p) => (p.cost < least.cost ? p : least))
    const twice = clashIn(instance, block, path.sites)
    if (!twice) return { cost: path.cost + hostCost + open, sites: path.sites }
    paths.splice(paths.indexOf(path), 1)
    for (const i of twice) look(new Set([...path.forbidden, i * 65536 + (path.sites[i] as number)]))
  }
  return null
}

/** A path, and the sites that wires of it were kept from. */
interface Path extends PinPlace {
  readonly forbidden: ReadonlySet<number>
}

const none: ReadonlySet<number> = new Set()

/** Two wires that a path puts on one site, though they are of no line; the path knows nothing of where it has been. */
const clashIn = (
  { needs }: Instance,
  block: Instance['blocks'][number],
  sites: readonly number[],
): readonly [number, number] | null => {
  for (let i = 1; i < sites.length; i++) {
    const at = sites.indexOf(sites[i] as number)
    if (at === i) continue
    const line = needs[block.needs[i] as number]?.line ?? 0
    if (line === 0 || needs[block.needs[at] as number]?.line !== line) return [at, i]
  }
  return null
}

const shortest = (
  o: Occupancy,
  b: number,
  host: number,
  extra: ((site: number) => number) | null,
  forbidden: ReadonlySet<number>,
): PinPlace | null => {
  const { instance } = o
  const { sites, wholeHeaders } = instance
  const block = instance.blocks[b] as Instance['blocks'][number]
  const own = o.sitesOfHost[host] as readonly number[]
  const first = own[0] ?? 0
  const span = (own.at(-1) ?? 0) - first + 1
  const length = block.needs.length
  const { cost, from } = o.scratch(length * span * WAYS)

  const here = (i: number, n: number, need: Need, s: number): number => {
    // Joining a line costs nothing more: the site is paid.
    let c = o.cost(n, s)
    if (c === INF || (need.locked && need.present !== s)) return INF
    if (forbidden.size > 0 && forbidden.has(i * 65536 + s)) return INF
    if (!o.isFree(n, s)) {
      if (!extra) return INF
      c += extra(s)
    } else if (o.joins(n, s)) c = 0
    return need.present >= 0 && need.present !== s ? c + price.move : c
  }
  const unbroken = (i: number) => block.ribbons.some(([a, z]) => i > a && i <= z)

  // Before the first wire lies a state that costs nothing.
  let bestBefore = 0
  let bestBeforeAt = -1
  /** The same among states that joined a line: from there a jump breaks nothing. */
  let joinedBefore = INF
  let joinedBeforeAt = -1
  for (let i = 0; i < length; i++) {
    const mayJump = !unbroken(i)
    // The best state that a jump may come from: not from inside a row that is taken whole.
    let nextBest = INF
    let nextBestAt = -1
    let nextJoined = INF
    let nextJoinedAt = -1
    const n = block.needs[i] as number
    const need = instance.needs[n] as Need
    for (const s of own) {
      const c = here(i, n, need, s)
      if (c === INF) continue
      const site = sites[s] as Instance['sites'][number]
      const whole = wholeHeaders.has(site.header)
      const base = (i * span + s - first) * WAYS
      const joins = need.line !== 0 && o.joins(n, s)
      if (mayJump && bestBefore < INF && !(whole && site.at > 0)) {
        const jumped = bestBefore + (i === 0 || joins ? 0 : price.gap)
        const fromJoined = joinedBefore <= jumped
        cost[base + BEGINS] = c + (fromJoined ? joinedBefore : jumped)
        from[base + BEGINS] = fromJoined ? joinedBeforeAt : bestBeforeAt
      }
      if (i > 0) {
        goOn(cost, from, base + RIGHT, c, i, (o.previous[s] as number) - first, span, RIGHT)
        goOn(cost, from, base + LEFT, c, i, (o.next[s] as number) - first, span, LEFT)
      }
      if (whole && site.at < 3) continue
      for (let way = 0; way < WAYS; way++) {
        const here = cost[base + way] as number
        // Of two that cost the same, the one that runs on to the right is easier to read.
        const better = here < nextBest || (here === nextBest && way === RIGHT && nextBestAt % WAYS === LEFT)
        if (better) {
          nextBest = here
          nextBestAt = base + way
        }
        if (joins && here < nextJoined) {
          nextJoined = here
          nextJoinedAt = base + way
        }
      }
    }
    bestBefore = nextBest
    bestBeforeAt = nextBestAt
    joinedBefore = nextJoined
    joinedBeforeAt = nextJoinedAt
  }
  if (bestBefore === INF) return null
  const found: number[] = []
  for (let at = bestBeforeAt; at >= 0; at = from[at] as number) {
    found.push((Math.floor(at / WAYS) % span) + first)
  }
  return { cost: bestBefore, sites: found.reverse() }
}

/** Goes on with a run from the neighbouring site, if one comes this way or begins there. */
const goOn = (
  cost: Float64Array,
  from: Int32Array,
  state: number,
  c: number,
  i: number,
  neighbour: number,
  span: number,
  way: number,
): void => {
  if (neighbour < 0 || neighbour >= span) return
  const base = ((i - 1) * span + neighbour) * WAYS
  const begun = cost[base + BEGINS] as number
  const run = cost[base + way] as number
  const best = Math.min(begun, run)
  if (best === INF) return
  cost[state] = best + c
  from[state] = base + (begun <= run ? BEGINS : way)
}
