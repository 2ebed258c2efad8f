import type { Millis } from '@/core/units-of-measure'

/** The quickest message of so long counts, and of as long before. */
const WINDOW_MS: Millis = 5000
/** Datagrams may overtake each other by less. */
const OVERTAKING_MS: Millis = 5000

/** Whether a time after `last` is of a hub that has begun anew, and counts from its own beginning. */
export const isOfAnotherStart = (at: Millis, last: Millis): boolean => at < last - OVERTAKING_MS

/**
 * The hub's clock as the page knows it: messages carry the hub's time, and the one that came most quickly tells how both clocks
 * stand. So what a hand does on a page that is behind with reading is still known to have happened when it did.
 */
export class HubTime {
  private least = Number.POSITIVE_INFINITY
  private before = Number.POSITIVE_INFINITY
  private since: Millis = Number.NEGATIVE_INFINITY
  private last: Millis = Number.NEGATIVE_INFINITY

  /** A message that the hub sent at `at` was read at `now` of the page. */
  hear(at: Millis, now: Millis): void {
    if (isOfAnotherStart(at, this.last)) {
      this.least = Number.POSITIVE_INFINITY
      this.before = Number.POSITIVE_INFINITY
    }
    this.last = at
    if (now - this.since > WINDOW_MS) {
      this.before = now - this.since > 2 * WINDOW_MS ? Number.POSITIVE_INFINITY : this.least
      this.least = Number.POSITIVE_INFINITY
      this.since = now
    }
    this.least = Math.min(this.least, now - at)
  }

  /** What the hub's clock said at a time of the page; null while nothing was heard. */
  at(page: Millis): Millis | null {
    const behind = Math.min(this.least, this.before)
    return Number.isFinite(behind) ? page - behind : null
  }
}
