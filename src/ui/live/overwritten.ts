import { type Change, type Diff, sameValue } from '@/core/rig/edit'

/** So long after another page has changed something, changing it again is said to overwrite it. */
const RECENT_MS = 60_000

interface Other {
  readonly at: number
  readonly sentence: string
  readonly value: unknown
}

type Fields = Readonly<Record<string, unknown>>
const isFields = (x: unknown): x is Fields => typeof x === 'object' && x !== null && !Array.isArray(x)

/** Every single field that differs, also within settings, by its place. */
const leaves = (place: string, before: unknown, after: unknown): [string, unknown][] => {
  if (sameValue(before, after)) return []
  if (!isFields(before) || !isFields(after)) return [[place, after]]
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((key) =>
    leaves(`${place} ${key}`, before[key], after[key]),
  )
}

const fieldsOf = (c: Change): [string, unknown][] =>
  c.op === 'change' ? leaves(`${c.table} ${c.id}`, c.before, c.after) : []

/** Remembers for a while what other pages have changed, field by field, to say when it is overwritten here. */
export class OthersEdits {
  private readonly fields = new Map<string, Other>()
  private readonly ownSteps = new Set<string>()

  /** A step of the history that this page takes: it comes back like an edit of another one, and is none. */
  takesStep(editId: string): void {
    this.ownSteps.add(editId)
  }

  /** Another page has made an edit. */
  heard(editId: string, sentence: string, diff: Diff, now: number): void {
    if (this.ownSteps.delete(editId)) {
      // What stands there now was put there from here.
      for (const [place] of diff.flatMap(fieldsOf)) this.fields.delete(place)
      return
    }
    for (const [place, value] of diff.flatMap(fieldsOf)) this.fields.set(place, { at: now, sentence, value })
  }

  /** What of it an edit of this page overwrites with something else, in the other page's own words. */
  overwrittenBy(diff: Diff, now: number): string[] {
    const found = new Set<string>()
    for (const [place, value] of diff.flatMap(fieldsOf)) {
      const other = this.fields.get(place)
      this.fields.delete(place)
      if (other && now - other.at < RECENT_MS && !sameValue(other.value, value)) found.add(other.sentence)
    }
    return [...found]
  }
}
