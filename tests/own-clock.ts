import type { Clock } from '../src/check/wire'

/** The time of a board under test, for whoever waits: waiting is what lets it pass. */
export class OwnClock implements Clock {
  private readonly timers = new Set<{ every: number; at: number; work: () => void }>()

  constructor(
    readonly now: () => number,
    private readonly run: (ms: number) => void,
  ) {}

  /** Calls whoever is due. */
  ring(): void {
    for (const t of this.timers) {
      if (this.now() < t.at) continue
      t.at = this.now() + t.every
      t.work()
    }
  }

  readonly sleep = async (ms: number): Promise<void> => {
    this.run(ms)
    // Everybody else has a turn, too.
    await new Promise((resolve) => setImmediate(resolve))
  }

  readonly every = (ms: number, work: () => void): (() => void) => {
    const timer = { every: ms, at: this.now() + ms, work }
    this.timers.add(timer)
    return () => this.timers.delete(timer)
  }
}
