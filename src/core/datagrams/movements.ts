import type { Millis } from '../units-of-measure'

/** Movements are counted in bins of this length, over so many of them; when they are full the older half is forgotten. */
export const BIN_MS: Millis = 250
const MOST_BINS = 720
/** A movement that ended no longer before a mark than this, or begins no later after it, may be of the hand that marked; a hand that is busy marks when it has finished. */
export const BEFORE_MS: Millis = 2000
export const AFTER_MS: Millis = 2500
/** Still bins that part one movement from the next. */
const STILL = 5
/** A slow hand takes so many bins there and back. Of what moves for longer, or was moving before, only so many bins beside a mark’s time are held to be the hand’s. */
const LONGEST = 44
const MOST_TAIL = 12

/** A stretch of bins in which a bit moved without a rest. */
export interface Movement {
  readonly from: number
  readonly until: number
}

/** What a bit did at the marks, and otherwise. */
export interface AtMarks {
  /** Marks at which it moved. */
  readonly hits: number
  /** Bins in which it moved that belong to no mark. */
  readonly otherwise: number
  /** By mark: when what belongs to it alone began and ended, in milliseconds; not a number where nothing does. */
  readonly starts: readonly Millis[]
  readonly ends: readonly Millis[]
  /** Its movements that belong to a mark. */
  readonly own: readonly Movement[]
}

/** When each bit of a packet has moved. */
export class Movements {
  /** By bit, for each bin in which it moved how far into the bin that was, in milliseconds and 1; else 0. */
  private readonly moved: Uint8Array[]

  constructor(
    bytes: number,
    private began: Millis,
  ) {
    this.moved = Array.from({ length: bytes * 8 }, () => new Uint8Array(0))
  }

  /** The bin of a time; negative where that is forgotten. */
  bin(at: Millis): number {
    return Math.floor((at - this.began) / BIN_MS)
  }

  /** The bits of a byte that are set in `changed` were others before. */
  note(byte: number, changed: number, at: Millis): void {
    let bin = this.bin(at)
    while (bin >= MOST_BINS) {
      this.forgetHalf()
      bin = this.bin(at)
    }
    if (bin < 0) return
    const into = 1 + Math.floor(at - this.began - bin * BIN_MS)
    for (let b = 0; b < 8; b++) {
      if ((changed & (1 << b)) === 0) continue
      const i = byte * 8 + b
      if ((this.moved[i] as Uint8Array).length === 0) this.moved[i] = new Uint8Array(MOST_BINS)
      const moved = this.moved[i] as Uint8Array
      if (moved[bin] === 0) moved[bin] = into
    }
  }

  private forgetHalf(): void {
    for (const moved of this.moved) {
      moved.copyWithin(0, MOST_BINS / 2)
      moved.fill(0, MOST_BINS / 2)
    }
    this.began += (BIN_MS * MOST_BINS) / 2
  }

  /** The movements of a bit from one bin to before another. */
  private of(bit: number, first: number, end: number): Movement[] {
    const moved = this.moved[bit] as Uint8Array
    const found: { from: number; until: number }[] = []
    for (let i = first; i < Math.min(end, moved.length); i++) {
      if (moved[i] === 0) continue
      const last = found.at(-1)
      if (last && i - last.until <= STILL) last.until = i
      else found.push({ from: i, until: i })
    }
    return found
  }

  /** In which bins, from one to before another, a mark’s time is. */
  timesOf(marks: readonly Millis[], end: number): Uint8Array {
    const isIn = new Uint8Array(end)
    for (const m of marks)
      isIn.fill(1, Math.max(0, this.bin(m - BEFORE_MS)), Math.max(0, this.bin(m + AFTER_MS) + 1))
    return isIn
  }

  /**
   * What a bit did at these marks, and otherwise; null where it never moved.
   *
   * @param isIn which bins belong to the marks anyhow; as many as are looked at
   * @param first the first bin that is looked at
   */
  atMarks(bit: number, marks: readonly Millis[], isIn: Uint8Array, first: number): AtMarks | null {
    const moved = this.moved[bit] as Uint8Array
    if (moved.length === 0) return null
    const all = this.of(bit, first, isIn.length)
    const meets = (k: number) => {
      const m = marks[k]
      if (m === undefined) return () => false
      const from = this.bin(m - BEFORE_MS)
      const until = this.bin(m + AFTER_MS)
      return (x: Movement) => x.until >= from && x.from <= until
    }
    let otherwise = 0
    const own: Movement[] = []
    for (const x of all) {
      if (x.from > first && x.until - x.from < LONGEST && marks.some((_, k) => meets(k)(x))) {
        own.push(x)
        continue
      }
      // What has begun at a mark may take its time to come to rest.
      let tail = 0
      for (let i = x.from; i <= x.until; i++) {
        if (isIn[i] === 1) tail = MOST_TAIL
        else if (tail > 0) tail--
        else if (moved[i] !== 0) otherwise++
      }
    }
    let hits = 0
    const starts: Millis[] = []
    const ends: Millis[] = []
    for (let k = 0; k < marks.length; k++) {
      const here = all.filter(meets(k))
      if (here.length > 0) hits++
      // The end of an earlier movement is no beginning of this one.
      const fresh = here.find((x) => x.from > first && !meets(k - 1)(x))
      const done = here.findLast((x) => !meets(k + 1)(x))
      starts.push(fresh ? this.began + fresh.from * BIN_MS + (moved[fresh.from] as number) - 1 : Number.NaN)
      ends.push(done ? this.began + done.until * BIN_MS + (moved[done.until] as number) - 1 : Number.NaN)
    }
    return { hits, otherwise, starts, ends, own }
  }
}
