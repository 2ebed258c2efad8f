import type { Millis } from '../units-of-measure'
import { type FieldTypeName, fieldTypeNames, fieldTypes } from './field-type'
import type { ByteOrder, DatagramField } from './layout'

/** What moved longer ago than this before the first mark was before the hand had let it rest. */
const RESTED_MS: Millis = 5500
/** Movements are counted in bins of this length, over so many of them. */
const BIN_MS: Millis = 250
const MOST_BINS = 720
/** What moves within this time before or after a mark may have been moved by the hand that marked; a hand that is busy marks when it has finished. */
const BEFORE_MS: Millis = 2000
const AFTER_MS: Millis = 2500
/** Datagrams that are kept to try readings on. */
const MOST_KEPT = 1800
/** A bit that moves in more than this share of the time between the marks moves by itself. */
const RESTLESS = 0.06
/** How seldom the right bit may fail to move at a mark. */
const MOST_MISSED = 0.25
/** Bins after a mark’s time in which a movement is taken for the end of one that has begun in it. */
const MOST_TAIL = 12
const MOST_STILL = 5
/** Where a movement is looked for first: most hands mark just after they have operated something. Each hand is late by much the same each time, and seldom otherwise. */
const USUAL_DELAY_MS = -400
const SPREAD_MS = 400
const ANYWHERE = 0.2
/** As if so long had been watched in which it moved half a time: who marks in haste leaves little time between. */
const UNSEEN_BINS = 24
/** So much likelier by the hand than by itself, as a logarithm for each mark, is worth telling. */
const LEAST_EVIDENCE = 0.8
/** Readings beyond these are no quantity that a builder would show. */
const LARGEST = 1e8
const SMALLEST = 1e-7
const MOST_GUESSES = 12

/** What a reading of some bytes would be, if these are what the hand has moved. */
export interface FieldGuess extends Pick<DatagramField, 'at' | 'as' | 'bits'> {
  readonly order: ByteOrder
  /** Marks at which it moved. */
  readonly hits: number
  readonly marks: number
  /** Bins between the marks in which it moved all the same. */
  readonly otherwise: number
  /** From the mark to its first movement; negative where it moved first. */
  readonly delayMs: Millis
  readonly least: number
  readonly most: number
  /** How it went lately, for a trace. */
  readonly trace: readonly number[]
  readonly score: number
}

interface Bit {
  readonly hits: number
  readonly otherwise: number
  readonly delayMs: Millis
  /** How much likelier its movements are by the hand than by themselves, as a logarithm. */
  readonly likelier: number
  /** The same for one mark, whenever in its time it moved. */
  readonly notByItself: number
}

/** How much denser movements of the right one are so far from their usual delay than anywhere in the window: a hand keeps its own time. */
const density = (off: Millis): number => {
  const near = Math.exp(-0.5 * (off / SPREAD_MS) ** 2) / (SPREAD_MS * Math.sqrt(2 * Math.PI))
  return (1 - ANYWHERE) * near * (BEFORE_MS + AFTER_MS) + ANYWHERE
}

const viewOf = (b: Uint8Array): DataView => new DataView(b.buffer, b.byteOffset, b.byteLength)

/** Watches the bytes of one packet and says which of them a hand has moved, and how they may be read. */
export class FieldHunt {
  readonly marks: Millis[] = []
  /** By bit, for each bin in which it moved how far into the bin that was, in milliseconds and 1; else 0. */
  private readonly moved: Uint8Array[]
  private readonly kept: Uint8Array[] = []
  private readonly keptAt: Millis[] = []
  private last: Uint8Array | null = null
  /** The first of what is kept on which readings are tried. */
  private triedFrom = 0

  constructor(
    readonly bytes: number,
    readonly began: Millis,
    /** In which order other numbers of the layout are kept: that is likelier. */
    private readonly order: ByteOrder,
  ) {
    this.moved = Array.from({ length: bytes * 8 }, () => new Uint8Array(0))
  }

  private bin(at: Millis): number {
    return Math.floor((at - this.began) / BIN_MS)
  }

  /** A datagram of the packet has come. */
  take(bytes: Uint8Array, at: Millis): void {
    const { last } = this
    const now = bytes.slice(0, this.bytes)
    if (now.length < this.bytes) return
    const bin = this.bin(at)
    if (last && bin >= 0 && bin < MOST_BINS)
      for (let i = 0; i < this.bytes; i++) {
        const changed = (last[i] as number) ^ (now[i] as number)
        if (changed !== 0) this.note(i, changed, bin, 1 + Math.floor(at - this.began - bin * BIN_MS))
      }
    this.last = now
    this.kept.push(now)
    this.keptAt.push(at)
    if (this.kept.length > MOST_KEPT) {
      this.kept.shift()
      this.keptAt.shift()
    }
  }

  private note(byte: number, changed: number, bin: number, into: number): void {
    for (let b = 0; b < 8; b++) {
      if ((changed & (1 << b)) === 0) continue
      const at = byte * 8 + b
      if ((this.moved[at] as Uint8Array).length === 0) this.moved[at] = new Uint8Array(MOST_BINS)
      const moved = this.moved[at] as Uint8Array
      if (moved[bin] === 0) moved[bin] = into
    }
  }

  /** The hand operates it now. */
  mark(at: Millis): void {
    this.marks.push(at)
  }

  private evidence(bit: number, isIn: Uint8Array, first: number, bins: number): Bit | null {
    const moved = this.moved[bit] as Uint8Array
    if (moved.length === 0) return null
    let otherwise = 0
    // What has begun at a mark may take its time to come to rest.
    let tail = 0
    let still = 0
    for (let i = first; i < bins; i++) {
      const moves = moved[i] !== 0
      still = moves ? 0 : still + 1
      if (isIn[i] === 1) tail = MOST_TAIL
      else if (moves && tail === 0) otherwise++
      // What has stood still for a while begins anew.
      tail = still > MOST_STILL ? 0 : Math.max(0, tail - (isIn[i] === 1 ? 0 : 1))
    }
    let hits = 0
    const delays: number[] = []
    for (const m of this.marks) {
      const from = Math.max(0, this.bin(m - BEFORE_MS))
      const until = Math.min(bins - 1, this.bin(m + AFTER_MS))
      let moves = false
      for (let i = from; i <= until; i++) {
        if (moved[i] === 0) continue
        moves = true
        // The end of an earlier movement is no beginning of this one.
        if (moved[i - 1] || moved[i - 2]) continue
        delays.push(this.began + i * BIN_MS + (moved[i] as number) - 1 - m)
        break
      }
      if (moves) hits++
    }
    delays.sort((a, b) => a - b)
    // By itself it would move at a mark as often as it does between them.
    const outside = bins - first - isIn.reduce((n, x) => n + x, 0)
    const rate = (otherwise + 0.5) / (outside + UNSEEN_BINS)
    const byItself = 1 - Math.exp((-rate * (BEFORE_MS + AFTER_MS)) / BIN_MS)
    const middle = delays[delays.length >> 1] ?? 0
    const likelier = delays.reduce((n, d) => n + Math.log(density(d - middle) / byItself), 0)
    return {
      hits,
      otherwise,
      delayMs: middle,
      likelier,
      notByItself: -Math.log(byItself),
    }
  }

  /** What the hand may have moved, the likeliest first. */
  guesses(now: Millis): FieldGuess[] {
    const { marks } = this
    if (marks.length === 0 || this.kept.length < 2) return []
    const bins = Math.min(MOST_BINS, this.bin(now) + 1)
    const since = Math.min(...marks) - RESTED_MS
    const first = Math.max(0, Math.min(bins - 1, this.bin(since)))
    this.triedFrom = Math.max(
      0,
      this.keptAt.findIndex((t) => t >= since),
    )
    const isIn = new Uint8Array(bins)
    for (const m of marks)
      isIn.fill(
        1,
        Math.max(0, this.bin(m - BEFORE_MS)),
        Math.max(0, Math.min(bins, this.bin(m + AFTER_MS) + 1)),
      )
    const outside = bins - first - isIn.reduce((n, x) => n + x, 0)
    const bits = this.moved.map((_, i) => this.evidence(i, isIn, first, bins))
    const isByHand = bits.map(
      (b) => b !== null && b.hits >= marks.length * (1 - MOST_MISSED) && b.otherwise <= RESTLESS * outside,
    )
    const isRestless = bits.map((b) => b !== null && b.otherwise > RESTLESS * outside)
    const byte = (i: number, of: readonly boolean[]) => of.slice(i * 8, i * 8 + 8).some(Boolean)
    const hand = Array.from({ length: this.bytes }, (_, i) => byte(i, isByHand))
    const restless = Array.from({ length: this.bytes }, (_, i) => byte(i, isRestless))
    const found: FieldGuess[] = []
    for (let i = 0; i < this.bytes; i++) {
      if (!hand[i]) continue
      if (restless[i]) found.push(...this.bitGuesses(i, isByHand, bits))
      else {
        let end = i + 1
        while (end < this.bytes && hand[end] && !restless[end]) end++
        found.push(...this.runGuesses(i, end, hand, restless, isByHand, bits))
        i = end - 1
      }
    }
    return found.sort((a, b) => b.score - a.score).slice(0, MOST_GUESSES)
  }

  /** A flag among others that move by themselves. */
  private bitGuesses(at: number, isByHand: readonly boolean[], bits: readonly (Bit | null)[]): FieldGuess[] {
    const guesses: FieldGuess[] = []
    for (let b = 0; b < 8; b++)
      if (isByHand[at * 8 + b]) {
        const guess = this.tried(
          { at, as: 'u8', order: this.order, bits: { from: b, width: 1 } },
          [at * 8 + b],
          bits,
          0,
        )
        if (guess) guesses.push(guess)
      }
    return guesses
  }

  /** How a run of bytes that a hand has moved may be read: the best reading of each stretch of it. */
  private runGuesses(
    from: number,
    end: number,
    hand: readonly boolean[],
    restless: readonly boolean[],
    isByHand: readonly boolean[],
    bits: readonly (Bit | null)[],
  ): FieldGuess[] {
    const moving = Array.from({ length: (end - from) * 8 }, (_, k) => from * 8 + k).filter((b) => isByHand[b])
    if (moving.length === 1) {
      const [only] = moving as [number]
      const guess = this.tried(
        { at: only >> 3, as: 'u8', order: this.order, bits: { from: only & 7, width: 1 } },
        moving,
        bits,
        1,
      )
      return guess ? [guess] : []
    }
    const tries: FieldGuess[] = []
    for (const as of fieldTypeNames) {
      const size = fieldTypes[as].bytes
      for (let at = Math.max(0, from - size + 1); at < end && at + size <= this.bytes; at++) {
        const inside = Array.from({ length: size }, (_, k) => at + k)
        if (inside.some((i) => restless[i])) continue
        const covered = inside.filter((i) => hand[i])
        if (covered.length === 0) continue
        const share = covered.length / Math.min(end - from, 8)
        const own = covered
          .flatMap((i) => Array.from({ length: 8 }, (_, b) => i * 8 + b))
          .filter((b) => isByHand[b])
        for (const order of size === 1 ? [this.order] : (['little', 'big'] as const)) {
          const guess = this.tried({ at, as, order }, own, bits, share)
          if (guess) tries.push(guess)
        }
      }
    }
    // What lies on a better reading is not one of its own.
    const taken: FieldGuess[] = []
    for (const g of tries.sort((a, b) => b.score - a.score)) {
      const meets = (o: FieldGuess) => g.at < o.at + sizeOf(o) && o.at < g.at + sizeOf(g)
      if (!taken.some(meets)) taken.push(g)
    }
    return taken
  }

  /** A reading held against all that was seen: null where it makes no number. */
  private tried(
    reading: Pick<FieldGuess, 'at' | 'as' | 'order' | 'bits'>,
    own: readonly number[],
    bits: readonly (Bit | null)[],
    covers: number,
  ): FieldGuess | null {
    const values = this.valuesOf(reading)
    if (values === null) return null
    let least = Number.POSITIVE_INFINITY
    let most = Number.NEGATIVE_INFINITY
    let way = 0
    let tiny = 0
    let ups = 0
    let downs = 0
    for (const [i, v] of values.entries()) {
      if (v < least) least = v
      if (v > most) most = v
      if (v !== 0 && Math.abs(v) < SMALLEST) tiny++
      if (i === 0) continue
      const by = v - (values[i - 1] as number)
      way += Math.abs(by)
      if (by > 0) ups++
      else if (by < 0) downs++
    }
    if (most === least) return null
    const evidence = own.map((b) => bits[b]).filter((b) => b != null)
    const hits = Math.max(...evidence.map((b) => b.hits))
    const otherwise = Math.max(...evidence.map((b) => b.otherwise))
    const delays = evidence.map((b) => b.delayMs).sort((a, b) => a - b)
    const delayMs = delays[delays.length >> 1] ?? 0
    const likelier = Math.max(...evidence.map((b) => b.likelier)) / this.marks.length
    if (Math.max(...evidence.map((b) => b.notByItself)) < LEAST_EVIDENCE) return null
    // What only ever goes one way, and by itself too, is a count or a clock.
    if (ups * downs === 0 && otherwise > 0) return null
    // A hand goes there and back once or twice for each mark; what is read wrongly jumps about far more.
    const rough = way / ((most - least) * 2 * this.marks.length)
    const type = reading.as === 'text' ? null : fieldTypes[reading.as]
    const isFloat = type !== null && !type.isWhole
    const large = Math.max(Math.abs(least), Math.abs(most))
    const idle = reading.bits || isFloat ? 0 : (type?.bytes ?? 1) - new Set(own.map((b) => b >> 3)).size
    const score =
      2 * likelier +
      3 * covers -
      1.5 * Math.max(0, Math.log2(rough)) -
      (large > LARGEST ? 3 : 0) -
      (isFloat && (large < 1e-3 || tiny * 20 > values.length) ? 4 : 0) -
      0.6 * idle -
      (ups * downs === 0 ? 2 : 0) -
      (reading.order === this.order ? 0 : 0.4) +
      (reading.at % (type?.bytes ?? 1) === 0 ? 0.3 : 0) -
      (type?.isWhole && type.least < 0 && least >= 0 ? 0.2 : 0) -
      0.3 * otherwise -
      // What follows begins later than what leads.
      Math.max(-0.6, Math.min(2, (delayMs - USUAL_DELAY_MS) / 600))
    return {
      ...reading,
      hits,
      marks: this.marks.length,
      otherwise,
      delayMs,
      least,
      most,
      trace: thinned(values),
      score,
    }
  }

  private valuesOf({
    at,
    as,
    order,
    bits,
  }: Pick<FieldGuess, 'at' | 'as' | 'order' | 'bits'>): Float64Array | null {
    if (as === 'text') return null
    const type = fieldTypes[as]
    const values = new Float64Array(this.kept.length - this.triedFrom)
    for (let i = 0; i < values.length; i++) {
      const v = type.read(viewOf(this.kept[this.triedFrom + i] as Uint8Array), at, order === 'little')
      if (!Number.isFinite(v)) return null
      values[i] = bits ? Math.floor(v / 2 ** bits.from) % 2 ** bits.width : v
    }
    return values
  }
}

const sizeOf = (g: Pick<FieldGuess, 'as'>): number =>
  g.as === 'text' ? 1 : fieldTypes[g.as as FieldTypeName].bytes

const TRACE_POINTS = 90
const thinned = (values: Float64Array): number[] => {
  const every = Math.max(1, Math.ceil(values.length / TRACE_POINTS))
  return Array.from(values).filter((_, i) => i % every === 0)
}

/** Why a guess stands where it stands, in words. */
export const guessWords = (g: FieldGuess): string => {
  const at =
    g.hits === g.marks
      ? g.marks === 1
        ? 'at the mark'
        : `at all ${g.marks} marks`
      : `at ${g.hits} of ${g.marks} marks`
  const other = g.otherwise === 0 ? 'never otherwise' : 'seldom otherwise'
  const late = g.delayMs > 800 ? `; ${(g.delayMs / 1000).toFixed(1)} s late: it may hang on another` : ''
  return `moved ${at}, ${other}${late}`
}
