/** So many in a row that are older, and grow themselves: the sender has begun anew. */
const ANEW = 3

/** Knows by a number that only grows which datagrams come late, or twice; and when their sender has begun anew. */
export class Growing {
  private last: number | null = null
  private older: number | null = null
  private olderCount = 0

  /** Whether one with this number is news; `wraps` is where the number begins again at its least. */
  isNews(is: number, wraps = Number.POSITIVE_INFINITY): boolean {
    const { last } = this
    if (last === null) {
      this.last = is
      return true
    }
    if (forward(last, is, wraps) > 0) {
      this.last = is
      this.olderCount = 0
      this.older = null
      return true
    }
    if (is === last) return false
    this.olderCount = this.older === null || forward(this.older, is, wraps) > 0 ? this.olderCount + 1 : 1
    this.older = is
    if (this.olderCount < ANEW) return false
    this.last = is
    this.olderCount = 0
    this.older = null
    return true
  }

  forget(): void {
    this.last = null
    this.older = null
    this.olderCount = 0
  }
}

/** How far it is from one to the other, the shorter way round. */
const forward = (from: number, to: number, wraps: number): number => {
  const by = to - from
  if (!Number.isFinite(wraps)) return by
  return by < -wraps / 2 ? by + wraps : by > wraps / 2 ? by - wraps : by
}
