import type { Note } from '../core/calibration/note'
import type { Micros } from '../core/units-of-measure'
import type { FromBoard } from './board-link'

/** A note, and of which slot. */
export interface SlotNoted extends Note {
  readonly slot: number
}

const ROUND = 2 ** 32

/** Puts notes of a board in their time, which never comes round here, and counts those that found no room on the way. */
export class NoteReader {
  /** Notes that were made and never came. */
  left = 0
  private count: number | null = null
  private passed: Micros = 0
  private lastMicros: Micros | null = null

  take(m: Extract<FromBoard, { say: 'probed' }>): SlotNoted[] {
    if (this.lastMicros !== null && m.micros < this.lastMicros - ROUND / 2) this.passed += ROUND
    this.lastMicros = m.micros
    const before = this.count ?? 0
    this.count = m.count
    this.left += Math.max(0, ((m.count - before) & 0xffff) - m.notes.length)
    let at = this.passed + m.micros - m.notes.reduce((sum, n) => sum + n.after, 0)
    return m.notes.map(({ after, slot, value }) => {
      at += after
      return { at, slot, value }
    })
  }
}
