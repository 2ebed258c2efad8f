import type { Micros } from '../../core/units-of-measure'

/** The converter's full scale. */
const FULL = 1023
/** Peak noise of the converter, in counts. */
const NOISE = 1.6
/** A level is told when it has moved by so much, and not more often than so. */
const STEP = 4
const PAUSE_US = 20_000

/** An analog pin with its converter, its noise and the board's own smoothing. */
export class AnalogInput {
  private filtered: number | null = null
  private told: number | null = null
  private toldAt: Micros = Number.NEGATIVE_INFINITY

  constructor(
    private readonly smoothing: number,
    private readonly random: () => number,
  ) {}

  /** Takes a sample of a wiper at `level` (0 to 1); a number when there is something to tell. */
  sample(level: number, now: Micros, everything: boolean): number | null {
    const raw = Math.min(FULL, Math.max(0, level * FULL + (this.random() - 0.5) * 2 * NOISE))
    this.filtered = this.filtered === null ? raw : this.filtered + (raw - this.filtered) / 2 ** this.smoothing
    // Close to an end is the end: a lever pushed home must reach it.
    const near = this.filtered < STEP ? 0 : this.filtered > FULL - STEP ? FULL : Math.round(this.filtered)
    const moved = this.told === null || Math.abs(near - this.told) >= STEP
    const atEnd = near !== this.told && (near === 0 || near === FULL)
    if (!everything && !((moved || atEnd) && now - this.toldAt >= PAUSE_US)) return null
    this.told = near
    this.toldAt = now
    return near
  }
}
