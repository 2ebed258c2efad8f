import { costOf, type NeedBlock, price } from './instance'
import type { Occupancy } from './occupancy'

const INF = Number.POSITIVE_INFINITY
/** How often all boards are gone through. */
const MOST_ROUNDS = 4
/** So much dearer may it be at first: settling wins about as much. */
const HOPE = 12

export interface Moves {
  /** Puts a block in its cheapest place; others may make room for it. Says whether there was one. */
  readonly place: (b: number) => boolean
  /** What a placed block costs where it is, without the opening of its board. */
  readonly cost: (b: number) => number
  /** Makes things better from where they are. */
  readonly settle: () => void
}

/**
 * Boards that nothing hangs on today: whether each is worth its price only shows when all that would go there goes there
 * at once. So each is opened, or cleared, as a whole, and that is kept where it costs less.
 */
export const chooseBoards = (o: Occupancy, moves: Moves): void => {
  const { instance } = o
  const unused = instance.inUse.flatMap((inUse, h) => (inUse ? [] : [h]))
  if (unused.length === 0 || instance.blocks.some((_, b) => !o.isPlaced(b))) return
  let best = costOf(instance, o.siteOf)
  // Round and round, until none of them brings anything.
  for (let i = 0, inVain = 0; inVain < unused.length && i < unused.length * MOST_ROUNDS; i++, inVain++) {
    const host = unused[i % unused.length] as number
    const was = o.siteOf.slice()
    const done = (o.onHost[host] as number) > 0 ? clear(o, host, moves) : open(o, host, moves)
    let cost = done ? costOf(instance, o.siteOf) : INF
    // It may take some settling before it shows that it is worth it.
    if (cost >= best && cost < best + HOPE) {
      moves.settle()
      cost = costOf(instance, o.siteOf)
    }
    if (cost < best - 1e-9) {
      best = cost
      inVain = -1
    } else o.putAll(was)
  }
  moves.settle()
}

const hostOf = (o: Occupancy, b: number): number =>
  o.instance.sites[o.siteOf[o.instance.blocks[b]?.needs[0] ?? -1] ?? -1]?.host ?? -1

const floorOn = (o: Occupancy, b: number, host: number): number =>
  o.floors[b * o.instance.inUse.length + host] as number

const isLocked = (o: Occupancy, block: NeedBlock): boolean =>
  block.needs.some((n) => o.instance.needs[n]?.locked)

/** Moves everything to a board that would lie cheaper there if it were in use. */
const open = (o: Occupancy, host: number, moves: Moves): boolean => {
  const would = o.instance.blocks.flatMap((block, b) => {
    const gain = moves.cost(b) - floorOn(o, b, host)
    return gain > 0 && !isLocked(o, block) ? [{ b, gain }] : []
  })
  // Even if each had its best place there, it would not be worth the board.
  if (would.reduce((sum, w) => sum + w.gain, 0) <= price.open) return false
  o.mustOpen.add(host)
  let placed = true
  for (const { b } of would.sort((x, y) => y.gain - x.gain || x.b - y.b)) {
    o.takeBlock(b)
    placed = moves.place(b) && placed
  }
  o.mustOpen.delete(host)
  return placed
}

/** Moves everything off a board. */
const clear = (o: Occupancy, host: number, moves: Moves): boolean => {
  const on = o.instance.blocks.flatMap((_, b) => (hostOf(o, b) === host ? [b] : []))
  if (on.some((b) => isLocked(o, o.instance.blocks[b] as NeedBlock))) return false
  const elsewhere = (b: number) =>
    Math.min(...o.instance.inUse.map((_, h) => (h === host ? INF : floorOn(o, b, h))))
  if (on.reduce((sum, b) => sum + elsewhere(b) - moves.cost(b), 0) >= price.open) return false
  o.mustClose.add(host)
  for (const b of on) o.takeBlock(b)
  const placed = on.every((b) => moves.place(b))
  o.mustClose.delete(host)
  return placed
}
