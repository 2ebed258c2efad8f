import { sameNumber } from '../signal/same-number'
import type { Millis } from '../units-of-measure'

/** A value that has stood still for so long begins to move when it changes. */
export const STILL_MS: Millis = 700
/** A change so many times as large as a value's usual ones is a step, however restless the value is. */
const STEP_TIMES = 8
/** After so many changes one way, one the other way is a turn: what wanders goes one way as long once in hours. */
const RUN = 16
/** Of each value so many beginnings are kept; whatever moves more often is no control. */
export const MOST_ONSETS = 48
/** How quickly the usual size of changes is learnt. */
const LEARN = 0.05
/** So many changes are needed before their size says anything. */
const KNOWN_SIZE = 12

/** A value has begun to move, or has turned, or has jumped. */
export interface Onset {
  readonly at: Millis
  readonly from: number
  /** What it came to, as far as has been seen. */
  to: number
  /** When it came to that. */
  until: Millis
  changes: number
  /** It is restless, and this was larger than its unrest. */
  readonly jumped: boolean
}

/**
 * Watches many values and keeps of each when it began to move, from what, and to what: all that a hunt needs. A change costs a
 * few operations; what moves all the time begins only once.
 */
export class HuntWatch {
  readonly onsets: Onset[][]
  /** Beginnings, also those that are not kept. */
  readonly counts: Uint32Array
  readonly changes: Uint32Array
  private readonly last: Float64Array
  private readonly at: Float64Array
  private readonly usual: Float64Array
  private readonly run: Int16Array

  constructor(
    readonly size: number,
    /** When it began to watch. */
    readonly began: Millis,
    /** How often each began to move before that, and in how long: what is known already of what moves by itself. */
    readonly earlier: { readonly counts: ArrayLike<number>; readonly ms: Millis } | null = null,
  ) {
    this.onsets = Array.from({ length: size }, () => [])
    this.counts = new Uint32Array(size)
    this.changes = new Uint32Array(size)
    this.last = new Float64Array(size).fill(Number.NaN)
    // What moves at once may have moved before: only what has been seen to stand still can begin.
    this.at = new Float64Array(size).fill(began)
    this.usual = new Float64Array(size)
    this.run = new Int16Array(size)
  }

  /** Where a value stands as the watch begins; NaN for one that is absent. */
  begin(index: number, value: number): void {
    this.last[index] = value
  }

  /** A value is another now. A text counts as a number that stands for it. */
  note(index: number, value: number, now: Millis): void {
    const before = this.last[index] as number
    // What a 32-bit float would not tell apart has not moved; what creeps adds up until it has.
    if (sameNumber(before, value)) return
    this.last[index] = value
    // One that comes into being has not moved.
    if (Number.isNaN(before) || Number.isNaN(value)) {
      this.at[index] = now
      return
    }
    const by = value - before
    const size = Math.abs(by)
    const changes = (this.changes[index] as number) + 1
    const quiet = now - (this.at[index] as number) > STILL_MS
    const run = this.run[index] as number
    const turns = Math.abs(run) >= RUN && Math.sign(run) !== Math.sign(by)
    const usual = this.usual[index] as number
    const jumps = changes > KNOWN_SIZE && size > STEP_TIMES * usual
    this.changes[index] = changes
    this.at[index] = now
    this.usual[index] = usual === 0 ? size : usual + LEARN * (Math.min(size, 4 * usual) - usual)
    this.run[index] =
      Math.sign(run) === Math.sign(by) ? Math.max(-RUN, Math.min(RUN, run + Math.sign(by))) : Math.sign(by)
    const list = this.onsets[index] as Onset[]
    if (quiet || turns || jumps) {
      this.counts[index] = (this.counts[index] as number) + 1
      if (list.length < MOST_ONSETS)
        list.push({
          at: now,
          from: before,
          to: value,
          until: now,
          changes: 1,
          jumped: jumps && !quiet && !turns,
        })
      return
    }
    const onset = list.at(-1)
    if (!onset || list.length < (this.counts[index] as number)) return
    // Of what is restless a jump is over when its changes are as small as ever.
    if (onset.jumped && !(size > (STEP_TIMES / 2) * usual)) return
    onset.to = value
    onset.until = now
    onset.changes++
  }

  /** The usual size of its changes. */
  unrest(index: number): number {
    return this.usual[index] as number
  }
}
