import type { Millis } from '../units-of-measure'

/** An hour at ten samples a second. */
export const MOST_SAMPLES = 36_000

/** One column of a chart: what a value did within the time of one pixel. */
export interface SeriesColumn {
  readonly x: number
  readonly first: number
  readonly last: number
  readonly least: number
  readonly most: number
}

/** What a value was over time, in order. Between two samples it stood as it was; NaN is a gap. */
export class Series {
  private times = new Float64Array(1024)
  private values = new Float64Array(1024)
  length = 0
  /** What was drawn last: a chart asks for it twice a frame, and again for as long as it stands still. */
  private drawn: {
    readonly from: Millis
    readonly to: Millis
    readonly width: number
    readonly length: number
    readonly columns: readonly SeriesColumn[]
  } | null = null

  constructor(private readonly mostSamples = MOST_SAMPLES) {}

  /** A series of samples that are there already, in order. */
  static of(times: Float64Array<ArrayBuffer>, values: Float64Array<ArrayBuffer>): Series {
    const series = new Series()
    series.times = times
    series.values = values
    series.length = times.length
    return series
  }

  /** A sample later than all before; an earlier one is left out. */
  add(at: Millis, value: number): void {
    if (this.length > 0 && at < (this.times[this.length - 1] as number)) return
    if (this.length === this.times.length) this.makeRoom()
    this.times[this.length] = at
    this.values[this.length] = value
    this.length++
  }

  /** Twice the room, or the older half of it given up. */
  private makeRoom(): void {
    if (this.length < 2 * this.mostSamples) {
      const [times, values] = [this.times, this.values]
      this.times = new Float64Array(times.length * 2)
      this.values = new Float64Array(times.length * 2)
      this.times.set(times)
      this.values.set(values)
      return
    }
    const from = this.length - this.mostSamples
    this.times.copyWithin(0, from, this.length)
    this.values.copyWithin(0, from, this.length)
    this.length = this.mostSamples
  }

  /** How many samples lie at or before a time. */
  private countUntil(at: Millis): number {
    let low = 0
    let high = this.length
    while (low < high) {
      const middle = (low + high) >> 1
      if ((this.times[middle] as number) <= at) low = middle + 1
      else high = middle
    }
    return low
  }

  /** What it was at a time; NaN before its first sample. */
  at(time: Millis): number {
    const count = this.countUntil(time)
    return count === 0 ? Number.NaN : (this.values[count - 1] as number)
  }

  get firstAt(): Millis | null {
    return this.length === 0 ? null : (this.times[0] as number)
  }

  /** The samples within a time, both ends included. */
  *within(from: Millis, to: Millis): Iterable<readonly [at: Millis, value: number]> {
    for (let i = this.countUntil(from - 1e-9); i < this.length && (this.times[i] as number) <= to; i++)
      yield [this.times[i] as number, this.values[i] as number]
  }

  /**
   * What is drawn of a stretch of time that is so many pixels wide: a column for each pixel in which something was told, so
   * that no spike is lost however much lies within a pixel. Gaps are columns of NaN.
   */
  columns(from: Millis, to: Millis, width: number): readonly SeriesColumn[] {
    const { drawn } = this
    const same =
      drawn?.from === from && drawn.to === to && drawn.width === width && drawn.length === this.length
    if (!same)
      this.drawn = { from, to, width, length: this.length, columns: this.columnsAnew(from, to, width) }
    return this.drawn?.columns ?? []
  }

  private columnsAnew(from: Millis, to: Millis, width: number): SeriesColumn[] {
    const scale = width / (to - from)
    const columns: { x: number; first: number; last: number; least: number; most: number }[] = []
    const before = this.at(from)
    if (!Number.isNaN(before))
      columns.push({ x: 0, first: before, last: before, least: before, most: before })
    for (let i = this.countUntil(from); i < this.length; i++) {
      const at = this.times[i] as number
      if (at > to) break
      const value = this.values[i] as number
      const x = Math.floor((at - from) * scale)
      const column = columns.at(-1)
      if (column && column.x === x && !Number.isNaN(value) && !Number.isNaN(column.last)) {
        column.last = value
        column.least = Math.min(column.least, value)
        column.most = Math.max(column.most, value)
      } else columns.push({ x, first: value, last: value, least: value, most: value })
    }
    return columns
  }
}
