import { useEffect, useLayoutEffect, useMemo } from 'react'
import { boundNames } from '@/core/rig/bound-names'
import type { ScopeQuery } from '@/core/scope/find'
import { sayToHub } from '../live/connection'
import { useStore } from '../live/store'
import { charted } from './chart-store'
import { followKept, nextAsk, useScope } from './scope-store'

/** The hub tells no more rows at once. */
const MOST_SHOWN = 500

/** Asks the hub for the rows of a query, as they are now. */
export const look = (query: ScopeQuery): void => {
  sayToHub({ say: 'scope find', ask: nextAsk(), query })
}

/** Keeps Scope open at the hub while a window shows it, tells it what is pinned, muted and bound, and asks for the rows of a query. */
export const useScopeFeed = (query: ScopeQuery): ReadonlyMap<string, readonly string[]> => {
  const hub = useStore((s) => s.hub)
  const rig = useStore((s) => s.rig)
  const catalogue = useStore((s) => s.catalogue)
  const pinned = useScope((s) => s.pinned)
  const muted = useScope((s) => s.muted)
  const bound = useMemo(() => boundNames(rig), [rig])
  const listed = [pinned.join('\n'), muted.join('\n'), [...bound.keys()].join('\n')].join('\t')
  useEffect(followKept, [])
  // Before anything within it: a hunt that begins with the view is one of Scope that is open.
  useLayoutEffect(() => {
    if (hub !== 'up') return
    sayToHub({ say: 'scope', on: true })
    return () => void sayToHub({ say: 'scope', on: false })
  }, [hub])
  useEffect(() => {
    if (hub === 'up') sayToHub({ say: 'scope lists', pinned, muted, bound: [...bound.keys()] })
  }, [hub, listed])
  const shown = useScope((s) => s.shown)
  const chosen = useScope((s) => s.chosen)
  useEffect(() => {
    charted.only(pinned)
    if (hub !== 'up') {
      // What it is meanwhile, nobody knows.
      for (const name of pinned) charted.add(name, performance.now(), null)
      return
    }
    const rowOf = (name: string): number[] => {
      const event = catalogue.event.get(name)
      const row =
        catalogue.variable.get(name) ??
        (event === undefined ? null : catalogue.catalogue.variables.length + event)
      return row === null ? [] : [row]
    }
    // The chosen one is looked at beside, and the pinned ones are charted, wherever the table has been scrolled to.
    const rows = new Set([...shown, ...(chosen === null ? [] : rowOf(chosen)), ...pinned.flatMap(rowOf)])
    sayToHub({ say: 'scope show', rows: [...rows].slice(0, MOST_SHOWN) })
  }, [hub, shown, chosen, pinned, catalogue])
  useEffect(() => {
    if (hub === 'up') look(query)
  }, [hub, query, listed, catalogue])
  return bound
}
