import { create } from 'zustand'
import type { FromHub } from '@/core/live/feed'
import type { ScopeQuery } from '@/core/scope/find'
import { KeyedValues } from '../live/keyed-values'
import { useStore } from '../live/store'
import { charted } from './chart-store'

/** What is known of a row on the screen. `at` is on the page's clock; null for never. */
export interface ScopeLive {
  readonly value: number | string | null
  readonly changes: number
  readonly at: number | null
  readonly trace: readonly (number | null)[]
}

/** What came of the last order by hand. */
export interface ScopeAnswer {
  readonly name: string
  readonly value: number | string | null
  readonly problem: string | null
  readonly sent: boolean
}

interface ScopeState {
  mode: 'table' | 'hunt' | 'chart' | 'recordings'
  query: ScopeQuery
  /** The rows that were found, in their order; null before the hub has said. */
  rows: readonly number[] | null
  /** Rows on the screen, besides those that are pinned or chosen. */
  shown: readonly number[]
  /** The row that is looked at, by name, since places change with the sources. */
  chosen: string | null
  pinned: readonly string[]
  muted: readonly string[]
  answer: ScopeAnswer | null
}

export const firstQuery: ScopeQuery = {
  search: '',
  only: 'all',
  group: null,
  sort: { by: 'told', down: false },
}

export const useScope = create<ScopeState>()(() => ({
  mode: 'table',
  query: firstQuery,
  rows: null,
  shown: [],
  chosen: null,
  pinned: [],
  muted: [],
  answer: null,
}))

/** Rows on the screen, by their number. */
export const scopeLive = new KeyedValues<ScopeLive>()

let asked = 0
export const nextAsk = (): number => ++asked

export const hearScope = (m: Extract<FromHub, { say: `scope ${string}` }>): void => {
  switch (m.say) {
    case 'scope found':
      // Of several keystrokes only the last one counts.
      if (m.ask === asked) useScope.setState({ rows: m.rows })
      break
    case 'scope rows':
      hearRows(m)
      break
    case 'scope answered':
      if (m.problem === null)
        charted.note(performance.now(), m.value === null ? m.name : `${m.name} ${m.value}`)
      useScope.setState({
        answer: { name: m.name, value: m.value, problem: m.problem, sent: m.sent },
      })
      break
    case 'scope noted':
      charted.note(performance.now(), m.words)
      break
    case 'scope moved':
      keep({ muted: [...new Set([...useScope.getState().muted, ...m.names])] })
      break
  }
}

const unknown: ScopeLive = { value: null, changes: 0, at: null, trace: [] }

const hearRows = ({ i, v, n, ago, traces }: Extract<FromHub, { say: 'scope rows' }>): void => {
  const now = performance.now()
  const next = new Map<number, ScopeLive>()
  for (const [k, row] of i.entries()) {
    const before = scopeLive.get(String(row)) ?? unknown
    const since = ago[k] ?? null
    next.set(row, {
      value: v[k] ?? null,
      changes: n[k] ?? 0,
      at: since === null ? null : now - since,
      trace: before.trace,
    })
  }
  for (const [key, trace] of Object.entries(traces ?? {})) {
    const row = Number(key)
    next.set(row, { ...(next.get(row) ?? scopeLive.get(key) ?? unknown), trace })
  }
  for (const [row, live] of next) scopeLive.set(String(row), live)
  const { catalogue } = useStore.getState().catalogue
  const { pinned } = useScope.getState()
  for (const row of i) {
    const name = catalogue.variables[row]?.name
    const live = next.get(row)
    // From when it changed on it is what it is; at first, from now on.
    if (name !== undefined && live && pinned.includes(name))
      charted.add(name, live.changes === 0 ? now : (live.at ?? now), live.value)
  }
}

const KEY = 'clavik.scope'

/** What is pinned and muted is kept in the browser, for all its windows. */
export const keep = (lists: {
  readonly pinned?: readonly string[]
  readonly muted?: readonly string[]
}): void => {
  useScope.setState(lists)
  const { pinned, muted } = useScope.getState()
  try {
    localStorage.setItem(KEY, JSON.stringify({ pinned, muted }))
  } catch {
    // A page that may keep nothing works all the same.
  }
}

const listOf = (list: unknown): string[] =>
  Array.isArray(list) ? list.filter((n): n is string => typeof n === 'string').slice(0, 50_000) : []

const readKept = (): void => {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, unknown>
    useScope.setState({ pinned: listOf(kept.pinned), muted: listOf(kept.muted) })
  } catch {
    // What cannot be read was not kept here.
  }
}

/** Brings back what was pinned and muted, and follows what other windows pin; call the result to stop. */
export const followKept = (): (() => void) => {
  readKept()
  const changed = (e: StorageEvent) => {
    if (e.key === KEY) readKept()
  }
  window.addEventListener('storage', changed)
  return () => window.removeEventListener('storage', changed)
}

const flipped = (list: readonly string[], name: string): readonly string[] =>
  list.includes(name) ? list.filter((n) => n !== name) : [...list, name]

export const flipPin = (name: string): void => keep({ pinned: flipped(useScope.getState().pinned, name) })
export const flipMute = (name: string): void => keep({ muted: flipped(useScope.getState().muted, name) })
