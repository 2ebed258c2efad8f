export interface Sample {
  /** Milliseconds of the page's clock. */
  readonly t: number
  readonly v: number
}

/** How long samples are kept. */
export const HISTORY_MS = 60_000
/** Closer samples than this are one. */
const LEAST_GAP_MS = 90

/** The last minute of each variable, as this page has seen it. */
export class ValueHistory {
  private readonly samples = new Map<string, Sample[]>()

  add(name: string, value: number | string | null, t: number): void {
    if (typeof value !== 'number') return
    let list = this.samples.get(name)
    if (!list) {
      list = []
      this.samples.set(name, list)
    }
    const last = list.at(-1)
    const before = list.at(-2)
    if (last && before && t - before.t < LEAST_GAP_MS) list[list.length - 1] = { t, v: value }
    else list.push({ t, v: value })
    // One sample older than the window stays: it says what held at the window's left edge.
    while (list[1] && list[1].t < t - HISTORY_MS) list.shift()
  }

  of(name: string): readonly Sample[] {
    return this.samples.get(name) ?? []
  }
}
