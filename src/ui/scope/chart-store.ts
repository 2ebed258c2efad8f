import { Series } from '@/core/scope/series'

/** Something that was done by hand from here, as a line through the chart. */
export interface ChartNote {
  readonly at: number
  readonly words: string
}

const MOST_NOTES = 200

/** What the pinned variables were, since this page has them pinned; on the page's clock. */
class Charted {
  private readonly series = new Map<string, Series>()
  readonly notes: ChartNote[] = []

  /** What a variable was; one that is no longer pinned is forgotten with `only`. */
  of(name: string): Series | undefined {
    return this.series.get(name)
  }

  add(name: string, at: number, value: number | string | null): void {
    let there = this.series.get(name)
    if (!there) {
      there = new Series()
      this.series.set(name, there)
    }
    there.add(at, typeof value === 'number' ? value : Number.NaN)
  }

  only(names: readonly string[]): void {
    for (const name of this.series.keys()) if (!names.includes(name)) this.series.delete(name)
  }

  note(at: number, words: string): void {
    this.notes.push({ at, words })
    if (this.notes.length > MOST_NOTES) this.notes.shift()
  }
}

export const charted = new Charted()
