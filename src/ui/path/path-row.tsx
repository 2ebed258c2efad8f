'use client'
import type { Look } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import type { Station } from '@/core/engine/mistakes'
import type { TraceRow } from '@/core/engine/trace-row'
import type { PartRow } from '@/core/rig/rows'
import { useMend } from '../connections/path-end'
import { SetChip } from '../craft/set-chip'
import { useStore } from '../live/store'
import { Arrows, type Column, Line, Notice, Pulse, StopBar } from './path-line'
import { StationOpener } from './station-opener'
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
  const mend = useMend(
    part,
    useStore((s) => s.rig.binding[row.bindingId ?? '']),
    row.stop,
  )
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
      data-aspect-path={row.aspectId}
      data-path={row.bindingId ?? 'none'}
      data-stop={row.stop?.reason ?? ''}
      data-idle={row.stop?.code === 'layer' ? row.bindingId : undefined}
    >
      <div className="absolute top-0 right-0 z-10">
        <SetChip bindingId={row.bindingId} />
      </div>
      <Line from={alive[0]} to={alive[1]} live />
      {dead && <Line from={dead[0]} to={dead[1]} live={false} />}
      <Arrows columns={laid} toRight={toRight} between={alive} />
      {row.passedAt !== null && <Pulse key={row.passedAt} from={first} to={last} toRight={toRight} />}
      {/* Behind the words of the stations, which it may cross. */}
      {bar !== null && row.stop && <StopBar at={bar} reason={row.stop.reason} mend={mend} />}
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
      {row.stop === null && row.notice && <Notice words={row.notice} />}
    </div>
  )
}

/** What stands above a station: the kind of part, variable or event, or the station's own word. */
const wordOf = (part: PartRow, row: TraceRow, at: Station): string => {
  if (at === 'part') return wordOfPart(part, row)
  return at === 'simulator' ? simulatorWord(row) : stationWords[at]
}

const lookWords: Record<Look['look'], string> = {
  lever: 'lever',
  toggle: 'toggle',
  button: 'button',
  lamp: 'lamp',
  'legend-lamp': 'lamp',
  knob: 'encoder',
  rotary: 'selector',
  hat: 'hat',
  slide: 'lever',
  pot: 'pot',
  digits: 'digits',
  text: 'text',
  gauge: 'gauge',
  'colour-lamp': 'RGB lamp',
  strip: 'RGB strip',
  screen: 'screen',
  connector: 'connector',
  screw: 'screw',
}

/** The aspect where a part has several, else what it is in a word. */
const wordOfPart = (part: PartRow, row: TraceRow): string => {
  const kind = partKind(part.kind)
  if (kind && kind.aspects.length > 1 && row.aspectId) return row.aspectId
  return kind ? lookWords[kind.front.look] : 'part'
}

const simulatorWord = (row: TraceRow): string => {
  const station = row.stations.find((s) => s.at === 'simulator')
  if (station?.value === 'event') return 'event'
  return station?.what.includes(': ') ? 'layer' : 'variable'
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
  const station = row.stations.find((s) => s.at === column.at)
  if (!station) return null
  const word = wordOf(part, row, column.at)
  // Of the part itself the state is what matters; what it is stands above it.
  // An event has no value, and its word stands above it already.
  const said = station.value === 'event' ? '' : station.value
  const [what, value] = column.at === 'part' ? [station.value, ''] : [station.what, said]
  const long = column.at === 'shaping' || column.at === 'onlyWhile'
  return (
    <StationOpener part={part} row={row} station={column.at} label={word} takesOpening={takesOpening}>
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
          className={`mono max-w-full bg-raised text-[12.5px] leading-[17px] ${long ? 'line-clamp-2 break-words' : 'truncate'}`}
          title={what}
        >
          {what}
        </span>
        <span
          className={`mono max-w-full truncate bg-raised text-[12.5px] leading-[18px] ${reached ? 'text-live' : 'text-ink2'}`}
          title={value}
        >
          {value}
        </span>
      </button>
    </StationOpener>
  )
}
