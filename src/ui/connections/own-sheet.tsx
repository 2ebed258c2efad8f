'use client'
import { ArrowLeft } from 'lucide-react'
import type { ReactNode } from 'react'
import type { ConnectionRow } from '@/core/rig/rows'
import { type OwnSheetOf, useStore } from '../live/store'
import { Sheet } from '../primitives/sheet'

/** A sheet of a connection that has more to it than a few fields; open while the connection is there and of its kind. */
export const OwnSheet = <R extends ConnectionRow>({
  of,
  title,
  has,
  children,
}: {
  of: OwnSheetOf
  title: (name: string | undefined) => string
  has: (row: ConnectionRow | undefined) => row is R
  children: (row: R) => ReactNode
}) => {
  const id = useStore((s) => (s.ownSheet?.of === of ? s.ownSheet.id : null))
  const row = useStore((s) => (id === null ? undefined : s.rig.connection[id]))
  return (
    <Sheet
      title={title(row?.name)}
      titleShown={false}
      className="flex h-[calc(100vh-96px)] w-[min(1360px,calc(100vw-32px))] flex-col overflow-hidden p-3"
      open={id !== null && has(row)}
      setOpen={(open) => !open && useStore.setState({ ownSheet: null })}
    >
      {has(row) && children(row)}
    </Sheet>
  )
}

/** The beginning of such a sheet: the way back, and its name. */
export const OwnSheetName = ({ row }: { row: ConnectionRow }) => (
  <>
    <button
      type="button"
      className="btn"
      title="Back to the connections"
      onClick={() => useStore.setState({ ownSheet: null, connectionsAt: row.id })}
    >
      <ArrowLeft size={13} aria-hidden /> Connections
    </button>
    <h2 className="pr-2 text-[15px]">{row.name}</h2>
  </>
)
