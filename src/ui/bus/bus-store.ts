import { create } from 'zustand'
import type { BusRow, FromHub } from '@/core/live/feed'

interface BusState {
  readonly connection: string | null
  readonly rows: readonly BusRow[]
  readonly slow: Readonly<Record<string, readonly [told: number, at: number, seconds: number]>>
}

export const useBus = create<BusState>()(() => ({ connection: null, rows: [], slow: {} }))

export const beginBus = (connection: string | null): void =>
  useBus.setState({ connection, rows: [], slow: {} })

export const hearBus = ({ connection, rows, slow }: Extract<FromHub, { say: 'bus' }>): void => {
  if (useBus.getState().connection === connection) useBus.setState({ rows, slow })
}
