'use client'
import { useState } from 'react'
import type { TraceRow } from '@/core/engine/trace-row'
import type { PartRow } from '@/core/rig/rows'
import { Mark } from '../primitives/mark'
import { PathRow } from './path-row'

/** A path whose layer is not the active one, in one line; the whole of it on a click. */
export const IdleRow = ({ part, row }: { part: PartRow; row: TraceRow }) => {
  const [open, setOpen] = useState(false)
  const at = (station: string) => row.stations.find((s) => s.at === station)?.what ?? ''
  return (
    <div className="border-t border-hair">
      <button
        type="button"
        aria-expanded={open}
        data-idle={row.bindingId}
        data-stop={row.stop?.reason}
        className="grid h-7 w-full grid-cols-[20px_70px_minmax(0,1.1fr)_minmax(0,1fr)_minmax(0,1.2fr)] items-center gap-3 text-left text-[12px] text-ink2 hover:text-ink"
        onClick={() => setOpen(!open)}
      >
        <Mark shape="none" words="not active" />
        <span className="truncate">{row.aspectId}</span>
        <span className="truncate">stops here: {row.stop?.reason}</span>
        <span className="mono truncate">{at('shaping')}</span>
        <span className="mono truncate">{at('simulator')}</span>
      </button>
      {open && <PathRow part={part} row={row} takesOpening={false} />}
    </div>
  )
}
