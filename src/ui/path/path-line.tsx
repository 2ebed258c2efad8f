'use client'
import { useEffect, useState } from 'react'
import type { Station } from '@/core/engine/mistakes'

/** How far below the top of a row its line runs. */
const LINE_Y = 34

/** Where a station stands on a row, in shares of its width. */
export interface Column {
  readonly at: Station
  readonly left: number
  readonly width: number
  readonly centre: number
}

export const Line = ({ from, to, live }: { from: number; to: number; live: boolean }) => (
  <div
    className="absolute"
    style={{
      left: `${from}%`,
      width: `${to - from}%`,
      top: LINE_Y - 1.5,
      height: 3,
      background: live
        ? 'var(--live)'
        : 'repeating-linear-gradient(90deg,var(--ink3) 0 2px,transparent 2px 7px)',
    }}
  />
)

export const Arrows = ({
  columns,
  toRight,
  between,
}: {
  columns: readonly Column[]
  toRight: boolean
  between: [number, number]
}) => (
  <>
    {columns.slice(1).map((c, i) => {
      const middle = (c.centre + (columns[i]?.centre ?? 0)) / 2
      if (middle <= between[0] || middle >= between[1]) return null
      return (
        <svg
          key={c.at}
          width={10}
          height={12}
          className="absolute"
          style={{ left: `calc(${middle}% - 5px)`, top: LINE_Y - 6 }}
          aria-hidden="true"
        >
          <path d={toRight ? 'M0 0l10 6-10 6z' : 'M10 0L0 6l10 6z'} fill="var(--live)" />
        </svg>
      )
    })}
  </>
)

const PULSE_MS = 650

export const Pulse = ({ from, to, toRight }: { from: number; to: number; toRight: boolean }) => {
  const [done, setDone] = useState(false)
  useEffect(() => {
    const timer = setTimeout(() => setDone(true), PULSE_MS)
    return () => clearTimeout(timer)
  }, [])
  if (done) return null
  return (
    <div
      className="pulse pointer-events-none absolute"
      style={{ left: `${from}%`, width: `${to - from}%`, top: LINE_Y - 5, height: 10 }}
    >
      <div
        className="absolute h-[10px] w-[26px] rounded-full bg-live"
        style={{ marginLeft: -13, animation: `${toRight ? 'run-right' : 'run-left'} ${PULSE_MS}ms linear` }}
      />
    </div>
  )
}

/** `mend` leads to where the reason can be put right. */
export const StopBar = ({ at, reason, mend }: { at: number; reason: string; mend: (() => void) | null }) => {
  // Near the edges the words lean inwards, so that none is cut off.
  const shift = at > 80 ? '-88%' : at < 16 ? '-12%' : '-50%'
  return (
    <>
      <div
        className="absolute bg-fault"
        style={{ left: `calc(${at}% - 2px)`, top: LINE_Y - 12, width: 4, height: 24 }}
      />
      <div className="absolute bg-fault" style={{ left: `${at}%`, top: LINE_Y + 12, width: 1, height: 66 }} />
      <div
        role="status"
        className="absolute max-w-[520px] truncate border border-fault bg-raised px-2.5 py-0.5 text-[12px] text-fault"
        style={{ left: `${at}%`, top: LINE_Y + 77, transform: `translateX(${shift})` }}
        title={reason}
      >
        stops here: {reason}
        {mend && (
          <button type="button" className="ml-2 text-accent underline" onClick={mend}>
            Connections
          </button>
        )}
      </div>
    </>
  )
}

/** Something flows, but the builder should know of something. */
export const Notice = ({ words }: { words: string }) => (
  <div
    role="status"
    className="absolute right-2 max-w-[720px] truncate border border-warn bg-raised px-2.5 py-0.5 text-[12px] text-warn"
    style={{ top: LINE_Y + 77 }}
    title={words}
  >
    {words}
  </div>
)
