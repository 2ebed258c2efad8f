import { Series } from '@/core/scope/series'

/** Something that was ordered, by a binding or by hand, or a moment that was marked: a line through the chart. */
export interface ChartNote {
  readonly at: number
  readonly words: string
}

const MOST_NOTES = 200
/** Orders of one thing that follow so close are one. */
const ONE_MS = 400

const nameOf = (words: string): string => words.slice(0, words.indexOf(' ') + 1) || words

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
    // A lever that moves orders thirty times a second: its line goes along with it.
    const last = this.notes.at(-1)
    if (last && at - last.at < ONE_MS && nameOf(last.words) === nameOf(words)) this.notes.pop()
    this.notes.push({ at, words })
    if (this.notes.length > MOST_NOTES) this.notes.shift()
  }
}

export const charted = new Charted()
