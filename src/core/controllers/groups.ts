import type { Millis } from '../units-of-measure'

/** From one position of a switch to the next no contact may be closed for so long. */
const HANDOVER_MS = 300
/** What stands for so long is a rest, and no passing through. */
const REST_MS = 150
/** So many changes from one to another have to be seen before anything is said. */
const LEAST_HANDOVERS = 3

/** Buttons of which one is always closed: one switch with as many positions. */
export interface ButtonGroup {
  /** In the order in which a hand goes through them. */
  readonly pins: readonly number[]
  readonly handovers: number
}

/**
 * Watches which buttons take turns: one opens and, within a moment, another closes, again and again, and of all that ever
 * took turns with each other exactly one is closed whenever the hand rests. Two push buttons that are pressed in turn are
 * told apart by the rests in which neither is.
 */
export class GroupWatch {
  private readonly closed: Set<number>
  private readonly handovers = new Map<string, number>()
  private readonly wrong = new Set<number>()
  private opened: { pin: number; at: Millis } | null = null
  /** What stood closed since when; judged as a rest once it has stood long enough. */
  private since: Millis = 0

  constructor(closed: Iterable<number>) {
    this.closed = new Set(closed)
  }

  /** Buttons have changed, all at one time. */
  take(changes: readonly { readonly pin: number; readonly closed: boolean }[], now: Millis): void {
    this.rest(now)
    this.since = now
    const opens = changes.filter((c) => !c.closed)
    const closes = changes.filter((c) => c.closed)
    for (const { pin } of opens) this.closed.delete(pin)
    const [from] = opens
    if (from && opens.length === 1) this.opened = { pin: from.pin, at: now }
    for (const { pin } of closes) {
      const before = this.opened
      if (before && before.pin !== pin && now - before.at <= HANDOVER_MS && closes.length === 1) {
        const key = pairOf(before.pin, pin)
        this.handovers.set(key, (this.handovers.get(key) ?? 0) + 1)
        this.opened = null
      }
      this.closed.add(pin)
    }
  }

  /** Time has passed: what stands now may be a rest. */
  rest(now: Millis): void {
    if (now - this.since < REST_MS) return
    for (const { pins } of this.components()) {
      const closed = pins.filter((p) => this.closed.has(p))
      if (closed.length === 1) continue
      for (const pin of pins) this.wrong.add(pin)
    }
  }

  /** Sets of buttons that have taken turns with each other, however often. */
  private components(): ButtonGroup[] {
    const next = new Map<number, Map<number, number>>()
    for (const [key, times] of this.handovers) {
      const [a = 0, b = 0] = key.split(' ').map(Number)
      link(next, a, b, times)
      link(next, b, a, times)
    }
    const seen = new Set<number>()
    const found: ButtonGroup[] = []
    for (const start of next.keys()) {
      if (seen.has(start)) continue
      const pins: number[] = []
      const open = [start]
      let sum = 0
      while (open.length > 0) {
        const pin = open.pop() as number
        if (seen.has(pin)) continue
        seen.add(pin)
        pins.push(pin)
        for (const [other, times] of next.get(pin) ?? []) {
          sum += times
          open.push(other)
        }
      }
      found.push({ pins: along(pins, next), handovers: sum / 2 })
    }
    return found
  }

  /** What is a switch, as far as has been seen. */
  groups(now: Millis): ButtonGroup[] {
    this.rest(now)
    return this.components().filter(
      ({ pins, handovers }) =>
        handovers >= LEAST_HANDOVERS && pins.length >= 2 && !pins.some((p) => this.wrong.has(p)),
    )
  }
}

const pairOf = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`)

const link = (next: Map<number, Map<number, number>>, a: number, b: number, times: number): void => {
  const to = next.get(a) ?? new Map<number, number>()
  to.set(b, times)
  next.set(a, to)
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
