import type { Millis } from '../core/units-of-measure'

/** So much at once, and so much a second after that. */
export class Bucket {
  private filledAt: Millis | null = null
  private tokens: number

  constructor(
    private readonly most: number,
    private readonly perSecond: number,
  ) {
    this.tokens = most
  }

  /** Takes one out; false when there is none left. */
  take(now: Millis): boolean {
    const passed = this.filledAt === null ? 0 : now - this.filledAt
    this.filledAt = now
    this.tokens = Math.min(this.most, this.tokens + (passed * this.perSecond) / 1000)
    if (this.tokens < 1) return false
    this.tokens -= 1
    return true
  }
}
