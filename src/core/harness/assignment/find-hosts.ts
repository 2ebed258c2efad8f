import type { Instance, Need, NeedBlock } from './instance'

/** Boards tried at most before it is given up, for one wire: small rigs are searched whole, large ones for a while. */
const STEPS_BY_WIRES = 400_000
const mostSteps = ({ needs }: Instance): number => Math.min(40_000, Math.ceil(STEPS_BY_WIRES / needs.length))

/**
 * Finds some legal assignment by trying boards for one block after the other, the hardest first. Within a board the
 * wires that may lie anywhere are matched to sites by augmenting paths (Kuhn 1955), so that an earlier choice never
 * stands in the way; ribbons and sets of four are tried at each place. `proven` says that there is none.
 */
export const findAny = (instance: Instance): { sites: Int32Array } | { proven: boolean } => {
  if (!couldMatch(instance)) return { proven: true }
  const search = new Search(instance)
  const found = search.from(0)
  if (found) return { sites: search.siteOf }
  return { proven: search.steps < search.most }
}

/**
 * Whether each wire could have a site of its own at all, if blocks did not hold together: without that, nothing will do.
 * Wires of one line may all share a site; but one site at least the line needs for itself, whatever shares it.
 */
const couldMatch = ({ sites, needs, blocks }: Instance): boolean => {
  const holder = new Int32Array(sites.length).fill(-1)
  const may = (n: number, s: number): boolean => {
    const need = needs[n] as Need
    const site = sites[s] as Instance['sites'][number]
    if (need.locked) return s === need.present
    return (
      (site.abilities & need.abilities) === need.abilities &&
      Number.isFinite(blocks[need.block]?.hostCost[site.host] ?? Number.POSITIVE_INFINITY)
    )
  }
  const augment = (n: number, seen: Uint8Array): boolean => {
    for (let s = 0; s < sites.length; s++) {
      if (seen[s] === 1 || !may(n, s)) continue
      seen[s] = 1
      const other = holder[s] as number
      if (other >= 0 && !augment(other, seen)) continue
      holder[s] = n
      return true
    }
    return false
  }
  // Of each line the wire with the fewest sites to choose from stands for all of it.
  const standsFor = new Map<number, { n: number; room: number }>()
  for (const [n, need] of needs.entries()) {
    if (need.line === 0) continue
    const room = sites.reduce((sum, _, s) => sum + (may(n, s) ? 1 : 0), 0)
    const known = standsFor.get(need.line)
    if (!known || room < known.room) standsFor.set(need.line, { n, room })
  }
  return needs.every(
    (need, n) =>
      (need.line !== 0 && standsFor.get(need.line)?.n !== n) || augment(n, new Uint8Array(sites.length)),
  )
}

class Search {
  readonly siteOf: Int32Array
  steps = 0
  readonly most: number
  /** The need that has each site; −2 for one that cannot be given to another. */
  private holder: Int32Array
  private readonly order: readonly number[]
  private readonly byHost: readonly (readonly number[])[]

  constructor(private readonly instance: Instance) {
    const { needs, sites, blocks, inUse } = instance
    this.most = mostSteps(instance)
    this.siteOf = new Int32Array(needs.length).fill(-1)
    this.holder = new Int32Array(sites.length).fill(-1)
    this.byHost = inUse.map((_, h) => sites.flatMap((s, i) => (s.host === h ? [i] : [])))
    const room = blocks.map((block) => this.roomFor(block))
    this.order = blocks.map((_, b) => b).sort((a, b) => (room[a] as number) - (room[b] as number))
  }

  /** How many sites a block could have, for each wire of it. */
  private roomFor(block: NeedBlock): number {
    const { sites, needs } = this.instance
    if (block.needs.some((n) => needs[n]?.locked)) return 0
    const room = block.needs.map(
      (n) =>
        sites.filter(
          (s) =>
            Number.isFinite(block.hostCost[s.host]) &&
            (s.abilities & (needs[n] as Need).abilities) === (needs[n] as Need).abilities,
        ).length,
    )
    return Math.min(...room) / (block.ribbons.length > 0 ? 100 : 1) / block.needs.length
  }

  from(at: number): boolean {
    const b = this.order[at]
    if (b === undefined) return true
    const block = this.instance.blocks[b] as NeedBlock
    const hosts = block.hostCost
      .map((cost, host) => ({ cost, host }))
      .filter((h) => Number.isFinite(h.cost))
      .sort((x, y) => x.cost - y.cost)
    for (const { host } of hosts) {
      for (const fixed of this.fixedWays(block, host)) {
        if (++this.steps >= this.most) return false
        const siteOf = this.siteOf.slice()
        const holder = this.holder.slice()
        if (this.place(block, host, fixed) && this.from(at + 1)) return true
        this.siteOf.set(siteOf)
        this.holder = holder
      }
    }
    return false
  }

  /** Every way to lay what must lie in a fixed order: ribbons, and sets of four on whole rows or anywhere. */
  private *fixedWays(block: NeedBlock, host: number): Iterable<ReadonlyMap<number, number>> {
    const pieces: (readonly number[])[] = block.ribbons.map(([a, z]) => block.needs.slice(a, z + 1))
    const { needs } = this.instance
    const fours = block.needs.filter((n) => needs[n]?.ofFour === 0)
    for (const n of fours) {
      const i = block.needs.indexOf(n)
      const four = block.needs.slice(i, i + 4)
      if (!pieces.some((p) => p.includes(n))) pieces.push(four)
    }
    // A site that a line shares is chosen once for all of it, so it is tried at each place too.
    for (const n of block.needs)
      if (needs[n]?.line !== 0 && !pieces.some((p) => p.includes(n))) pieces.push([n])
    yield* this.lay(pieces, host, new Map())
  }

  private *lay(
    pieces: readonly (readonly number[])[],
    host: number,
    laid: ReadonlyMap<number, number>,
  ): Iterable<ReadonlyMap<number, number>> {
    const [piece, ...more] = pieces
    if (!piece) {
      yield laid
      return
    }
    const { sites, needs, wholeHeaders } = this.instance
    const isFour = needs[piece[0] as number]?.ofFour === 0
    const byPlace = new Map(this.byHost[host]?.map((s) => [`${sites[s]?.header} ${sites[s]?.at}`, s]))
    for (const start of this.byHost[host] ?? []) {
      for (const way of piece.length === 1 ? [1] : [1, -1]) {
        const run = piece.map((_, i) =>
          byPlace.get(`${sites[start]?.header} ${(sites[start]?.at ?? 0) + i * way}`),
        )
        if (isFour && !wholeHeaders.has(sites[start]?.header ?? -1)) continue
        if (!run.every((s, i) => s !== undefined && this.mayHave(piece[i] as number, s))) continue
        yield* this.lay(
          more,
          host,
          new Map([...laid, ...piece.map((n, i) => [n, run[i] as number] as const)]),
        )
      }
    }
    // A set of four may also lie on any pins that will do.
    if (isFour) yield* this.lay(more, host, laid)
  }

  private mayHave(n: number, s: number): boolean {
    const { sites, needs, wholeHeaders } = this.instance
    const need = needs[n] as Need
    const site = sites[s] as Instance['sites'][number]
    if (need.locked && need.present !== s) return false
    if (wholeHeaders.has(site.header) && site.at !== need.ofFour) return false
    return (site.abilities & need.abilities) === need.abilities
  }

  private place(block: NeedBlock, host: number, fixed: ReadonlyMap<number, number>): boolean {
    for (const [n, s] of fixed) {
      const other = this.holder[s] as number
      if (other === -2 && !this.sharesLine(n, s)) return false
      this.holder[s] = -2
      this.siteOf[n] = s
      // Who had it looks for another site.
      if (other >= 0 && !this.augment(other, host, new Set())) return false
    }
    return block.needs.every((n) => fixed.has(n) || this.augment(n, host, new Set()))
  }

  /** Whether everything at a site is of the same line as this need. */
  private sharesLine(n: number, s: number): boolean {
    const { needs } = this.instance
    const { line } = needs[n] as Need
    return line !== 0 && this.siteOf.every((at, m) => at !== s || needs[m]?.line === line)
  }

  private augment(n: number, host: number, seen: Set<number>): boolean {
    const { sites, wholeHeaders } = this.instance
    for (const s of this.byHost[host] ?? []) {
      if (seen.has(s) || this.holder[s] === -2 || wholeHeaders.has(sites[s]?.header ?? -1)) continue
      if (!this.mayHave(n, s)) continue
      seen.add(s)
      const other = this.holder[s] as number
      if (other < 0 || this.augment(other, host, seen)) {
        this.holder[s] = n
        this.siteOf[n] = s
        return true
      }
    }
    return false
  }
}
