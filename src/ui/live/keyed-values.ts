import { useCallback, useSyncExternalStore } from 'react'

/** Readers that come and go within such a moment are told of once: a view that is changed is many of them. */
const READERS_MS = 30

/** Values under keys that change often; each reader is told only of its own key. */
export class KeyedValues<V> {
  private readonly values = new Map<string, V>()
  private readonly readers = new Map<string, Set<() => void>>()
  private told: ((keys: readonly string[]) => void) | null = null
  private planned = false

  /** Tells which keys have readers, now and whenever that changes, at most once in a moment. */
  onReaders(told: (keys: readonly string[]) => void): void {
    this.told = told
  }

  /** Keys that somebody reads. */
  read(): string[] {
    return [...this.readers.keys()]
  }

  private readersChanged(): void {
    if (!this.told || this.planned) return
    this.planned = true
    setTimeout(() => {
      this.planned = false
      this.told?.(this.read())
    }, READERS_MS)
  }

  get(key: string): V | undefined {
    return this.values.get(key)
  }

  set(key: string, value: V): void {
    this.values.set(key, value)
    for (const reader of this.readers.get(key) ?? []) reader()
  }

  clear(): void {
    this.values.clear()
    for (const group of this.readers.values()) for (const reader of group) reader()
  }

  subscribe(key: string, reader: () => void): () => void {
    // Nothing has an empty name: whoever has nothing to read asks for nothing.
    if (key === '') return () => {}
    let group = this.readers.get(key)
    if (!group) {
      group = new Set()
      this.readers.set(key, group)
      this.readersChanged()
    }
    group.add(reader)
    return () => {
      group.delete(reader)
      if (group.size > 0 || this.readers.get(key) !== group) return
      this.readers.delete(key)
      this.readersChanged()
    }
  }
}

export const useKeyed = <V>(store: KeyedValues<V>, key: string): V | undefined =>
  useSyncExternalStore(
    useCallback((told) => store.subscribe(key, told), [store, key]),
    () => store.get(key),
    () => undefined,
  )
