'use client'
import { connectionsOf } from '@/core/rig/rig'
import { useStore } from '../live/store'
import { Sheet } from '../primitives/sheet'
import { AddConnection } from './add-connection'
import { ConnectionDetails } from './connection-details'
import { ConnectionLine } from './connection-line'
import { FoundPorts } from './found-ports'

/** Everything that Clavik speaks with: how it stands, why not, what is plugged in, and what goes over each line. */
export const ConnectionsSheet = () => {
  const at = useStore((s) => s.connectionsAt)
  return (
    <Sheet
      title="Connections"
      titleShown
      className="flex h-[calc(100vh-104px)] w-[min(1240px,calc(100vw-40px))] flex-col overflow-hidden p-4"
      open={at !== null}
      setOpen={(open) => useStore.setState({ connectionsAt: open ? '' : null })}
    >
      {at !== null && <Connections at={at} />}
    </Sheet>
  )
}

const Connections = ({ at }: { at: string }) => {
  const rig = useStore((s) => s.rig)
  const connections = useStore((s) => s.status?.connections)
  const rows = connectionsOf(rig)
  const row = rig.connection[at] ?? rows[0]
  return (
    <div className="flex min-h-0 flex-1 flex-col text-[12px]">
      <div className="max-h-[42%] min-h-0 shrink-0 overflow-y-auto border-t border-line">
        {rows.length === 0 && (
          <p className="border-b border-hair py-2 text-ink2">
            This rig speaks with nothing yet. Add a simulator and a board below: simulated ones, or your own.
          </p>
        )}
        <ul aria-label="Connections">
          {rows.map((r) => (
            <ConnectionLine
              key={r.id}
              row={r}
              status={connections?.find((c) => c.id === r.id)}
              chosen={r.id === row?.id}
            />
          ))}
        </ul>
      </div>
      <AddConnection />
      <FoundPorts />
      {row && <ConnectionDetails key={row.id} row={row} status={connections?.find((c) => c.id === row.id)} />}
    </div>
  )
}
