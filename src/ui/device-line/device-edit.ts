import type { DeviceDescription } from '@/core/device-line/description'
import { changeRow } from '@/core/rig/edit'
import type { ConnectionRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

/** A connection to a device of one’s own. */
export type WithDescription = ConnectionRow & {
  readonly settings: { readonly description: DeviceDescription }
}

export const hasDescription = (row: ConnectionRow | undefined): row is WithDescription =>
  row !== undefined && 'description' in row.settings

/** Changes what goes to a device, as an edit with a sentence. */
export const editDescription = (
  connection: string,
  sentence: string,
  change: (d: DeviceDescription) => DeviceDescription,
): void => {
  const row = useStore.getState().rig.connection[connection]
  if (!hasDescription(row)) return
  const settings = {
    ...row.settings,
    description: change(row.settings.description),
  } as ConnectionRow['settings']
  edit(`${row.name}: ${sentence}`, [changeRow('connection', row, { ...row, settings })])
}

/** A list with one of its things moved by a place. */
export const moved = <T>(list: readonly T[], at: number, by: 1 | -1): T[] => {
  const next = [...list]
  const other = at + by
  if (other < 0 || other >= list.length) return next
  ;[next[at], next[other]] = [next[other] as T, next[at] as T]
  return next
}
