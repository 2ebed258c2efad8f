/** A place a wire can end at: a pin of a board, or a channel of an expander that hangs on it. */
export interface Site {
  /** The board, by its place among the hosts. */
  readonly host: number
  /** Its row of contacts, and where in it; neighbours in one row lie side by side. */
  readonly header: number
  readonly at: number
  /** What it can do, bit by bit. */
  readonly abilities: number
  /** What it costs to use it, beside what of it is wasted. */
  readonly cost: number
}

/** One wire that wants a site. */
export interface Need {
  readonly block: number
  /** Every ability it asks for, bit by bit. */
  readonly abilities: number
  /** Needs of the same line may share a site; 0 for none. */
  readonly line: number
  /** Where it ends today, or −1. */
  readonly present: number
  readonly locked: boolean
  /** Its place in a set of four that goes on a whole row of four and nowhere else there; −1 for none. */
  readonly ofFour: number
}

/** Wires that go to one board together: a part's, and those of parts that share a ribbon with it. */
export interface NeedBlock {
  /** In the order in which they are to lie side by side. */
  readonly needs: readonly number[]
  /** Stretches of those, by first and last place in `needs`, that may not be broken at all. */
  readonly ribbons: readonly (readonly [number, number])[]
  /** What each host costs; infinite for one that is out of reach. */
  readonly hostCost: readonly number[]
}

export interface Instance {
  /** Whether anything hangs on each board today. */
  readonly inUse: readonly boolean[]
  readonly sites: readonly Site[]
  /** Rows that are taken whole, four at a time, or not at all. */
  readonly wholeHeaders: ReadonlySet<number>
  readonly needs: readonly Need[]
  readonly blocks: readonly NeedBlock[]
}

/** What the abilities of a pin are worth that the wire on it does not use, by bit. */
export const ability = {
  contact: 1,
  wiper: 2,
  lamp: 4,
  drive: 8,
  servo: 16,
  coil: 32,
  signal: 64,
  'two-wire-data': 128,
  'two-wire-clock': 256,
  pwm: 512,
  interrupt: 1024,
  serial: 2048,
  inductive: 4096,
  line: 8192,
  'bus-data': 16384,
  'bus-clock': 32768,
  steps: 65536,
  frequency: 131072,
} as const
export type AbilityName = keyof typeof ability

const waste: readonly (readonly [number, number])[] = [
  [ability.wiper, 1],
  [ability.pwm, 1],
  [ability.interrupt, 1],
  [ability.serial, 1],
  [ability['two-wire-data'], 3],
  [ability['two-wire-clock'], 3],
]

/** What things cost, in one unit: a pin that can do one thing more than is asked of it. */
export const price = {
  /** A wire that is soldered already and has to move. */
  move: 20,
  /** Two wires of a part that do not lie side by side, unless one of them joins a line. */
  gap: 4,
  /** A board that nothing hangs on yet. */
  open: 100,
} as const

/** What it costs to have a need of these abilities at a site; infinite where it cannot be. */
export const siteCost = (site: Site, abilities: number): number => {
  if ((site.abilities & abilities) !== abilities) return Number.POSITIVE_INFINITY
  let cost = site.cost
  const idle = site.abilities & ~abilities
  for (const [bit, worth] of waste) if (idle & bit) cost += worth
  return cost
}

/** Where each need ends: a site, or −1. */
export type Assignment = Int32Array

const neighbours = (a: Site, b: Site): boolean => a.header === b.header && Math.abs(a.at - b.at) === 1

/** The cost of a whole assignment; infinite where something has no site. A site that a line shares is paid once. */
export const costOf = (instance: Instance, assignment: Assignment): number => {
  const { sites, needs, blocks, inUse } = instance
  const opened = new Set<number>()
  const users = new Map<number, number>()
  for (const s of assignment) users.set(s, (users.get(s) ?? 0) + 1)
  const isShared = (n: number) => (users.get(assignment[n] as number) ?? 0) > 1
  const paid = new Set<number>()
  let cost = 0
  for (const block of blocks) {
    for (const [i, n] of block.needs.entries()) {
      const site = sites[assignment[n] as number]
      const need = needs[n] as Need
      if (!site) return Number.POSITIVE_INFINITY
      const s = assignment[n] as number
      if (!paid.has(s)) cost += siteCost(site, need.abilities)
      paid.add(s)
      if (need.present >= 0 && need.present !== assignment[n]) cost += price.move
      if (i === 0) cost += block.hostCost[site.host] ?? Number.POSITIVE_INFINITY
      if (!inUse[site.host]) opened.add(site.host)
      const following = block.needs[i + 1]
      const next = sites[assignment[following ?? -1] ?? -1]
      if (following === undefined || !next || neighbours(site, next)) continue
      // What joins a line goes where that is; it breaks nothing.
      if (!isShared(n) && !isShared(following)) cost += price.gap
    }
  }
  return cost + opened.size * price.open
}

/** What is wrong with an assignment, in words; empty when it is legal. Needs without a site are left out. */
export const objections = (instance: Instance, assignment: Assignment): string[] => {
  const { sites, needs, blocks, wholeHeaders } = instance
  const found: string[] = []
  const at = new Map<number, number>()
  for (const [n, need] of needs.entries()) {
    const s = assignment[n] as number
    const site = sites[s]
    if (!site) continue
    if ((site.abilities & need.abilities) !== need.abilities) found.push(`need ${n}: site ${s} cannot do it`)
    if (need.locked && s !== need.present) found.push(`need ${n} is locked and moved`)
    if (wholeHeaders.has(site.header) && need.ofFour !== site.at)
      found.push(`need ${n}: not its place of four`)
    const other = at.get(s)
    if (other !== undefined && (need.line === 0 || needs[other]?.line !== need.line))
      found.push(`needs ${other} and ${n} are both at ${s}`)
    at.set(s, n)
  }
  for (const [b, block] of blocks.entries()) {
    const placed = block.needs.flatMap((n) => sites[assignment[n] as number] ?? [])
    const hosts = new Set(placed.map((s) => s.host))
    if (hosts.size > 1) found.push(`block ${b} is on several boards`)
    for (const host of hosts)
      if (!Number.isFinite(block.hostCost[host] ?? Number.POSITIVE_INFINITY))
        found.push(`block ${b}: out of reach`)
    for (const [from, to] of block.ribbons) found.push(...ribbonObjections(instance, assignment, b, from, to))
    // What only holds its place is held wire by wire, not as a set.
    const fours = block.needs.flatMap((n) => {
      const site = sites[assignment[n] as number]
      return site && wholeHeaders.has(site.header) && (needs[n] as Need).abilities !== 0 ? [site] : []
    })
    if (fours.length > 0 && new Set(fours.map((s) => s.header)).size * 4 !== fours.length)
      found.push(`block ${b}: a set of four is broken`)
  }
  return found
}

const ribbonObjections = (
  { sites, blocks }: Instance,
  assignment: Assignment,
  b: number,
  from: number,
  to: number,
): string[] => {
  const row = (blocks[b] as NeedBlock).needs.slice(from, to + 1).map((n) => sites[assignment[n] as number])
  if (row.some((s) => s === undefined)) return []
  const way = (row[1]?.at ?? 0) - (row[0]?.at ?? 0)
  const whole = row.every(
    (s, i) => i === 0 || (s?.header === row[0]?.header && (s?.at ?? 0) - (row[i - 1]?.at ?? 0) === way),
  )
  return whole && (row.length < 2 || Math.abs(way) === 1) ? [] : [`block ${b}: its ribbon is broken`]
}
