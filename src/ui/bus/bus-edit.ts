import type { BusDatabase } from '@/core/bus/database'
import type { BusSending } from '@/core/connections/bus-settings'
import { changeRow } from '@/core/rig/edit'
import type { ConnectionRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

interface BusParts {
  readonly database: BusDatabase
  readonly send: readonly BusSending[]
}

/** A connection to a vehicle bus. */
export type WithBus = ConnectionRow & { readonly settings: BusParts }

export const hasBus = (row: ConnectionRow | undefined): row is WithBus =>
  row !== undefined && 'database' in row.settings

/** Changes what a bus carries, as an edit with a sentence. */
export const editBus = (
  connection: string,
  sentence: string,
  change: (is: BusParts) => Partial<BusParts>,
): void => {
  const row = useStore.getState().rig.connection[connection]
  if (!hasBus(row)) return
  const settings = { ...row.settings, ...change(row.settings) } as ConnectionRow['settings']
  edit(`${row.name}: ${sentence}`, [changeRow('connection', row, { ...row, settings })])
}
