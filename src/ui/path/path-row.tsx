'use client'
import { Popover } from 'radix-ui'
import { useEffect, useState } from 'react'
import { partKind } from '@/core/catalogue/parts'
import type { Station } from '@/core/engine/compile-binding'
import type { TraceRow } from '@/core/engine/trace'
import type { PartRow } from '@/core/rig/rows'
import { useStore } from '../live/store'
import { StationEditor } from './station-editor'
import { StationGlyph, stationWords } from './stations'

/** Left to right on the strip, whichever way the value goes, with the share of the width each takes. */
const columns: Record<TraceRow['direction'], readonly { at: Station; share: number }[]> = {
  'to simulator': [
    { at: 'part', share: 120 },
    { at: 'pin', share: 120 },
    { at: 'board', share: 130 },
    { at: 'shaping', share: 270 },
    { at: 'onlyWhile', share: 210 },
    { at: 'simulator', share: 300 },
  ],
  'from simulator': [
    { at: 'part', share: 120 },
    { at: 'pin', share: 120 },
    { at: 'board', share: 130 },
    { at: 'onlyWhile', share: 230 },
    { at: 'shaping', share: 250 },
    { at: 'simulator', share: 300 },
  ],
}

const LINE_Y = 34

interface Column {
  readonly at: Station
  readonly left: number
  readonly width: number
  readonly centre: number
}

const layOut = (direction: TraceRow['direction']): Column[] => {
  const shares = columns[direction]
  const all = shares.reduce((sum, c) => sum + c.share, 0)
  let left = 0
  return shares.map(({ at, share }) => {
    const width = (share / all) * 100
    const column = { at, left, width, centre: left + width / 2 }
    left += width
    return column
  })
}

/** One path of a part from left to right, live; each station opens its editor in place. */
export const PathRow = ({
  part,
  row,
  takesOpening,
}: {
  part: PartRow
  row: TraceRow
  takesOpening: boolean
}) => {
  const laid = layOut(row.direction)
  const toRight = row.direction === 'to simulator'
  const stopColumn = row.stop ? laid.find((c) => c.at === row.stop?.at) : undefined
  // The bar stands before the station it does not get past; at the very first one, behind it.
  const isFirst = stopColumn !== undefined && stopColumn === (toRight ? laid[0] : laid.at(-1))
  const half = stopColumn ? Math.min(stopColumn.width / 2, 3.6) * (toRight === isFirst ? 1 : -1) : 0
  const bar = stopColumn ? stopColumn.centre + half : null
  const first = laid[0]?.centre ?? 0
  const last = laid.at(-1)?.centre ?? 100
  const alive: [number, number] = bar === null ? [first, last] : toRight ? [first, bar] : [bar, last]
  const dead: [number, number] | null = bar === null ? null : toRight ? [bar, last] : [first, bar]

  return (
    <div
      className="relative h-[138px]"
      data-path={row.bindingId ?? 'none'}
      data-stop={row.stop?.reason ?? ''}
    >
      <Line from={alive[0]} to={alive[1]} live />
      {dead && <Line from={dead[0]} to={dead[1]} live={false} />}
      <Arrows columns={laid} toRight={toRight} between={alive} />
      {row.passedAt !== null && <Pulse key={row.passedAt} from={first} to={last} toRight={toRight} />}
      {laid.map((column) => (
        <StationCell
          key={column.at}
          part={part}
          row={row}
          column={column}
          takesOpening={takesOpening}
          reached={column.centre >= alive[0] && column.centre <= alive[1]}
        />
      ))}
      {bar !== null && row.stop && <StopBar at={bar} reason={row.stop.reason} />}
    </div>
  )
}

const Line = ({ from, to, live }: { from: number; to: number; live: boolean }) => (
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

const Arrows = ({
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

const Pulse = ({ from, to, toRight }: { from: number; to: number; toRight: boolean }) => {
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

const StopBar = ({ at, reason }: { at: number; reason: string }) => {
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
      </div>
    </>
  )
}

/** What stands above a station: the kind of part, variable or event, or the station's own word. */
const wordOf = (part: PartRow, row: TraceRow, at: Station): string => {
  if (at === 'part') return partKind(part.kind)?.front.look ?? 'part'
  return at === 'simulator' ? simulatorWord(row) : stationWords[at]
}

const simulatorWord = (row: TraceRow): string => {
  const station = row.stations.find((s) => s.at === 'simulator')
  return station?.value === 'event' ? 'event' : 'variable'
}

const StationCell = ({
  part,
  row,
  column,
  takesOpening,
  reached,
}: {
  part: PartRow
  row: TraceRow
  column: Column
  takesOpening: boolean
  reached: boolean
}) => {
  const opening = useStore((s) => s.opening)
  const [open, setOpen] = useState(false)
  const station = row.stations.find((s) => s.at === column.at)
  useEffect(() => {
    if (takesOpening && opening?.partId === part.id && opening.station === column.at) {
      setOpen(true)
      useStore.setState({ opening: null })
    }
  }, [opening, part.id, column.at, takesOpening])
  if (!station) return null
  const word = wordOf(part, row, column.at)
  // Of the part itself the state is what matters; what it is stands above it.
  const [what, value] = column.at === 'part' ? [station.value, ''] : [station.what, station.value]
  const long = column.at === 'shaping' || column.at === 'onlyWhile'
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          type="button"
          data-station={column.at}
          className="absolute top-0 flex h-[106px] flex-col items-center rounded-[2px] border border-transparent px-1 hover:border-line data-[state=open]:border-accent"
          style={{ left: `calc(${column.left}% + 2px)`, width: `calc(${column.width}% - 4px)` }}
        >
          <span className="text-[12px] leading-[18px] text-ink2">{word}</span>
          <span className="flex h-[30px] items-center">
            <StationGlyph station={column.at} lit={reached} />
          </span>
          <span
            className={`mono max-w-full text-[12.5px] leading-[17px] ${long ? 'line-clamp-2 break-words' : 'truncate'}`}
            title={what}
          >
            {what}
          </span>
          <span
            className={`mono max-w-full truncate text-[12.5px] leading-[18px] ${reached ? 'text-live' : 'text-ink2'}`}
            title={value}
          >
            {value}
          </span>
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          sideOffset={4}
          collisionPadding={8}
          className="popover"
          aria-label={`Edit ${word}`}
        >
          <StationEditor part={part} row={row} station={column.at} close={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
