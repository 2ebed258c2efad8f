/** An ordered queue of moments: a binary heap by time, first come first served at the same time. */
export class Timers<T> {
  private heap: { at: number; order: number; what: T }[] = []
  private order = 0

  add(at: number, what: T): void {
    const heap = this.heap
    let i = heap.push({ at, order: this.order++, what }) - 1
    while (i > 0) {
      const parent = (i - 1) >> 1
      if (!this.before(i, parent)) break
      this.swap(i, parent)
      i = parent
    }
  }

  /** The earliest moment in the queue, or null when it is empty. */
  next(): number | null {
    return this.heap[0]?.at ?? null
  }

  /** Takes out what is due at `now`, earliest first; undefined when nothing is. */
  due(now: number): T | undefined {
    const heap = this.heap
    const first = heap[0]
    if (!first || first.at > now) return undefined
    const last = heap.pop()
    if (last && heap.length > 0) {
      heap[0] = last
      this.sink()
    }
    return first.what
  }

  private sink(): void {
    let i = 0
    for (;;) {
      let least = i
      for (const child of [2 * i + 1, 2 * i + 2])
        if (child < this.heap.length && this.before(child, least)) least = child
      if (least === i) return
      this.swap(i, least)
      i = least
    }
  }

  private before(i: number, j: number): boolean {
    const a = this.heap[i] as { at: number; order: number }
    const b = this.heap[j] as { at: number; order: number }
    return a.at < b.at || (a.at === b.at && a.order < b.order)
  }

  private swap(i: number, j: number): void {
    const a = this.heap[i] as { at: number; order: number; what: T }
    this.heap[i] = this.heap[j] as { at: number; order: number; what: T }
    this.heap[j] = a
  }
}
