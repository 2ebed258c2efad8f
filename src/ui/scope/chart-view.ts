import { type ScaleLinear, type ScaleTime, scaleLinear, scaleTime, scaleUtc, timeFormat, utcFormat } from 'd3'
import type { VariableInfo } from '@/core/rig/simulator-catalogue'
import type { Series } from '@/core/scope/series'

/** What is drawn of a variable. */
export interface ChartLine {
  readonly name: string
  readonly series: Series
  readonly stroke: string
  readonly dash: readonly number[]
}

/** All variables of one unit share a lane and its axis. */
export interface Lane {
  readonly unit: string
  readonly lines: readonly ChartLine[]
}

/** Lines in lanes, by what they are measured in; in the order in which they were pinned. */
export const lanesOf = (lines: readonly ChartLine[], infos: readonly VariableInfo[]): Lane[] => {
  const lanes = new Map<string, ChartLine[]>()
  for (const line of lines) {
    const info = infos.find((i) => i.name === line.name)
    const unit = info?.type === 'boolean' ? 'on or off' : (info?.unit ?? 'no unit')
    lanes.set(unit, [...(lanes.get(unit) ?? []), line])
  }
  return [...lanes].map(([unit, list]) => ({ unit, lines: list }))
}

/** The stretch of time that is shown, on the page's clock. */
export interface Stretch {
  readonly from: number
  readonly to: number
}

export const AXIS_PX = 64
export const LABEL_PX = 8
const TIMES_PX = 22
const GAP_PX = 10
/** How moments are said: by the clock on the wall, or from the beginning of a recording. */
interface Clock {
  readonly date: (at: number) => Date
  readonly scale: (of: readonly [Date, Date], to: readonly [number, number]) => ScaleTime<number, number>
  readonly words: (at: Date, fine: boolean) => string
  /** As it stands in a file. */
  readonly inFile: (at: number) => string | number
}

const [fineWall, coarseWall] = [timeFormat('%M:%S.%L'), timeFormat('%H:%M:%S')]
const wallWords = timeFormat('%H:%M:%S.%L')
const [fineRun, coarseRun, longRun] = [utcFormat('%-M:%S.%L'), utcFormat('%-M:%S'), utcFormat('%-H:%M:%S')]

/** The page's clock against that of the wall. */
const wall: Clock = {
  date: (at) => new Date(performance.timeOrigin + at),
  scale: ([a, b], [c, d]) => scaleTime([a, b], [c, d]),
  words: (at, fine) => (fine ? fineWall : coarseWall)(at),
  inFile: (at) => new Date(performance.timeOrigin + at).toISOString(),
}

const running: Clock = {
  date: (at) => new Date(at),
  scale: ([a, b], [c, d]) => scaleUtc([a, b], [c, d]),
  words: (at, fine) => (at.getTime() >= 3_600_000 ? longRun : fine ? fineRun : coarseRun)(at),
  inFile: (at) => at / 1000,
}

const clockOf = (isRecorded: boolean): Clock => (isRecorded ? running : wall)

/** A moment in words. */
export const momentWords = (at: number, isRecorded: boolean): string =>
  isRecorded ? fineRun(running.date(at)) : wallWords(wall.date(at))

/** Least and most of a lane within the stretch, with a little room; a flat one gets some of its own. */
const extent = (lane: Lane, { from, to }: Stretch, width: number): readonly [number, number] => {
  let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  for (const { series } of lane.lines)
    for (const c of series.columns(from, to, width)) {
      if (Number.isNaN(c.first)) continue
      least = Math.min(least, c.least)
      most = Math.max(most, c.most)
    }
  if (least > most) return [0, 1]
  const room = most === least ? Math.max(1, Math.abs(most) * 0.1) : (most - least) * 0.06
  return [least - room, most + room]
}

const drawLine = (
  g: CanvasRenderingContext2D,
  line: ChartLine,
  stretch: Stretch,
  y: ScaleLinear<number, number>,
  width: number,
): void => {
  g.strokeStyle = line.stroke
  g.setLineDash([...line.dash])
  g.lineWidth = 1.5
  g.beginPath()
  let held = Number.NaN
  for (const c of line.series.columns(stretch.from, stretch.to, width)) {
    const x = AXIS_PX + c.x + 0.5
    if (!Number.isNaN(held)) g.lineTo(x, y(held))
    if (!Number.isNaN(c.first)) {
      if (Number.isNaN(held)) g.moveTo(x, y(c.first))
      else g.lineTo(x, y(c.first))
      g.lineTo(x, y(c.least))
      g.lineTo(x, y(c.most))
      g.lineTo(x, y(c.last))
    }
    held = c.last
  }
  if (!Number.isNaN(held)) g.lineTo(AXIS_PX + width, y(held))
  g.stroke()
  g.setLineDash([])
}

interface Colours {
  readonly ink2: string
  readonly ink3: string
  readonly hair: string
  readonly line: string
  readonly warn: string
  readonly accent: string
}

const NOTE_ROWS = 4
const NOTE_PX = 13

/** Lines through all lanes, with their words at the foot: in rows, so that none lies on another. */
const drawNotes = (
  g: CanvasRenderingContext2D,
  notes: readonly { readonly at: number; readonly words: string }[],
  stretch: Stretch,
  xOf: (at: number) => number,
  right: number,
  bottom: number,
  colours: Colours,
): void => {
  const ends = new Array<number>(NOTE_ROWS).fill(0)
  g.textAlign = 'left'
  g.textBaseline = 'bottom'
  for (const note of notes) {
    if (note.at < stretch.from || note.at > stretch.to) continue
    const x = Math.round(xOf(note.at)) + 0.5
    g.strokeStyle = colours.warn
    g.setLineDash([3, 2])
    g.beginPath()
    g.moveTo(x, 0)
    g.lineTo(x, bottom)
    g.stroke()
    g.setLineDash([])
    const width = g.measureText(note.words).width
    // At the edge they stand before their line.
    const begin = x + 4 + width > right ? x - 4 - width : x + 4
    const row = ends.findIndex((end) => end < begin)
    if (row < 0) continue
    ends[row] = begin + width + 6
    const foot = bottom - 4 - row * NOTE_PX
    g.clearRect(begin - 1, foot - 12, width + 2, 12)
    g.fillStyle = colours.warn
    g.fillText(note.words, begin, foot)
  }
}

/** Draws the whole chart anew: some hundreds of columns a line, however long the stretch is. */
export const drawChart = (
  g: CanvasRenderingContext2D,
  [width, height]: readonly [number, number],
  lanes: readonly Lane[],
  stretch: Stretch,
  cursor: number | null,
  notes: readonly { readonly at: number; readonly words: string }[],
  colours: Colours,
  /** Where a recording is; null of what goes on by itself. */
  playhead: number | null,
): void => {
  const clock = clockOf(playhead !== null)
  const inner = Math.max(10, width - AXIS_PX - LABEL_PX)
  const xOf = (at: number) => AXIS_PX + ((at - stretch.from) / (stretch.to - stretch.from)) * inner
  g.clearRect(0, 0, width, height)
  g.font = '11px "IBM Plex Mono", monospace'
  const time = clock.scale([clock.date(stretch.from), clock.date(stretch.to)], [AXIS_PX, AXIS_PX + inner])
  const bottom = height - TIMES_PX
  g.textBaseline = 'top'
  g.textAlign = 'center'
  const fine = stretch.to - stretch.from < 10_000
  for (const tick of time.ticks(Math.max(2, Math.floor(inner / 110)))) {
    const x = Math.round(time(tick)) + 0.5
    g.strokeStyle = colours.hair
    g.beginPath()
    g.moveTo(x, 0)
    g.lineTo(x, bottom)
    g.stroke()
    g.fillStyle = colours.ink3
    // One that would be cut off is left out; its line stays.
    if (x < width - 36) g.fillText(clock.words(tick, fine), x, bottom + 6)
  }
  const laneHeight = (bottom - GAP_PX * (lanes.length - 1)) / Math.max(1, lanes.length)
  for (const [i, lane] of lanes.entries()) {
    const top = i * (laneHeight + GAP_PX)
    const y = scaleLinear(extent(lane, stretch, inner), [top + laneHeight, top])
    g.strokeStyle = colours.line
    g.strokeRect(AXIS_PX + 0.5, Math.round(top) + 0.5, inner - 1, Math.round(laneHeight) - 1)
    g.textAlign = 'right'
    g.textBaseline = 'middle'
    const ticks = y.ticks(Math.max(2, Math.floor(laneHeight / 36)))
    const words = y.tickFormat(ticks.length)
    for (const tick of ticks) {
      g.strokeStyle = colours.hair
      g.beginPath()
      g.moveTo(AXIS_PX, Math.round(y(tick)) + 0.5)
      g.lineTo(AXIS_PX + inner, Math.round(y(tick)) + 0.5)
      g.stroke()
      g.fillStyle = colours.ink2
      // One that would be cut off is left out.
      if (y(tick) > 6) g.fillText(words(tick), AXIS_PX - 6, y(tick))
    }
    g.save()
    g.beginPath()
    g.rect(AXIS_PX, top, inner, laneHeight)
    g.clip()
    for (const line of lane.lines) drawLine(g, line, stretch, y, inner)
    g.restore()
    g.textAlign = 'left'
    g.textBaseline = 'top'
    g.clearRect(AXIS_PX + 3, top + 3, g.measureText(lane.unit).width + 6, 14)
    g.fillStyle = colours.ink2
    g.fillText(lane.unit, AXIS_PX + 6, top + 5)
  }
  drawNotes(g, notes, stretch, xOf, AXIS_PX + inner, bottom, colours)
  if (playhead !== null && playhead >= stretch.from && playhead <= stretch.to) {
    g.fillStyle = colours.accent
    g.fillRect(Math.round(xOf(playhead)) - 1, 0, 3, bottom)
  }
  if (cursor !== null) {
    const x = Math.round(xOf(cursor)) + 0.5
    g.strokeStyle = colours.ink2
    g.beginPath()
    g.moveTo(x, 0)
    g.lineTo(x, bottom)
    g.stroke()
  }
}

/** What a chart shows, as rows: a time, and what each variable was then. One for each time at which something was told. */
export const chartRows = (
  lines: readonly ChartLine[],
  { from, to }: Stretch,
  isRecorded: boolean,
): readonly (readonly (string | number)[])[] => {
  const times = new Set<number>([from])
  for (const { series } of lines) for (const [at] of series.within(from, to)) times.add(at)
  return [...times]
    .sort((a, b) => a - b)
    .map((at) => [
      clockOf(isRecorded).inFile(at),
      ...lines.map(({ series }) => {
        const value = series.at(at)
        return Number.isNaN(value) ? '' : value
      }),
    ])
}
