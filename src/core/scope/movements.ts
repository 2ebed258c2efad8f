import type { Millis } from '../units-of-measure'

/** A trace is so many samples long, this far apart. */
export const TRACE_SAMPLES = 160
/** A row shows the last twenty seconds of it. */
export const ROW_SAMPLES = 80
export const TRACE_STEP_MS: Millis = 250

/**
 * How often each of many values has changed, when it did last, and a short trace of it. Plain arrays: 20,000 values of
 * which 6,000 change thirty times a second are counted here.
 */
export class Movements {
  readonly counts: Uint32Array
  /** When each changed last; NaN where it never has. */
  readonly at: Float64Array
  private readonly traces: Float32Array
  private samples = 0
  private sampledAt = Number.NEGATIVE_INFINITY

  constructor(readonly size: number) {
    this.counts = new Uint32Array(size)
    this.at = new Float64Array(size).fill(Number.NaN)
    this.traces = new Float32Array(size * TRACE_SAMPLES).fill(Number.NaN)
  }

  /** One has changed. */
  note(index: number, now: Millis): void {
    this.counts[index] = (this.counts[index] as number) + 1
    this.at[index] = now
  }

  /** Takes a sample of all of them when one is due; true when it did. What is no number is NaN. */
  sample(numbers: ArrayLike<number>, now: Millis): boolean {
    if (now - this.sampledAt < TRACE_STEP_MS) return false
    // After a pause the samples go on from now.
    this.sampledAt = now - this.sampledAt > 2 * TRACE_STEP_MS ? now : this.sampledAt + TRACE_STEP_MS
    const column = this.samples % TRACE_SAMPLES
    const count = Math.min(this.size, numbers.length)
    for (let i = 0; i < count; i++) this.traces[i * TRACE_SAMPLES + column] = numbers[i] as number
    this.samples++
    return true
  }

  /** The last samples of one, oldest first; null where there was no number. */
  trace(index: number, most = TRACE_SAMPLES): (number | null)[] {
    const list: (number | null)[] = []
    const had = Math.min(this.samples, most, TRACE_SAMPLES)
    for (let i = this.samples - had; i < this.samples; i++) {
      const v = this.traces[index * TRACE_SAMPLES + (i % TRACE_SAMPLES)] as number
      list.push(Number.isNaN(v) ? null : v)
    }
    return list
  }

  /** What has changed since then. */
  movedSince(then: Millis): number[] {
    const moved: number[] = []
    for (let i = 0; i < this.size; i++) if ((this.at[i] as number) >= then) moved.push(i)
    return moved
  }

  /** Takes over what is known of those that are at another place now. */
  carryOver(before: Movements, from: (index: number) => number | undefined): void {
    this.samples = before.samples
    this.sampledAt = before.sampledAt
    for (let i = 0; i < this.size; i++) {
      const was = from(i)
      if (was === undefined || was >= before.size) continue
      this.counts[i] = before.counts[was] as number
      this.at[i] = before.at[was] as number
      this.traces.set(
        before.traces.subarray(was * TRACE_SAMPLES, (was + 1) * TRACE_SAMPLES),
        i * TRACE_SAMPLES,
      )
    }
  }

  forget(): void {
    this.counts.fill(0)
    this.at.fill(Number.NaN)
  }
}
