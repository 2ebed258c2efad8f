/** What there is to be of one kind of stand-in. */
export interface Stand<W, S> {
  readonly most: number
  /** Whether one that is there already goes on as what is wanted now. */
  readonly isSame: (served: S, wanted: W) => boolean
  readonly make: (wanted: W) => S
  readonly stop: (served: S) => void
  readonly gone: (id: string) => void
}

/** The stand-ins of one kind: made, kept and put away as is said. */
export class Stands<W extends { readonly id: string }, S> {
  readonly there = new Map<string, S>()

  constructor(private readonly stand: Stand<W, S>) {}

  /** Makes them those that there are to be; what is there already goes on. */
  match(all: readonly W[]): void {
    const { most, isSame, make, stop, gone } = this.stand
    const wanted = new Map(all.slice(0, most).map((w) => [w.id, w]))
    for (const [id, served] of this.there) {
      const meant = wanted.get(id)
      if (meant && isSame(served, meant)) continue
      stop(served)
      this.there.delete(id)
      gone(id)
    }
    for (const [id, meant] of wanted) if (!this.there.has(id)) this.there.set(id, make(meant))
  }
}
