import type { Micros } from '../../core/units-of-measure'

/** No finger presses and lets go more quickly; what lies closer together is a bounce. */
const LEAST_US: Micros = 40_000
/** What is still to be seen of a hand is no more than so many edges: a second or so. Nobody's finger owes more. */
const MOST_EDGES = 400
/** A bounce, out and back, takes so long at most as contacts are made. */
const BOUNCE_US: Micros = 950

/** A mechanical contact: when it moves it bounces for a few milliseconds before it settles. */
export class Contact {
  closed: boolean
  /** The longest it takes to settle: a worn one takes longer than it did when it was made. */
  bounceUs: Micros
  private edges: { at: Micros; closed: boolean }[] = []

  constructor(
    initially: boolean,
    private readonly random: () => number,
    /** How often it bounces at most when it closes. */
    private readonly mostBounces = 5,
    /** From one movement of it to the next at least. */
    private readonly leastUs: Micros = LEAST_US,
  ) {
    this.closed = initially
    this.bounceUs = this.asMadeUs
  }

  /** The longest that one as it is made takes to settle. */
  get asMadeUs(): Micros {
    return this.mostBounces * BOUNCE_US
  }

  /** The hand moves the contact at `now`. Closing bounces longer than opening. */
  move(closed: boolean, now: Micros): void {
    const last = this.edges.at(-1)?.closed ?? this.closed
    if (last === closed) return
    const bounces =
      Math.floor(this.random() * (closed ? this.mostBounces : Math.ceil(this.mostBounces / 2))) + 1
    if (this.edges.length > MOST_EDGES) this.edges.length = MOST_EDGES / 2
    // A hand that is heard late was no less slow: what it did before is seen to its end first.
    const before = this.edges.at(-1)
    let at = before ? Math.max(now, before.at + this.leastUs) : now
    const edges = [{ at, closed }]
    const longer = this.bounceUs / this.asMadeUs
    for (let i = 0; i < bounces; i++) {
      at += (60 + this.random() * 500) * longer
      edges.push({ at, closed: !closed })
      at += (40 + this.random() * 350) * longer
      edges.push({ at, closed })
    }
    this.edges.push(...edges)
  }

  /** Brings the contact up to `now`. */
  settle(now: Micros): void {
    while (this.edges[0] && this.edges[0].at <= now)
      this.closed = (this.edges.shift() as { closed: boolean }).closed
  }

  get moving(): boolean {
    return this.edges.length > 0
  }
}
