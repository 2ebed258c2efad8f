import { useCallback, useSyncExternalStore } from 'react'

/** Values under keys that change often; each reader is told only of its own key. */
export class KeyedValues<V> {
  private readonly values = new Map<string, V>()
  private readonly readers = new Map<string, Set<() => void>>()

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
    let group = this.readers.get(key)
    if (!group) {
      group = new Set()
      this.readers.set(key, group)
    }
    group.add(reader)
    return () => {
      group.delete(reader)
    }
  }
}

export const useKeyed = <V>(store: KeyedValues<V>, key: string): V | undefined =>
  useSyncExternalStore(
    useCallback((told) => store.subscribe(key, told), [store, key]),
    () => store.get(key),
    () => undefined,
  )
