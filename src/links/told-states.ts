import { StateDigest } from './state-digest'

/** What a board's heartbeat says of the states it was told. */
export type Verdict =
  /** It shows everything up to and with this batch. */
  | { readonly is: 'confirmed'; readonly batch: number }
  /** It shows something else. */
  | { readonly is: 'differs' }

interface Mark {
  readonly sequence: number
  readonly digest: number
  /** The last batch that ended with this frame or before it. */
  batch: number
}

/** Marks kept at most: sequence numbers come round after 256. */
const MOST_MARKS = 250

/**
 * What a board was told, frame by frame, to be held against what it says it shows. A frame on its way is no
 * difference: what counts is the digest as it was after the frame that the board heard last.
 */
export class ToldStates {
  private readonly digest = new StateDigest()
  private marks: Mark[] = []

  /** The board begins from nothing with this frame. */
  begin(sequence: number, batch: number): void {
    this.digest.clear()
    this.marks = [{ sequence, digest: 0, batch }]
  }

  put(slot: number, row: number, state: number | string): void {
    this.digest.put(slot, row, state)
  }

  /** The frame with this number has carried everything put so far. */
  sent(sequence: number): void {
    const batch = this.marks.at(-1)?.batch ?? 0
    this.marks.push({ sequence, digest: this.digest.value, batch })
    if (this.marks.length > MOST_MARKS) this.marks.shift()
  }

  /** All of a batch is said. */
  ends(batch: number): void {
    const mark = this.marks.at(-1)
    if (mark) mark.batch = batch
  }

  /** `last` is the sequence number said last, `heard` the one the board heard last. */
  judge(last: number, heard: number, digest: number): Verdict {
    const age = (sequence: number) => (last - sequence) & 255
    const heardAge = age(heard)
    let at = this.marks.length - 1
    while (at > 0 && age((this.marks[at] as Mark).sequence) < heardAge) at--
    const mark = this.marks[at]
    if (!mark || mark.digest !== digest) return { is: 'differs' }
    // What lies before it will not be asked for any more.
    this.marks = this.marks.slice(at)
    return { is: 'confirmed', batch: mark.batch }
  }
}
