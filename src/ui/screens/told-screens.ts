import { useEffect, useSyncExternalStore } from 'react'
import type { OfScreen } from '@/core/live/screen-feed'
import type { ScreenView } from '../../screen/screen-view'

type Value = number | string | null

/** What the hub has told of one screen. */
interface Told {
  keys: readonly string[]
  problems: Readonly<Record<string, string>>
  readonly values: Map<string, Value>
  stale: readonly number[]
}

const told = new Map<string, Told>()
/** Drawings of a screen, told past React: they change as often as the display does. */
const views = new Map<string, Set<ScreenView>>()
const lookers = new Map<string, number>()
const listeners = new Set<() => void>()
let say: (ids: readonly string[]) => void = () => {}

/** Words and lists that speak of values are read so often in a second, however often values change. */
const READ_MS = 200
let planned = false
const changedSoon = (): void => {
  if (planned || listeners.size === 0) return
  planned = true
  setTimeout(() => {
    planned = false
    for (const hears of listeners) hears()
  }, READ_MS)
}

/** The screens that this page shows; `ask` tells the hub whenever that changes. */
export const screensShown = (): readonly string[] => [...lookers.keys()]
export const onScreensShown = (ask: (ids: readonly string[]) => void): void => {
  say = ask
}

const lookAt = (id: string): (() => void) => {
  lookers.set(id, (lookers.get(id) ?? 0) + 1)
  if (lookers.get(id) === 1) say(screensShown())
  return () => {
    const left = (lookers.get(id) ?? 1) - 1
    if (left > 0) {
      lookers.set(id, left)
      return
    }
    lookers.delete(id)
    told.delete(id)
    say(screensShown())
  }
}

/** Keeps a drawing up to date with what the hub tells of its screen; call the result when it goes. */
export const follow = (id: string, view: ScreenView): (() => void) => {
  const own = views.get(id) ?? new Set()
  views.set(id, own)
  own.add(view)
  const known = told.get(id)
  if (known) {
    view.setCells(known.keys)
    view.setValues(
      known.keys.map((_, i) => i),
      known.keys.map((k) => known.values.get(k) ?? null),
      known.stale,
    )
  }
  const leave = lookAt(id)
  return () => {
    own.delete(view)
    leave()
  }
}

export const hearScreen = (m: OfScreen): void => {
  if (m.say === 'screen cells') {
    told.set(m.screen, { keys: m.keys, problems: m.problems, values: new Map(), stale: [] })
    for (const view of views.get(m.screen) ?? []) view.setCells(m.keys)
  } else if (m.say === 'screen values') {
    const of = told.get(m.screen)
    if (!of) return
    for (const [k, i] of m.i.entries()) of.values.set(of.keys[i] ?? '', m.v[k] ?? null)
    if (m.stale) of.stale = m.stale
    for (const view of views.get(m.screen) ?? []) view.setValues(m.i, m.v, m.stale)
  }
  changedSoon()
}

const subscribe = (hears: () => void): (() => void) => {
  listeners.add(hears)
  return () => listeners.delete(hears)
}

/** What a property of a screen is now, in a list; undefined while nothing was told of it. */
export const useTold = (screenId: string, key: string): Value | undefined => {
  useEffect(() => lookAt(screenId), [screenId])
  return useSyncExternalStore(
    subscribe,
    () => told.get(screenId)?.values.get(key),
    () => undefined,
  )
}

/** Why a property cannot be worked out, or null. */
export const useProblem = (screenId: string, key: string): string | null =>
  useSyncExternalStore(
    subscribe,
    () => told.get(screenId)?.problems[key] ?? null,
    () => null,
  )

const none: Readonly<Record<string, string>> = {}

/** All that cannot be worked out on a screen, by key. */
export const useProblems = (screenId: string): Readonly<Record<string, string>> =>
  useSyncExternalStore(
    subscribe,
    () => told.get(screenId)?.problems ?? none,
    () => none,
  )
