'use client'
import type { Station } from '@/core/engine/mistakes'
import type { StopCode } from '@/core/engine/stop-code'
import { isWired, wiringsOf } from '@/core/harness/wiring'
import { targetOf } from '@/core/rig/binding'
import type { BindingRow, PartRow } from '@/core/rig/rows'
import { sourceAt } from '@/core/rig/sources'
import { useStore } from '../live/store'
import { UpMark } from '../primitives/mark'

/** The connection at an end of a path: over which the board speaks, or the source that has the variable or event; or ''. */
const useEnd = (part: PartRow, binding: BindingRow | undefined, station: Station): string => {
  const rig = useStore((s) => s.rig)
  const boards = useStore((s) => s.status?.boards)
  const catalogue = useStore((s) => s.catalogue)
  const sources = useStore((s) => s.sources)
  if (station === 'board') {
    const wired = wiringsOf(rig, part).find((w) => isWired(w.wiring))?.wiring
    const boardId = wired && isWired(wired) ? wired.boardId : null
    return boards?.find((b) => b.id === boardId)?.connection ?? ''
  }
  const target = binding ? targetOf(binding.settings) : null
  if (!target) return ''
  const [what, index] =
    'event' in target
      ? (['events', catalogue.event.get(target.event)] as const)
      : (['variables', catalogue.variable.get(target.variable)] as const)
  return index === undefined ? '' : (sources[sourceAt(sources, what, index)]?.id ?? '')
}

const show = (connection: string): void => useStore.setState({ connectionsAt: connection, opening: null })

/** What a path ends on, below the editor of its last station, with the way to it. */
export const PathEnd = ({
  part,
  binding,
  station,
  close,
}: {
  part: PartRow
  binding: BindingRow | undefined
  station: Station
  close: () => void
}) => {
  const id = useEnd(part, binding, station)
  const status = useStore((s) => s.status?.connections.find((c) => c.id === id))
  return (
    <div className="flex items-center gap-2 border-t border-hair px-3 py-1.5 text-[12px]">
      {status ? (
        <>
          <UpMark up={status.state === 'up'} words={status.state} />
          <span className="min-w-0 flex-1 truncate text-ink2">
            over {status.name}, {status.problem ?? `${status.rateHz.toFixed(1)} Hz`}
          </span>
        </>
      ) : (
        <span className="flex-1 text-ink2">over no connection yet</span>
      )}
      <button
        type="button"
        className="btn"
        onClick={() => {
          close()
          show(id)
        }}
      >
        Connections
      </button>
    </div>
  )
}

/** Reasons that are mended where connections are. */
const ofConnections: ReadonlySet<StopCode> = new Set(['gone', 'away', 'stale'])

/** What can be done about a path that stops for want of a connection: a click, for the bar that says so. */
export const useMend = (
  part: PartRow,
  binding: BindingRow | undefined,
  stop: { readonly at: Station; readonly code: StopCode } | null,
): (() => void) | null => {
  const id = useEnd(part, binding, stop?.at ?? 'simulator')
  return stop && ofConnections.has(stop.code) ? () => show(id) : null
}
