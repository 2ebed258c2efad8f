'use client'
import type { TraceRow } from '@/core/engine/trace-row'
import { useStore } from '../live/store'
import { IdleRow } from './idle-row'
import { PathRow } from './path-row'

/** A path that waits for its layer: nothing is wrong with it, it is just not its turn. */
const isIdle = (row: TraceRow): boolean =>
  row.stop?.at === 'onlyWhile' && row.stop.reason.startsWith('layer is')

/** The selected part's paths, one row each, along the whole width. */
export const PathStrip = () => {
  const selected = useStore((s) => s.selected)
  const part = useStore((s) => (selected === null ? undefined : s.rig.part[selected]))
  const trace = useStore((s) => s.trace)
  const rows = trace && trace.partId === selected ? trace.rows : []
  // An editor asked for from elsewhere opens where something is still to be chosen, else on the first path.
  const opened = Math.max(
    0,
    rows.findIndex((r) => r.stations.some((s) => s.at === 'simulator' && s.what === 'choose')),
  )
  const acting = rows.filter((r) => !isIdle(r))
  const idle = rows.filter(isIdle)
  const reads = rows.some((r) => r.direction === 'from simulator')
  return (
    <section
      aria-label="Signal path"
      className="col-start-2 col-end-4 flex min-h-0 flex-col border-t-2 border-ink bg-raised px-3.5 pt-2"
    >
      <div className="flex h-[22px] shrink-0 items-baseline gap-3">
        <h2>{part?.name ?? 'No part selected'}</h2>
        <span className="cap">signal path</span>
        {part && rows.length > 0 && (
          <span className="cap ml-auto">{reads ? '← reads from the craft' : 'acts on the craft →'}</span>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto pt-1">
        {part ? (
          <>
            {acting.map((row) => (
              <PathRow
                key={row.bindingId ?? `none ${row.aspectId}`}
                part={part}
                row={row}
                takesOpening={rows.indexOf(row) === opened}
              />
            ))}
            {idle.map((row) => (
              <IdleRow key={row.bindingId} part={part} row={row} />
            ))}
          </>
        ) : (
          <p className="pt-10 text-center text-ink2">
            Select a part on the panel, in a list or with Ctrl K: its whole path from the contact to the craft
            appears here.
          </p>
        )}
      </div>
    </section>
  )
}
