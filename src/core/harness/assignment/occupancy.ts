import { type Assignment, type Instance, type Need, price, siteCost } from './instance'

/** Stands for more than one block at a site. */
export const SEVERAL = -2

/** What lies where, and everything about an instance that is looked up again and again. */
export class Occupancy {
  readonly siteOf: Assignment
  /** How many wires are at each site, and of which line. */
  private readonly users: Int32Array
  private readonly lineAt: Int32Array
  /** The neighbour of each site on either side, or −1. */
  readonly next: Int32Array
  readonly previous: Int32Array
  /** Sites by board, in the order of their rows. */
  readonly sitesOfHost: readonly (readonly number[])[]
  /** By need: what each site costs it. Needs that ask for the same share one row. */
  private readonly costs: readonly Float64Array[]
  /** What each block costs on each board at least, in rows of boards. */
  readonly floors: Float64Array
  /** How many blocks are on each board. */
  readonly onHost: Int32Array
  /** Boards that are to be used whatever that costs, and boards that are not to be used, while something is tried. */
  readonly mustOpen = new Set<number>()
  readonly mustClose = new Set<number>()
  /** The block that sits at each site, −1 for none, or SEVERAL where a line is shared. */
  readonly blockAt: Int32Array

  /** Needs by the line they are of. */
  private readonly ofLine = new Map<number, number[]>()
  /** Room for one search after the other. */
  private scratchCost = new Float64Array(0)
  private scratchFrom = new Int32Array(0)

  constructor(readonly instance: Instance) {
    const { sites, needs, inUse } = instance
    this.siteOf = new Int32Array(needs.length).fill(-1)
    this.users = new Int32Array(sites.length)
    this.lineAt = new Int32Array(sites.length)
    this.blockAt = new Int32Array(sites.length).fill(-1)
    this.onHost = new Int32Array(inUse.length)
    this.floors = new Float64Array(instance.blocks.length * inUse.length)
    this.next = new Int32Array(sites.length).fill(-1)
    this.previous = new Int32Array(sites.length).fill(-1)
    const byPlace = new Map(sites.map((s, i) => [s.header * 4096 + s.at, i]))
    for (const [i, s] of sites.entries()) {
      this.next[i] = byPlace.get(s.header * 4096 + s.at + 1) ?? -1
      this.previous[i] = byPlace.get(s.header * 4096 + s.at - 1) ?? -1
    }
    this.sitesOfHost = inUse.map((_, h) => sites.flatMap((s, i) => (s.host === h ? [i] : [])))
    this.costs = needs.map(costRow(instance))
    for (const [n, { line }] of needs.entries()) {
      if (line === 0) continue
      const others = this.ofLine.get(line)
      if (others) others.push(n)
      else this.ofLine.set(line, [n])
    }
  }

  /** Two arrays of so many numbers, the first all infinite; the next caller gets the same ones. */
  scratch(size: number): { cost: Float64Array; from: Int32Array } {
    if (this.scratchCost.length < size) {
      this.scratchCost = new Float64Array(size * 2)
      this.scratchFrom = new Int32Array(size * 2)
    }
    this.scratchCost.fill(Number.POSITIVE_INFINITY, 0, size)
    return { cost: this.scratchCost, from: this.scratchFrom }
  }

  /** What a site costs a need, whoever is there. */
  cost(n: number, s: number): number {
    return (this.costs[n] as Float64Array)[s] as number
  }

  /** What it costs to be the first on a board; nothing where it is used already. */
  opening(host: number): number {
    const opens = !this.instance.inUse[host] && this.onHost[host] === 0 && !this.mustOpen.has(host)
    return opens ? price.open : 0
  }

  isEmpty(s: number): boolean {
    return this.users[s] === 0
  }

  /** Whether a need may have a site as things lie. */
  isFree(n: number, s: number): boolean {
    if ((this.users[s] as number) === 0) return true
    const { line } = this.instance.needs[n] as Need
    return line !== 0 && this.lineAt[s] === line
  }

  /** Whether a need would share a site with others of its line. */
  joins(n: number, s: number): boolean {
    const { line } = this.instance.needs[n] as Need
    return line !== 0 && (this.users[s] as number) > 0 && this.lineAt[s] === line
  }

  /** Whether a placed need shares its site. */
  isShared(n: number): boolean {
    return (this.users[this.siteOf[n] as number] ?? 0) > 1
  }

  /** The needs at the site of one that shares it, itself among them. */
  sharing(n: number): readonly number[] {
    const s = this.siteOf[n] as number
    const line = this.ofLine.get(this.instance.needs[n]?.line ?? 0) ?? []
    return s < 0 ? [] : line.filter((m) => this.siteOf[m] === s)
  }

  /** Whether there is a site that would cost a need less, whoever is there. */
  isDear(n: number): boolean {
    const row = this.costs[n] as Float64Array
    const here = row[this.siteOf[n] as number] as number
    return row.some((cost) => cost < here)
  }

  put(n: number, s: number): void {
    const { line, block } = this.instance.needs[n] as Need
    this.siteOf[n] = s
    this.users[s] = (this.users[s] as number) + 1
    this.lineAt[s] = line
    this.blockAt[s] = this.users[s] === 1 ? block : SEVERAL
  }

  putBlock(b: number, sites: readonly number[]): void {
    const { needs } = this.instance.blocks[b] as Instance['blocks'][number]
    for (const [i, s] of sites.entries()) this.put(needs[i] as number, s)
    const host = this.instance.sites[sites[0] ?? -1]?.host
    if (host !== undefined) this.onHost[host] = (this.onHost[host] as number) + 1
  }

  takeBlock(b: number): readonly number[] {
    const { needs } = this.instance.blocks[b] as Instance['blocks'][number]
    const sites = needs.map((n) => this.siteOf[n] as number)
    for (const [i, s] of sites.entries()) {
      if (s < 0) continue
      this.siteOf[needs[i] as number] = -1
      this.users[s] = (this.users[s] as number) - 1
      if (this.users[s] === 0) {
        this.lineAt[s] = 0
        this.blockAt[s] = -1
      }
    }
    const host = this.instance.sites[sites[0] ?? -1]?.host
    if (host !== undefined) this.onHost[host] = (this.onHost[host] as number) - 1
    return sites
  }

  /** Puts every block where these sites say, whatever lay where. */
  putAll(sites: Int32Array): void {
    const { blocks } = this.instance
    for (const [b] of blocks.entries()) if (this.isPlaced(b)) this.takeBlock(b)
    for (const [b, block] of blocks.entries())
      this.putBlock(
        b,
        block.needs.map((n) => sites[n] as number),
      )
  }

  isPlaced(b: number): boolean {
    const [first] = (this.instance.blocks[b] as Instance['blocks'][number]).needs
    return first === undefined || (this.siteOf[first] as number) >= 0
  }
}

/** Rows of costs by what is asked for; a row of four is only for its own places. */
const costRow = ({ sites, wholeHeaders }: Instance) => {
  const rows = new Map<string, Float64Array>()
  return (need: Need): Float64Array => {
    const key = `${need.abilities} ${need.ofFour}`
    let row = rows.get(key)
    if (!row) {
      row = Float64Array.from(sites, (s) =>
        wholeHeaders.has(s.header) && s.at !== need.ofFour
          ? Number.POSITIVE_INFINITY
          : siteCost(s, need.abilities),
      )
      rows.set(key, row)
    }
    return row
  }
}
