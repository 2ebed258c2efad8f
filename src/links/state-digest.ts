/** FNV-1a, 32 bit (Fowler, Noll and Vo), one byte on. */
const mixed = (hash: number, byte: number): number => Math.imul(hash ^ byte, 0x01000193) >>> 0
const BEGINNING = 0x811c9dc5

/** What one slot, or one row of it, adds to the digest: a hash of its number, its row and its bytes. */
export const slotHash = (slot: number, row: number, state: number | string): number => {
  let hash = mixed(mixed(mixed(BEGINNING, slot & 255), (slot >> 8) & 255), row & 255)
  if (typeof state === 'number') return mixed(mixed(hash, state & 255), (state >> 8) & 255)
  for (let i = 0; i < state.length; i++) {
    const code = state.charCodeAt(i)
    // As it travels: one byte each, a space for what has none.
    hash = mixed(hash, code < 256 ? code : 32)
  }
  return hash
}

/**
 * A short digest of many states, by which two ends tell whether they mean the same: the sum, modulo 2³², of a hash of
 * each. A changed state costs one hash; the order in which they were told does not matter.
 */
export class StateDigest {
  private readonly parts = new Map<number, number>()
  value = 0

  put(slot: number, row: number, state: number | string): void {
    const key = slot * 256 + row
    const hash = slotHash(slot, row, state)
    this.value = (this.value - (this.parts.get(key) ?? 0) + hash) >>> 0
    this.parts.set(key, hash)
  }

  clear(): void {
    this.parts.clear()
    this.value = 0
  }
}
