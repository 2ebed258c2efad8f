import type { Millis } from '../units-of-measure'
import type { Output, State } from './input'

/** Bytes on the board link: a frame round whatever it carries, a state of two bytes with its slot. `docs/board-link.md`. */
const FRAME_BYTES = 10
const STATE_BYTES = 4
const ROW_BYTES = 3

/** A serial line of 115,200 baud, 8N1, carries 11.52 bytes a millisecond; half of it is left for the way back and for loading. */
const BYTES_PER_MS = 5.76
const BURST_BYTES = 115

/** Lamps before needles before text. */
export const priorities = { lamp: 0, needle: 1, digits: 2, text: 2, colour: 2 } as const
const LEVELS = 3
/** A level that has waited so long has one of its states sent first, so that none is ever starved. */
const PATIENCE_MS = [0, 40, 100] as const
const ROWS = 256

/**
 * What one board has still to be told. Only the latest state of a slot is kept, so nothing queues up; a token
 * bucket holds the line's speed.
 */
export class OutputQueue {
  /** By slot and row, packed into one number. */
  private readonly waiting = Array.from({ length: LEVELS }, () => new Map<number, State>())
  private tokens = BURST_BYTES
  private filledAt: Millis = 0
  /** When each level was last served, or last had nothing to send. */
  private readonly servedAt: Millis[] = Array.from({ length: LEVELS }, () => 0)

  put(slot: number, row: number, state: State, priority: number): void {
    ;(this.waiting[priority] as Map<number, State>).set(slot * ROWS + row, state)
  }

  forget(): void {
    for (const level of this.waiting) level.clear()
  }

  get size(): number {
    let size = 0
    for (const level of this.waiting) size += level.size
    return size
  }

  /** Takes out as much as the line can carry now: what matters most first, then what waited longest. */
  take(now: Millis): Output[] {
    this.tokens = Math.min(BURST_BYTES, this.tokens + (now - this.filledAt) * BYTES_PER_MS)
    this.filledAt = now
    const batch: Output[] = []
    for (let level = 1; level < LEVELS; level++) {
      if (this.waiting[level]?.size === 0) this.servedAt[level] = now
      // What its turn has come for is saved for: nothing cheaper may take the line before it.
      else if (this.isStarved(level, now) && !this.takeFrom(level, 1, batch, now)) return batch
    }
    for (let level = 0; level < LEVELS; level++)
      if (!this.takeFrom(level, Number.POSITIVE_INFINITY, batch, now)) break
    return batch
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
      const bytes = costOf(state, frameOpen)
      if (bytes > this.tokens) return false
      this.tokens -= bytes
      batch.push({ slot: Math.floor(key / ROWS), row: key % ROWS, state })
      waiting.delete(key)
      this.servedAt[level] = now
    }
    return true
  }

  /** When the line can carry what comes next. */
  readyAt(now: Millis): Millis {
    const waiting = this.waiting.find((level) => level.size > 0)
    const starved = this.waiting.find((level, i) => i > 0 && level.size > 0 && this.isStarved(i, now))
    const next = (starved ?? waiting)?.values().next().value
    const bytes = next === undefined ? 0 : costOf(next, false)
    return now + Math.max(1, Math.ceil((bytes - this.tokens) / BYTES_PER_MS))
  }
}

/** Bytes of an output; states share one frame, a row has one of its own. Longer than a burst counts as a burst. */
const costOf = (state: State, frameOpen: boolean): number =>
  typeof state === 'number'
    ? STATE_BYTES + (frameOpen ? 0 : FRAME_BYTES)
    : Math.min(BURST_BYTES, FRAME_BYTES + ROW_BYTES + state.length)
