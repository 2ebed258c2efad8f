import { create } from 'zustand'
import type { Capabilities } from '@/core/controllers/capabilities'
import type { FromHub } from '@/core/live/feed'

interface ControllerState {
  readonly connection: string | null
  readonly hello: Capabilities | null
  readonly raw: ReadonlyMap<number, number>
  readonly touched: { readonly pin: number; readonly at: number } | null
  readonly groups: readonly (readonly number[])[]
}

const nothing = { hello: null, raw: new Map<number, number>(), touched: null, groups: [] }

export const useController = create<ControllerState>()(() => ({ connection: null, ...nothing }))

export const beginController = (connection: string | null): void =>
  useController.setState({ connection, ...nothing })

export const hearController = (m: Extract<FromHub, { say: 'controller' }>): void => {
  if (useController.getState().connection !== m.connection) return
  const { hello, touched, groups } = m
  useController.setState({ hello, raw: new Map(m.raw), touched, groups })
}
