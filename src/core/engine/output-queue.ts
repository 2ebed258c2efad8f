import type { Millis } from '../units-of-measure'
import type { Output } from './input'

/** Bytes of one lamp state on the board link, and of the frame round a batch. `docs/board-link.md`. */
const STATE_BYTES = 4
const FRAME_BYTES = 10

/** A serial line of 115,200 baud, 8N1, carries 11.52 bytes a millisecond; half of it is left for the way back and for loading. */
const BYTES_PER_MS = 5.76
const BURST_BYTES = 115

/**
 * What one board has still to be told. Only the latest state of a slot is kept, so nothing queues up; a token
 * bucket holds the line's speed.
 */
export class OutputQueue {
  private readonly waiting = new Map<number, number>()
  private tokens = BURST_BYTES
  private filledAt: Millis = 0

  put(slot: number, packed: number): void {
    this.waiting.set(slot, packed)
  }

  forget(): void {
    this.waiting.clear()
  }

  get size(): number {
    return this.waiting.size
  }

  /** Takes out as many states as the line can carry now; the slots that waited longest first. */
  take(now: Millis): Output[] {
    this.tokens = Math.min(BURST_BYTES, this.tokens + (now - this.filledAt) * BYTES_PER_MS)
    this.filledAt = now
    const room = Math.floor((this.tokens - FRAME_BYTES) / STATE_BYTES)
    if (room < 1 || this.waiting.size === 0) return []
    const batch: Output[] = []
    for (const [slot, packed] of this.waiting) {
      if (batch.length === room) break
      batch.push({ slot, packed })
      this.waiting.delete(slot)
    }
    this.tokens -= FRAME_BYTES + batch.length * STATE_BYTES
    return batch
  }

  /** When the line can carry another state. */
  readyAt(now: Millis): Millis {
    return now + Math.max(1, Math.ceil((FRAME_BYTES + STATE_BYTES - this.tokens) / BYTES_PER_MS))
  }
}
