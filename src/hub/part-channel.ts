import type { PartSubject } from './part-subject'
import type { Tab } from './tab'

/**
 * One subject of the feed. What has changed is made into text once for all tabs, and only where a tab shows it; what
 * comes out as it was is not told again.
 */
export class PartChannel {
  private readonly texts = new Map<string, string>()
  private readonly dirty = new Set<string>()
  private changed = new Set<string>()

  constructor(
    readonly subject: PartSubject,
    private readonly make: (partId: string) => string | null,
  ) {}

  /** Something of a part may have changed. */
  mark(partId: string): void {
    this.dirty.add(partId)
  }

  /** Looks at what may have changed for as long as there is time; what is left has its turn the next time. */
  refresh(tabs: ReadonlySet<Tab>, hasTime: () => boolean): void {
    if (this.dirty.size === 0) return
    for (const id of this.dirty) {
      if (!hasTime()) return
      this.dirty.delete(id)
      if (!isShown(tabs, this.subject, id)) {
        this.texts.delete(id)
        continue
      }
      const text = this.make(id)
      if (text === null || text === this.texts.get(id)) continue
      this.texts.set(id, text)
      this.changed.add(id)
    }
  }

  text(partId: string): string | null {
    const known = this.texts.get(partId)
    if (known !== undefined) return known
    const text = this.make(partId)
    if (text !== null) this.texts.set(partId, text)
    return text
  }

  /** Tells a tab what has changed of what it shows, and what it shows anew. */
  tell(tab: Tab): void {
    const fresh = tab.fresh[this.subject]
    const told: string[] = []
    const put = (id: string) => {
      const text = this.text(id)
      if (text !== null) told.push(`${JSON.stringify(id)}:${text}`)
    }
    for (const id of this.changed) if (!fresh.has(id) && tab.shows(this.subject, id)) put(id)
    for (const id of fresh) put(id)
    fresh.clear()
    if (told.length > 0) tab.line.send(`{"say":"${this.subject}","parts":{${told.join(',')}}}`)
  }

  /** All tabs have been told. */
  told(): void {
    if (this.changed.size > 0) this.changed = new Set()
  }
}

const isShown = (tabs: ReadonlySet<Tab>, subject: PartSubject, id: string): boolean => {
  for (const tab of tabs) if (tab.shows(subject, id)) return true
  return false
}
