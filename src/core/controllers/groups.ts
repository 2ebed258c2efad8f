import type { Millis } from '../units-of-measure'

/** From one position of a switch to the next no contact may be closed for so long, with a slow hand. */
const HANDOVER_MS = 800
/** So many changes from one to another have to be seen before anything is said. */
const LEAST_HANDOVERS = 3
/** A switch rests in its positions so many times longer than between them. */
const OUTWEIGHS = 3
/** A rest of an hour says no more than one of so long. */
const LONGEST_MS = 5000

/** Buttons of which one is always closed: one switch with as many positions. */
export interface ButtonGroup {
  /** In the order in which a hand goes through them. */
  readonly pins: readonly number[]
  readonly handovers: number
}

/**
 * Watches which buttons take turns: one opens and, within a moment, another closes, again and again, and of all that ever
 * took turns with each other exactly one is closed nearly all the time. Two push buttons that are pressed in turn are told apart
 * by how long neither is.
 */
export class GroupWatch {
  private readonly closed: Set<number>
  /** By button, how often each other one took its turn before or after it. */
  private readonly turns = new Map<number, Map<number, number>>()
  /** By button, for how long just one of its group was closed, and for how long not. */
  private readonly times = new Map<number, { right: number; wrong: number }>()
  private opened: { pin: number; at: Millis } | null = null
  /** Since when it stands as it does. */
  private since: Millis = 0

  constructor(closed: Iterable<number>) {
    this.closed = new Set(closed)
  }

  /** Buttons have changed, all at one time. */
  take(changes: readonly { readonly pin: number; readonly closed: boolean }[], now: Millis): void {
    this.judge(now - this.since)
    this.since = now
    const opens = changes.filter((c) => !c.closed)
    const closes = changes.filter((c) => c.closed)
    for (const { pin } of opens) this.closed.delete(pin)
    const [from] = opens
    if (from && opens.length === 1) this.opened = { pin: from.pin, at: now }
    for (const { pin } of closes) {
      const before = this.opened
      if (before && before.pin !== pin && now - before.at <= HANDOVER_MS && closes.length === 1) {
        link(this.turns, before.pin, pin)
        link(this.turns, pin, before.pin)
        this.opened = null
      }
      this.closed.add(pin)
    }
  }

  private standsRight({ pins }: ButtonGroup): boolean {
    return pins.filter((p) => this.closed.has(p)).length === 1
  }

  /** It has stood as it does for so long. */
  private judge(ms: Millis): void {
    for (const group of this.components()) {
      const right = this.standsRight(group)
      for (const pin of group.pins) {
        const seen = this.times.get(pin) ?? { right: 0, wrong: 0 }
        this.times.set(pin, seen)
        seen[right ? 'right' : 'wrong'] += Math.min(ms, LONGEST_MS)
      }
    }
  }

  /** Sets of buttons that have taken turns with each other, however often. */
  private components(): ButtonGroup[] {
    const seen = new Set<number>()
    const found: ButtonGroup[] = []
    for (const start of this.turns.keys()) {
      if (seen.has(start)) continue
      const pins: number[] = []
      const open = [start]
      let sum = 0
      for (let pin = open.pop(); pin !== undefined; pin = open.pop()) {
        if (seen.has(pin)) continue
        seen.add(pin)
        pins.push(pin)
        for (const [other, times] of this.turns.get(pin) ?? []) {
          sum += times
          open.push(other)
        }
      }
      found.push({ pins: along(pins, this.turns), handovers: sum / 2 })
    }
    return found
  }

  /** What is a switch, as far as has been seen. */
  groups(now: Millis): ButtonGroup[] {
    const still = Math.min(now - this.since, LONGEST_MS)
    return this.components().filter((group) => {
      if (group.handovers < LEAST_HANDOVERS) return false
      const right = this.standsRight(group)
      return group.pins.every((pin) => {
        const seen = this.times.get(pin) ?? { right: 0, wrong: 0 }
        return seen.right + (right ? still : 0) >= (seen.wrong + (right ? 0 : still)) * OUTWEIGHS
      })
    })
  }
}

const link = (turns: Map<number, Map<number, number>>, a: number, b: number): void => {
  const to = turns.get(a) ?? new Map<number, number>()
  to.set(b, (to.get(b) ?? 0) + 1)
  turns.set(a, to)
}

/** From an end of a chain to the other where it is one, as a selector is gone through; else by number. */
const along = (pins: readonly number[], next: ReadonlyMap<number, ReadonlyMap<number, number>>): number[] => {
  const sorted = [...pins].sort((a, b) => a - b)
  const ends = sorted.filter((p) => next.get(p)?.size === 1)
  const isChain = ends.length === 2 && pins.every((p) => (next.get(p)?.size ?? 0) <= 2)
  if (!isChain || pins.length < 3) return sorted
  const order: number[] = []
  let at: number | undefined = ends[0]
  while (at !== undefined && !order.includes(at)) {
    order.push(at)
    at = [...(next.get(at)?.keys() ?? [])].find((p) => !order.includes(p))
  }
  return order
}
