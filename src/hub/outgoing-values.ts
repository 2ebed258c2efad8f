import type { OutgoingNow } from '../core/engine/outgoing'

/** What is to be sent now where a value belongs; null while nothing flows. */
export type OutgoingValues = () => ((key: string) => OutgoingNow) | null

/** What has not changed is said again after so long: the line may have lost it, or the other end may have begun since. */
const AGAIN_MS = 1000

/** Knows whether what is to be sent is worth sending: another than before, or the same after a while. */
export class LastSent {
  private last = ''
  private at = Number.NEGATIVE_INFINITY

  isNews(data: Uint8Array | string, now: number): boolean {
    const text = typeof data === 'string' ? data : Buffer.from(data).toString('latin1')
    if (text === this.last && now - this.at < AGAIN_MS) return false
    this.last = text
    this.at = now
    return true
  }

  /** Whatever comes next is news. */
  forget(): void {
    this.at = Number.NEGATIVE_INFINITY
  }
}
