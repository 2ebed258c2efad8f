/** Counts happenings and tells how many there were a second, over the last whole second or so. */
export class Rate {
  private count = 0
  private since: number
  hz = 0

  constructor(now: number) {
    this.since = now
  }

  add(): void {
    this.count++
  }

  /** To be asked now and then; the number changes about once a second. */
  update(now: number): number {
    const passed = now - this.since
    if (passed >= 1000) {
      this.hz = Math.round((this.count / passed) * 10_000) / 10
      this.count = 0
      this.since = now
    }
    return this.hz
  }
}
