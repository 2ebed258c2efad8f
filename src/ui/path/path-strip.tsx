'use client'
import { useEffect, useState } from 'react'
import type { TraceRow } from '@/core/engine/trace-row'
import { OtherSets } from '../craft/set-chip'
import { useStore } from '../live/store'
import { CompactRow, compactColumns } from './compact-row'
import { PathRow } from './path-row'

/** So tall it may be dragged at least and at most, and so tall it grows by itself. */
const LEAST_PX = 60
const BY_ITSELF_PX = 236
const STEP_PX = 27

const directionWords = (rows: readonly TraceRow[]): string => {
  const reads = rows.some((r) => r.direction === 'from simulator')
  const acts = rows.some((r) => r.direction === 'to simulator')
  if (reads && acts) return 'acts on the craft → · ← reads from it'
  return reads ? '← reads from the craft' : 'acts on the craft →'
}

/**
 * The selected part's paths, along the whole width: a single one drawn tall, several in a line each, in a fixed order.
 * It takes the room it needs and may be dragged taller.
 */
export const PathStrip = () => {
  const selected = useStore((s) => s.selected)
  const part = useStore((s) => (selected === null ? undefined : s.rig.part[selected]))
  const trace = useStore((s) => s.trace)
  const stripPx = useStore((s) => s.stripPx)
  const [list, setList] = useState<HTMLUListElement | null>(null)
  const rows = trace && trace.partId === selected ? trace.rows : []
  const unseen = useUnseen(list, rows.length)
  // An editor asked for from elsewhere opens where something is still to be chosen, else on the first path.
  const opened = Math.max(
    0,
    rows.findIndex((r) => r.stations.some((s) => s.at === 'simulator' && s.what === 'choose')),
  )
  const [only] = rows
  return (
    <section
      id="strip"
      aria-label="Signal path"
      tabIndex={-1}
      className="relative col-start-2 col-end-4 flex min-h-0 flex-col border-t-2 border-ink bg-raised px-3.5"
      style={
        part && rows.length > 1
          ? { height: stripPx ?? undefined, maxHeight: stripPx ?? BY_ITSELF_PX }
          : undefined
      }
    >
      {part && rows.length > 1 && <DragEdge />}
      <div className="flex h-[30px] shrink-0 items-center gap-3">
        {part ? (
          <>
            <h2>{part.name}</h2>
            <span className="cap">{rows.length > 1 ? `${rows.length} paths` : 'signal path'}</span>
            <OtherSets partId={part.id} />
            {unseen > 0 && <span className="cap">{unseen} more below · drag the edge, or scroll</span>}
            {rows.length > 0 && <span className="cap ml-auto">{directionWords(rows)}</span>}
          </>
        ) : (
          <p className="text-ink2">Select a part, or touch one on the panel: its paths appear here.</p>
        )}
      </div>
      {part && rows.length === 1 && only && (
        <div className="h-[146px]">
          <PathRow part={part} row={only} takesOpening />
        </div>
      )}
      {part && rows.length > 1 && (
        <>
          <div className={`cap grid shrink-0 gap-x-1.5 pb-0.5 ${compactColumns}`} aria-hidden="true">
            <span>aspect</span>
            <span>when</span>
            <span>pin · board</span>
            <span>shaping</span>
            <span>only while</span>
            <span>simulator</span>
            <span className="text-right">now</span>
          </div>
          <ul ref={setList} className="min-h-0 flex-1 overflow-y-auto pb-1" aria-label="Paths">
            {rows.map((row, i) => (
              <CompactRow
                key={row.bindingId ?? `none ${row.aspectId}`}
                part={part}
                row={row}
                takesOpening={i === opened}
              />
            ))}
          </ul>
        </>
      )}
    </section>
  )
}

/** How many rows lie below what is seen. */
const useUnseen = (list: HTMLUListElement | null, count: number): number => {
  const [unseen, setUnseen] = useState(0)
  useEffect(() => {
    if (!list) {
      setUnseen(0)
      return
    }
    const look = () =>
      setUnseen(
        Math.max(0, Math.round((list.scrollHeight - list.scrollTop - list.clientHeight - 4) / STEP_PX)),
      )
    look()
    const sized = new ResizeObserver(look)
    sized.observe(list)
    list.addEventListener('scroll', look)
    return () => {
      sized.disconnect()
      list.removeEventListener('scroll', look)
    }
  }, [list, count])
  return unseen
}

/** The upper edge, to be dragged or moved by arrow keys; a double click lets it be as tall as it needs again. */
const DragEdge = () => {
  const px = useStore((s) => s.stripPx)
  const set = (to: number) =>
    useStore.setState({ stripPx: Math.round(Math.min(window.innerHeight * 0.7, Math.max(LEAST_PX, to))) })
  const heightOf = (edge: Element) => edge.parentElement?.getBoundingClientRect().height ?? BY_ITSELF_PX
  return (
    // biome-ignore lint/a11y/useSemanticElements: a splitter that can be moved is no rule across the page
    <div
      role="separator"
      aria-orientation="horizontal"
      aria-label="Height of the signal path"
      aria-valuenow={px ?? BY_ITSELF_PX}
      aria-valuemin={LEAST_PX}
      aria-valuemax={900}
      tabIndex={0}
      className="absolute inset-x-0 -top-1 z-10 h-2 cursor-row-resize focus-visible:bg-accent"
      onDoubleClick={() => useStore.setState({ stripPx: null })}
      onKeyDown={(e) => {
        const by = { ArrowUp: STEP_PX, ArrowDown: -STEP_PX }[e.key]
        if (by === undefined) return
        e.preventDefault()
        set(heightOf(e.currentTarget) + by)
      }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        const from = e.clientY + heightOf(e.currentTarget)
        const edge = e.currentTarget
        edge.onpointermove = (m) => set(from - m.clientY)
        edge.onpointerup = () => {
          edge.onpointermove = null
          edge.onpointerup = null
        }
      }}
    />
  )
}
