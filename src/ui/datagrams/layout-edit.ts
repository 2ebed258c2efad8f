import type { DatagramLayout } from '@/core/datagrams/layout'
import { changeRow } from '@/core/rig/edit'
import type { ConnectionRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

/** A connection that has a layout of datagrams. */
export type WithLayout = ConnectionRow & { readonly settings: { readonly layout: DatagramLayout } }

export const hasLayout = (row: ConnectionRow | undefined): row is WithLayout =>
  row !== undefined && 'layout' in row.settings

/** Gives a connection another layout, as an edit with a sentence. */
export const editLayout = (
  connection: string,
  sentence: string,
  change: (layout: DatagramLayout) => DatagramLayout,
): void => {
  const row = useStore.getState().rig.connection[connection]
  if (!hasLayout(row)) return
  const settings = { ...row.settings, layout: change(row.settings.layout) } as ConnectionRow['settings']
  edit(`${row.name}: ${sentence}`, [changeRow('connection', row, { ...row, settings })])
}
