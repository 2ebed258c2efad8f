import { create } from 'zustand'
import type { RawItem } from '@/core/live/feed'

/** So much is kept: what is older goes. */
const MOST_ITEMS = 5000

export interface NumberedItem extends RawItem {
  readonly n: number
}

interface RawState {
  /** The connection that is looked at; what comes of another is late, and dropped. */
  connection: string | null
  items: readonly NumberedItem[]
  /** How much more there was than could be shown. */
  left: number
  echo: { readonly ms: number | null; readonly at: number } | null
}

export const useRaw = create<RawState>()(() => ({ connection: null, items: [], left: 0, echo: null }))

let count = 0

export const hearRaw = (connection: string, items: readonly RawItem[], left: number): void => {
  const state = useRaw.getState()
  if (state.connection !== connection) return
  const all = [...state.items, ...items.map((item) => ({ ...item, n: count++ }))]
  useRaw.setState({
    items: all.length > MOST_ITEMS ? all.slice(all.length - MOST_ITEMS) : all,
    left: state.left + left,
  })
}

export const hearEcho = (connection: string, ms: number | null): void => {
  if (useRaw.getState().connection === connection) useRaw.setState({ echo: { ms, at: Date.now() } })
}

export const beginRaw = (connection: string | null): void =>
  useRaw.setState({ connection, items: [], left: 0, echo: null })
