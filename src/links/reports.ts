import type { InputValue } from './board-link'
import { StateDigest } from './state-digest'

const ROUND = 0x10000
/** How far `a` lies beyond `b` on a counter that comes round, below zero when it lies before. */
const beyond = (a: number, b: number): number => ((a - b + ROUND + ROUND / 2) % ROUND) - ROUND / 2

/** How many reports a board keeps to say them again. */
export const RING = 32

/** The board's side: every report has a number, and the last few are kept. */
export class ReportRing {
  /** The number of the next report. */
  next = 0
  private readonly kept: InputValue[] = []
  private readonly known = new StateDigest()

  add(report: InputValue): void {
    this.kept.push(report)
    if (this.kept.length > RING) this.kept.shift()
    this.next = (this.next + 1) % ROUND
    this.known.put(report.slot, 0, report.value)
  }

  /** Where an input stands, without a report of its own. */
  stands({ slot, value }: InputValue): void {
    this.known.put(slot, 0, value)
  }

  get digest(): number {
    return this.known.value
  }

  /** The reports from one on, or null when it does not reach back so far. */
  since(from: number): readonly InputValue[] | null {
    const missing = beyond(this.next, from)
    if (missing < 0 || missing > this.kept.length) return null
    return this.kept.slice(this.kept.length - missing)
  }
}

/** The computer's side: takes reports in their order and notices what is missing. */
export class ReportReader {
  /** The number of the report expected next, or null before the first full account. */
  next: number | null = null
  private readonly known = new StateDigest()

  /** What of these is news, in order; null when something before them is missing. */
  take(number: number, inputs: readonly InputValue[]): readonly InputValue[] | null {
    if (this.next === null) return null
    const ahead = beyond(number, this.next)
    if (ahead > 0) return null
    const news = inputs.slice(Math.min(inputs.length, -ahead))
    this.next = (this.next + news.length) % ROUND
    for (const { slot, value } of news) this.known.put(slot, 0, value)
    return news
  }

  /** Where everything stands; reports go on from `number`. */
  takeAll(number: number, inputs: readonly InputValue[]): void {
    this.next = number
    for (const { slot, value } of inputs) this.known.put(slot, 0, value)
  }

  get digest(): number {
    return this.known.value
  }

  /** Whether a board that is about to give its next report this number has said something that was not heard. */
  misses(next: number): boolean {
    return this.next === null || beyond(next, this.next) > 0
  }
}
