/** Something that changes some values whenever others change. */
export interface Follower {
  readonly id: string
  readonly reads: readonly number[]
  readonly writes: readonly number[]
}

/** Followers that can set each other off for ever: those from which a way leads back to themselves. */
export const loopsAmong = (followers: readonly Follower[]): Set<string> => {
  const readers = new Map<number, Follower[]>()
  for (const f of followers) for (const slot of f.reads) readers.set(slot, [...(readers.get(slot) ?? []), f])
  const looping = new Set<string>()
  for (const start of followers) {
    const seen = new Set<Follower>()
    const ahead: Follower[] = [start]
    for (let f = ahead.pop(); f; f = ahead.pop()) {
      for (const next of f.writes.flatMap((slot) => readers.get(slot) ?? [])) {
        if (next === start) looping.add(start.id)
        if (seen.has(next)) continue
        seen.add(next)
        ahead.push(next)
      }
    }
  }
  return looping
}
