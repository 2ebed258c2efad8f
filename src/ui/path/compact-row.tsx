'use client'
import type { Station } from '@/core/engine/mistakes'
import type { TraceRow } from '@/core/engine/trace-row'
import type { PartRow } from '@/core/rig/rows'
import { SetChip } from '../craft/set-chip'
import { StationOpener } from './station-opener'

/** Columns of the compact strip; where a value passes a station, a piece of its line leads on to the next. */
export const compactColumns =
  'grid-cols-[minmax(64px,0.8fr)_72px_minmax(120px,1.25fr)_minmax(150px,2fr)_minmax(110px,1.5fr)_minmax(190px,2.4fr)_minmax(84px,0.8fr)]'

const order: Record<TraceRow['direction'], readonly Station[]> = {
  'to simulator': ['part', 'pin', 'board', 'shaping', 'onlyWhile', 'simulator'],
  'from simulator': ['simulator', 'shaping', 'onlyWhile', 'board', 'pin', 'part'],
}

/** Whether the value gets as far as a station. */
const isReached = (row: TraceRow, at: Station): boolean => {
  if (!row.stop) return true
  if (isIdle(row)) return false
  const way = order[row.direction]
  return way.indexOf(at) < way.indexOf(row.stop.at)
}

/** A path that waits for its layer: nothing is wrong with it, it is just not its turn. */
export const isIdle = (row: TraceRow): boolean => row.stop?.code === 'layer'

/** One path of several, in a line; each station opens its editor in place. */
export const CompactRow = ({
  part,
  row,
  takesOpening,
}: {
  part: PartRow
  row: TraceRow
  takesOpening: boolean
}) => {
  const at = (station: Station) => row.stations.find((s) => s.at === station)
  const idle = isIdle(row)
  const wire = [at('pin')?.what, at('board')?.what].filter(Boolean).join(' · ')
  const simulator = at('simulator')
  const now = simulator?.value === 'event' ? '' : simulator?.value
  const cell = (station: Station, words: string, label: string) => (
    <Cell part={part} row={row} station={station} words={words} label={label} takesOpening={takesOpening} />
  )
  return (
    <li
      className={`grid h-[27px] items-center gap-x-1.5 ${compactColumns} ${idle ? 'text-ink3' : ''}`}
      data-aspect-path={row.aspectId}
      data-path={row.bindingId ?? 'none'}
      data-stop={row.stop?.reason ?? ''}
      data-idle={idle ? row.bindingId : undefined}
    >
      <span className="flex min-w-0 items-center gap-1">
        {cell('part', row.aspectId, 'part')}
        <SetChip bindingId={row.bindingId} />
      </span>
      <span className="truncate text-[12px]">{row.when}</span>
      {cell('pin', wire, 'pin and board')}
      {cell('shaping', at('shaping')?.what ?? '', 'shaping')}
      {cell('onlyWhile', at('onlyWhile')?.what ?? '', 'only while')}
      {cell('simulator', simulator?.what ?? '', 'variable or event')}
      <span
        className={`mono truncate text-right text-[12px] ${row.stop ? 'text-ink2' : 'text-live'}`}
        title={now}
      >
        {now || '–'}
      </span>
    </li>
  )
}

const Cell = ({
  part,
  row,
  station,
  words,
  label,
  takesOpening,
}: {
  part: PartRow
  row: TraceRow
  station: Station
  words: string
  label: string
  takesOpening: boolean
}) => {
  const stops =
    row.stop !== null &&
    row.stop.code !== 'layer' &&
    (row.stop.at === station || (station === 'pin' && row.stop.at === 'board'))
  const reached = isReached(row, station)
  const { direction } = row
  return (
    <StationOpener
      part={part}
      row={row}
      station={station}
      answersTo={station === 'pin' ? 'board' : undefined}
      label={label}
      takesOpening={takesOpening}
    >
      <button
        type="button"
        data-station={station}
        className="flex h-[23px] min-w-0 items-center gap-1.5 rounded-[2px] border border-transparent px-0.5 text-left hover:border-line data-[state=open]:border-accent"
        title={stops ? `${words}: ${row.stop?.reason}` : words}
      >
        {station !== 'part' && <Lead reached={reached} short />}
        {station === 'simulator' && <Arrow direction={direction} reached={reached} />}
        <span className={`truncate ${station === 'part' ? '' : 'mono text-[12px]'}`}>{words}</span>
        {stops && (
          <span
            role="status"
            className="min-w-0 shrink-[0.4] truncate border border-fault px-1 text-[11px] text-fault"
          >
            {row.stop?.reason}
          </span>
        )}
        {station !== 'simulator' && <Lead reached={reached && !stops} />}
      </button>
    </StationOpener>
  )
}

/** A piece of the path's line: whole where the value passes, dotted where it does not. */
const Lead = ({ reached, short = false }: { reached: boolean; short?: boolean }) => (
  <span
    aria-hidden="true"
    className={`${short ? 'w-2.5 shrink-0' : 'min-w-2 flex-1'} border-t-2 ${reached ? 'border-live' : 'border-ink3 border-dotted'}`}
  />
)

const Arrow = ({ direction, reached }: { direction: TraceRow['direction']; reached: boolean }) => (
  <svg width={7} height={9} className="shrink-0" role="img" aria-label={direction}>
    <path
      d={direction === 'to simulator' ? 'M0 0l7 4.5L0 9z' : 'M7 0L0 4.5L7 9z'}
      fill={reached ? 'var(--live)' : 'var(--ink3)'}
    />
  </svg>
)
