import type { Millis } from '../units-of-measure'
import { type FieldTypeName, fieldTypeNames, fieldTypes } from './field-type'
import type { ByteOrder, DatagramField } from './layout'
import { AFTER_MS, type AtMarks, BEFORE_MS, BIN_MS, Movements } from './movements'

/** What moved longer ago than this before the first mark was before the hand had let it rest. */
const RESTED_MS: Millis = 5500
/** Datagrams that are kept to try readings on. */
const MOST_KEPT = 1800
/** A reading is tried on so many of them, evenly: whoever hunts wants an answer while the hand still moves. */
const MOST_TRIED = 600
/** A bit that moves in more than this share of the time between the marks moves by itself. */
const RESTLESS = 0.06
/** So many bytes away another byte may be of the same field. */
const NEAR = 7
/** What it takes away from a guess if it moves all the time that belongs to no mark. */
const STRAY = 13
/** How seldom the right bit may fail to move at a mark. */
const MOST_MISSED = 0.25
/** Each hand is late by much the same each time, give or take so much, and as seldom as this by anything else. */
const SPREAD_MS = 600
const ANYWHERE = 0.3
/** As if so long had been watched in which it moved half a time: who marks in haste leaves little time between. */
const UNSEEN_BINS = 24
/** So much likelier by the hand than by itself, as a logarithm for each mark, is worth telling. */
const LEAST_EVIDENCE = 0.8
/** What follows begins later than what leads, or with it and ends later, each time: what that takes away, with more the later it is. */
const FOLLOWS = 0.6
const LATER_MS = 300
const MOST_LATER = 2.5
const LONGER_MS = 2000
const MOST_LONGER = 1.5
/** What is so much less likely itself leads nothing. */
const LEADS_WITHIN = 1
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

type Reading = Pick<FieldGuess, 'at' | 'as' | 'order' | 'bits'>

interface Bit extends AtMarks {
  readonly delayMs: Millis
  /** How much likelier its movements are by the hand than by themselves, as a logarithm. */
  readonly likelier: number
  /** The same for one mark, whenever in its time it moved. */
  readonly notByItself: number
}

/** When something began and ended, by mark. */
type Course = Pick<AtMarks, 'starts' | 'ends'>

/** A guess that is not yet held against what else was found. */
interface Tried extends Omit<FieldGuess, 'trace'>, Course {}

/** What is looked at while guesses are made. */
interface Looked {
  readonly marks: number
  /** Bins that belong to no mark. */
  readonly outside: number
  readonly bits: readonly (Bit | null)[]
  readonly isByHand: readonly boolean[]
  /** The first of the kept datagrams on which readings are tried. */
  readonly from: number
}

const middleOf = (numbers: readonly number[]): number => {
  const known = numbers.filter((x) => !Number.isNaN(x)).sort((a, b) => a - b)
  return known[known.length >> 1] ?? 0
}

/** By mark the least, or the most, of what was seen of several bits. */
const overMarks = (
  lists: readonly (readonly number[])[],
  marks: number,
  pick: (...x: number[]) => number,
): number[] =>
  Array.from({ length: marks }, (_, k) => {
    const known = lists.map((l) => l[k] as number).filter((x) => !Number.isNaN(x))
    return known.length > 0 ? pick(...known) : Number.NaN
  })

/** How much denser movements of the right one are so far from their usual delay than anywhere in the window: a hand keeps its own time. */
const density = (off: Millis): number => {
  const near = Math.exp(-0.5 * (off / SPREAD_MS) ** 2) / (SPREAD_MS * Math.sqrt(2 * Math.PI))
  return (1 - ANYWHERE) * near * (BEFORE_MS + AFTER_MS) + ANYWHERE
}

/** How much speaks for it that something follows another one, and is not what the hand has moved itself. */
const isBehind = (one: Course, other: Course): number => {
  const between = (of: keyof Course) =>
    one[of].map((t, k) => t - (other[of][k] as number)).filter((d) => !Number.isNaN(d))
  const later = between('starts')
  const longer = between('ends')
  const most = (list: readonly number[], holds: (d: number) => boolean) =>
    list.length > 0 && list.filter(holds).length >= list.length * (1 - MOST_MISSED)
  const follows = most(later, (d) => d > 0)
  if (!follows && !(most(later, (d) => d === 0) && most(longer, (d) => d > 0))) return 0
  return (
    FOLLOWS +
    Math.min(MOST_LATER, Math.max(0, middleOf(later)) / LATER_MS) +
    Math.min(MOST_LONGER, Math.max(0, middleOf(longer)) / LONGER_MS)
  )
}

const viewOf = (b: Uint8Array): DataView => new DataView(b.buffer, b.byteOffset, b.byteLength)

/** Watches the bytes of one packet and says which of them a hand has moved, and how they may be read. */
export class FieldHunt {
  readonly marks: Millis[] = []
  private readonly movements: Movements
  private readonly kept: DataView[] = []
  private readonly keptAt: Millis[] = []
  private last: Uint8Array | null = null
  /** Where a reading's values are put while it is tried. */
  private readonly room = new Float64Array(MOST_TRIED)

  constructor(
    readonly bytes: number,
    began: Millis,
    /** In which order other numbers of the layout are kept: that is likelier. */
    private readonly order: ByteOrder,
  ) {
    this.movements = new Movements(bytes, began)
  }

  /** A datagram of the packet has come. */
  take(bytes: Uint8Array, at: Millis): void {
    const { last } = this
    const now = bytes.slice(0, this.bytes)
    if (now.length < this.bytes) return
    if (last)
      for (let i = 0; i < this.bytes; i++) {
        const changed = (last[i] as number) ^ (now[i] as number)
        if (changed !== 0) this.movements.note(i, changed, at)
      }
    this.last = now
    this.kept.push(viewOf(now))
    this.keptAt.push(at)
    if (this.kept.length > MOST_KEPT) {
      this.kept.shift()
      this.keptAt.shift()
    }
  }

  /** The hand operates it now. */
  mark(at: Millis): void {
    this.marks.push(at)
  }

  private evidence(
    bit: number,
    marks: readonly Millis[],
    isIn: Uint8Array,
    first: number,
    outside: number,
  ): Bit | null {
    const seen = this.movements.atMarks(bit, marks, isIn, first)
    if (!seen) return null
    // By itself it would move at a mark as often as it does between them.
    const rate = (seen.otherwise + 0.5) / (outside + UNSEEN_BINS)
    const byItself = 1 - Math.exp((-rate * (BEFORE_MS + AFTER_MS)) / BIN_MS)
    const delays = seen.starts.map((s, k) => s - (marks[k] as number))
    const delayMs = middleOf(delays)
    const likelier = delays.reduce(
      (n, d) => n + (Number.isNaN(d) ? 0 : Math.log(density(d - delayMs) / byItself)),
      0,
    )
    return { ...seen, delayMs, likelier, notByItself: -Math.log(byItself) }
  }

  /** What the hand may have moved, the likeliest first. */
  guesses(now: Millis): FieldGuess[] {
    const { movements } = this
    const marks = this.marks.filter((m) => movements.bin(m - BEFORE_MS) >= 0)
    if (marks.length === 0 || this.kept.length < 2) return []
    const bins = movements.bin(now) + 1
    const since = Math.min(...marks) - RESTED_MS
    const first = Math.max(0, Math.min(bins - 1, movements.bin(since)))
    const isIn = movements.timesOf(marks, bins)
    const outside = bins - first - isIn.reduce((n, x) => n + x, 0)
    const most = RESTLESS * outside
    const least = marks.length * (1 - MOST_MISSED)
    const isHand = (b: Bit | null) => b !== null && b.otherwise <= most && b.hits >= least
    const alone = Array.from({ length: this.bytes * 8 }, (_, i) =>
      this.evidence(i, marks, isIn, first, outside),
    )
    // A field moves as one: its upper bits seldom do, and not only while the hand is near its mark.
    const bits = alone.map((b, i) => {
      if (b === null || b.otherwise === 0) return b
      const near = alone.slice(Math.max(0, (i >> 3) - NEAR) * 8, ((i >> 3) + NEAR + 1) * 8).filter(isHand)
      if (near.length === 0) return b
      const within = isIn.slice()
      for (const n of near) for (const x of n?.own ?? []) within.fill(1, x.from, x.until + 1)
      return this.evidence(i, marks, within, first, outside)
    })
    const isRestless = bits.map((b) => b !== null && b.otherwise > most)
    const isByHand = bits.map(isHand)
    const from = Math.max(
      0,
      this.keptAt.findIndex((t) => t >= since),
    )
    const looked: Looked = { marks: marks.length, outside, bits, isByHand, from }
    const byte = (i: number, of: readonly boolean[]) => of.slice(i * 8, i * 8 + 8).some(Boolean)
    const hand = Array.from({ length: this.bytes }, (_, i) => byte(i, isByHand))
    const restless = Array.from({ length: this.bytes }, (_, i) => byte(i, isRestless))
    const found: Tried[] = []
    for (let i = 0; i < this.bytes; i++) {
      if (!hand[i]) continue
      if (restless[i]) found.push(...this.bitGuesses(i, looked))
      else {
        let end = i + 1
        while (end < this.bytes && hand[end] && !restless[end]) end++
        found.push(...this.runGuesses(i, end, hand, restless, looked))
        i = end - 1
      }
    }
    const best = found.sort((a, b) => b.score - a.score).slice(0, 3 * MOST_GUESSES)
    return best
      .map(({ starts, ends, ...g }) => {
        const behind = best.map((o) => (o.score < g.score - LEADS_WITHIN ? 0 : isBehind({ starts, ends }, o)))
        return { ...g, score: g.score - Math.max(...behind) }
      })
      .sort((a, b) => b.score - a.score)
      .slice(0, MOST_GUESSES)
      .map((g) => ({ ...g, trace: thinned(this.valuesOf(g, from) ?? this.room.subarray(0, 0)) }))
  }

  /** A flag among others that move by themselves. */
  private bitGuesses(at: number, looked: Looked): Tried[] {
    const guesses: Tried[] = []
    for (let b = 0; b < 8; b++)
      if (looked.isByHand[at * 8 + b]) {
        const reading: Reading = { at, as: 'u8', order: this.order, bits: { from: b, width: 1 } }
        const guess = this.tried(reading, [at * 8 + b], looked, 0)
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
    looked: Looked,
  ): Tried[] {
    const { isByHand } = looked
    const moving = Array.from({ length: (end - from) * 8 }, (_, k) => from * 8 + k).filter((b) => isByHand[b])
    if (moving.length === 1) {
      const [only] = moving as [number]
      const reading: Reading = {
        ...{ at: only >> 3, as: 'u8', order: this.order },
        bits: { from: only & 7, width: 1 },
      }
      const guess = this.tried(reading, moving, looked, 1)
      return guess ? [guess] : []
    }
    const tries: Tried[] = []
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
          const guess = this.tried({ at, as, order }, own, looked, share)
          if (guess) tries.push(guess)
        }
      }
    }
    // What lies on a better reading is not one of its own.
    const taken: Tried[] = []
    for (const g of tries.sort((a, b) => b.score - a.score)) {
      const meets = (o: Tried) => g.at < o.at + sizeOf(o) && o.at < g.at + sizeOf(g)
      if (!taken.some(meets)) taken.push(g)
    }
    return taken
  }

  /** A reading held against all that was seen: null where it makes no number. */
  private tried(reading: Reading, own: readonly number[], looked: Looked, covers: number): Tried | null {
    const { marks, outside, bits } = looked
    const values = this.valuesOf(reading, looked.from)
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
    const starts = overMarks(
      evidence.map((b) => b.starts),
      marks,
      Math.min,
    )
    const ends = overMarks(
      evidence.map((b) => b.ends),
      marks,
      Math.max,
    )
    const delayMs = middleOf(evidence.map((b) => b.delayMs))
    const likelier = Math.max(...evidence.map((b) => b.likelier)) / marks
    if (Math.max(...evidence.map((b) => b.notByItself)) < LEAST_EVIDENCE) return null
    // What only ever goes one way, and by itself too, is a count or a clock.
    if (ups * downs === 0 && otherwise > 0) return null
    // A hand goes there and back once or twice for each mark; what is read wrongly jumps about far more.
    const rough = way / ((most - least) * 2 * marks)
    const type = reading.as === 'text' ? null : fieldTypes[reading.as]
    const isFloat = type !== null && !type.isWhole
    const large = Math.max(Math.abs(least), Math.abs(most))
    const idle = reading.bits || isFloat ? 0 : (type?.bytes ?? 1) - new Set(own.map((b) => b >> 3)).size
    const score =
      2 * likelier +
      3 * covers -
      1.5 * Math.max(0, Math.log2(rough)) -
      (large > LARGEST ? 3 + Math.min(6, Math.log10(large / LARGEST)) : 0) -
      (isFloat && (large < 1e-3 || tiny * 20 > values.length) ? 4 : 0) -
      0.6 * idle -
      (ups * downs === 0 ? 2 : 0) -
      (reading.order === this.order ? 0 : 0.4) +
      (reading.at % (type?.bytes ?? 1) === 0 ? 0.3 : 0) -
      (type?.isWhole && type.least < 0 && least >= 0 ? 0.2 : 0) -
      (STRAY * otherwise) / (outside + UNSEEN_BINS)
    return {
      ...reading,
      hits,
      marks,
      otherwise,
      delayMs,
      least,
      most,
      score,
      starts,
      ends,
    }
  }

  /** What a reading makes of what is kept, from one datagram on; null where it makes no number. It stands until the next is asked for. */
  private valuesOf({ at, as, order, bits }: Reading, from: number): Float64Array | null {
    if (as === 'text') return null
    const type = fieldTypes[as]
    const seen = this.kept.length - from
    const every = Math.ceil(seen / MOST_TRIED)
    const values = this.room.subarray(0, Math.floor(seen / every))
    for (let i = 0; i < values.length; i++) {
      const v = type.read(this.kept[from + i * every] as DataView, at, order === 'little')
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
