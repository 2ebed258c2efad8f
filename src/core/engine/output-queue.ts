import type { State } from '../signal/state'
import type { Millis } from '../units-of-measure'
import type { Output } from './input'

/** Bytes on the board link: a frame round whatever it carries, a state of two bytes with its slot. `docs/board-link.md`. */
const FRAME_BYTES = 10
const STATE_BYTES = 4
const ROW_BYTES = 3

/** A serial line of 115,200 baud, 8N1. */
const USUAL_BYTES_PER_S = 11_520
/** Half of the line is left for the way back and for loading. */
const SHARE = 0.5
/** What may go at once, in milliseconds of the line's time. */
const BURST_MS = 20

/** Lamps before needles before text, as their kinds say. */
const LEVELS = 3
/** A level that has waited so long has one of its states sent first, so that none is ever starved. */
const PATIENCE_MS = [0, 40, 100] as const
const ROWS = 256
/** Batches whose times are kept while a board confirms nothing: more than any board is silent for and still there. */
const MOST_SENT = 256

interface Told {
  readonly state: State
  readonly priority: number
  readonly batch: number
}

/**
 * What one board has still to be told, and what it was told. Only the latest state of a slot is kept, so nothing
 * queues up; a token bucket holds the line's speed. What the board says that it does not show is told again.
 */
export class OutputQueue {
  /** By slot and row, packed into one number. */
  private readonly waiting = Array.from({ length: LEVELS }, () => new Map<number, State>())
  private readonly told = new Map<number, Told>()
  private bytesPerMs = (USUAL_BYTES_PER_S * SHARE) / 1000
  private tokens = this.burst
  private filledAt: Millis = 0
  /** When each level was last served, or last had nothing to send. */
  private readonly servedAt: Millis[] = Array.from({ length: LEVELS }, () => 0)
  /** The batch sent last, and the last one that the board shows. */
  batch = 0
  private confirmed = 0
  /** Slots that the board has not confirmed, and since when. */
  private readonly open = new Map<number, Millis>()
  /** Slots of which the board has confirmed something. */
  private readonly known = new Set<number>()
  /** When each of the first batches that are not confirmed was sent; without a time, a slot waits since it was asked. */
  private sent: { readonly batch: number; readonly at: Millis }[] = []

  private get burst(): number {
    return this.bytesPerMs * BURST_MS
  }

  put(slot: number, row: number, state: State, priority: number, now: Millis): void {
    const level = this.waiting[priority] as Map<number, State>
    // A level that had nothing to say has not been kept waiting.
    if (level.size === 0) this.servedAt[priority] = now
    level.set(slot * ROWS + row, state)
    if (!this.open.has(slot)) this.open.set(slot, now)
  }

  /** The board is another, or begins from nothing. */
  forget(bytesPerS = 0): void {
    for (const level of this.waiting) level.clear()
    this.told.clear()
    this.open.clear()
    this.known.clear()
    this.sent = []
    this.bytesPerMs = ((bytesPerS || USUAL_BYTES_PER_S) * SHARE) / 1000
  }

  /** The board shows all that it was told up to a batch. */
  confirm(batch: number): void {
    if (batch <= this.confirmed) return
    this.confirmed = batch
    const since = this.sent.filter((s) => s.batch > batch)
    this.sent = since
    const later = new Set<number>()
    for (const level of this.waiting) for (const key of level.keys()) later.add(Math.floor(key / ROWS))
    for (const [key, told] of this.told) {
      const slot = Math.floor(key / ROWS)
      if (told.batch > batch) later.add(slot)
      else this.known.add(slot)
    }
    const from = since[0]?.at
    for (const [slot, at] of this.open) {
      if (!later.has(slot)) this.open.delete(slot)
      // What it was told before is confirmed; it is the newer that waits.
      else if (from !== undefined && from > at) this.open.set(slot, from)
    }
  }

  /** The board shows something else: what it has not confirmed is told again, or everything. */
  again(all: boolean, now: Millis): void {
    for (const [key, { state, priority, batch }] of this.told) {
      const slot = Math.floor(key / ROWS)
      if (!all && batch <= this.confirmed) continue
      if (!this.isWaiting(key)) this.put(slot, key % ROWS, state, priority, now)
      else if (!this.open.has(slot)) this.open.set(slot, now)
    }
  }

  private isWaiting(key: number): boolean {
    return this.waiting.some((level) => level.has(key))
  }

  /** Since when the board has been asked to show something on this slot that it has not confirmed; null when it has. */
  waitsSince(slot: number): Millis | null {
    return this.open.get(slot) ?? null
  }

  /** Whether the board has confirmed something on this slot since it was there. */
  hasConfirmed(slot: number): boolean {
    return this.known.has(slot)
  }

  get isUnconfirmed(): boolean {
    return this.open.size > 0
  }

  /** Slots that are not confirmed. */
  unconfirmed(): Iterable<readonly [number, Millis]> {
    return this.open
  }

  /** How many times of batches are kept: no more than so many, however long a board confirms nothing. */
  get kept(): number {
    return this.sent.length
  }

  get size(): number {
    let size = 0
    for (const level of this.waiting) size += level.size
    return size
  }

  /** Takes out as much as the line can carry now: what matters most first, then what waited longest. */
  take(now: Millis): Output[] {
    this.tokens = Math.min(this.burst, this.tokens + (now - this.filledAt) * this.bytesPerMs)
    this.filledAt = now
    const batch: Output[] = []
    this.batch++
    this.fill(batch, now)
    if (batch.length === 0) this.batch--
    else if (this.sent.length < MOST_SENT) this.sent.push({ batch: this.batch, at: now })
    return batch
  }

  private fill(batch: Output[], now: Millis): void {
    for (let level = 1; level < LEVELS; level++) {
      if (this.waiting[level]?.size === 0) continue
      // What its turn has come for is saved for: nothing cheaper may take the line before it.
      if (this.isStarved(level, now) && !this.takeFrom(level, 1, batch, now)) return
    }
    for (let level = 0; level < LEVELS; level++)
      if (!this.takeFrom(level, Number.POSITIVE_INFINITY, batch, now)) break
  }

  private isStarved(level: number, now: Millis): boolean {
    return now - (this.servedAt[level] as Millis) > (PATIENCE_MS[level] as Millis)
  }

  /** Takes up to so many states out of a level; false when the line could not carry them. */
  private takeFrom(level: number, most: number, batch: Output[], now: Millis): boolean {
    const waiting = this.waiting[level] as Map<number, State>
    for (const [key, state] of waiting) {
      if (most-- === 0) return true
      const frameOpen = batch.some((o) => typeof o.state === 'number')
      const bytes = this.costOf(state, frameOpen)
      if (bytes > this.tokens) return false
      this.tokens -= bytes
      batch.push({ slot: Math.floor(key / ROWS), row: key % ROWS, state })
      waiting.delete(key)
      this.told.set(key, { state, priority: level, batch: this.batch })
      this.servedAt[level] = now
    }
    return true
  }

  /** When the line can carry what comes next. */
  readyAt(now: Millis): Millis {
    const waiting = this.waiting.find((level) => level.size > 0)
    const starved = this.waiting.find((level, i) => i > 0 && level.size > 0 && this.isStarved(i, now))
    const next = (starved ?? waiting)?.values().next().value
    const bytes = next === undefined ? 0 : this.costOf(next, false)
    return now + Math.max(1, Math.ceil((bytes - this.tokens) / this.bytesPerMs))
  }

  /** Bytes of an output; states share one frame, a row has one of its own. Longer than a burst counts as a burst. */
  private costOf(state: State, frameOpen: boolean): number {
    return typeof state === 'number'
      ? STATE_BYTES + (frameOpen ? 0 : FRAME_BYTES)
      : Math.min(this.burst, FRAME_BYTES + ROW_BYTES + state.length)
  }
}
