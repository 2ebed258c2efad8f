import { line, scaleLinear } from 'd3'
import { type KeyboardEvent, memo, type PointerEvent, useEffect, useRef, useState } from 'react'
import type { Band, TravelSettings } from '@/core/aspects/travel'
import { edgesOfBands, moveEdge } from '@/core/calibration/edges'
import type { Note } from '@/core/calibration/note'
import { standingAt } from '@/core/calibration/standing'
import { travelPlace } from '@/core/engine/travel'
import { alongBands } from '@/core/signal/bands'
import { formatNumber } from '@/core/signal/format'
import { useWidth } from './use-width'

const TOP = 20
const HEIGHT = 190
const RULER = HEIGHT + 34
const BOXES = RULER + 34
const LEFT = 46
const RIGHT = 14

/** A wheel's click zooms by so much; at most so far that a count of the converter is a finger wide. */
const ZOOM = 1.3
const MOST_ZOOM = 60
/** So far has a pointer to move before a press is a drag. */
const DRAG_PX = 2

/** From the travel of a lever to what it gives, with the point where it stands now, and the edges of its bands to be dragged. */
export const LeverChart = memo(function LeverChart({
  settings,
  last,
  recent,
  putBands,
}: {
  settings: TravelSettings
  last: { readonly current: Note | null }
  /** What it stood at lately, for how it trembles. */
  recent: () => readonly Note[]
  putBands: (bands: readonly Band[]) => void
}) {
  const frame = useRef<HTMLDivElement>(null)
  const marker = useRef<SVGGElement>(null)
  const words = useRef<SVGTextElement>(null)
  const bars = useRef<SVGPathElement>(null)
  const width = useWidth(frame, 320)
  const [view, setView] = useState({ middle: 0.5, zoom: 1 })
  /** The edge that a hand holds, and where; a quick hand lets go before anything was drawn of its way. */
  const drag = useRef<{ readonly index: number; readonly besidePx: number; readonly fromX: number } | null>(
    null,
  )
  const [held, setHeld] = useState<readonly Band[] | null>(null)
  const bands = held ?? settings.bands ?? []
  const edges = edgesOfBands(bands)
  const gives = bands.flatMap((b) => b.gives)
  const [low, high] = bands.length === 0 ? [0, 1] : [Math.min(...gives), Math.max(...gives)]
  const half = 0.5 / view.zoom
  const middle = Math.min(1 - half, Math.max(half, view.middle))
  const x = scaleLinear([middle - half, middle + half], [LEFT, width - RIGHT])
  const y = scaleLinear([low, high === low ? low + 1 : high], [HEIGHT - 6, TOP]).nice(5)
  const now = useRef({ settings, x, y, bands, width })
  now.current = { settings, x, y, bands, width }

  // What moves with the hand is moved without drawing all else anew.
  useEffect(() => {
    let frames = 0
    let running = requestAnimationFrame(function run() {
      running = requestAnimationFrame(run)
      const { settings: s, x: toX, y: toY, bands: b } = now.current
      const level = last.current?.value
      marker.current?.setAttribute('visibility', level === undefined ? 'hidden' : 'visible')
      if (level === undefined) return
      const place = travelPlace(s, level)
      const given = alongBands(b, place)
      marker.current?.setAttribute('transform', `translate(${toX(place).toFixed(1)} 0)`)
      marker.current?.querySelector('circle')?.setAttribute('cy', toY(given).toFixed(1))
      if (words.current) {
        words.current.textContent = `now ${(place * 100).toFixed(1)} % → ${formatNumber(Number(given.toFixed(3)))}`
        const isRight = toX(place) > now.current.width * 0.62
        words.current.setAttribute('x', isRight ? '-6' : '6')
        words.current.setAttribute('text-anchor', isRight ? 'end' : 'start')
      }
      // Its trembling is a picture of the last second: a few times in one are enough.
      if (frames++ % 8 === 0) bars.current?.setAttribute('d', trembling(recent(), s, toX))
    })
    return () => cancelAnimationFrame(running)
  }, [last, recent])

  const curve = line<number>()
    .x((p) => x(p))
    .y((p) => y(alongBands(bands, p)))
  const [from, to] = x.domain() as [number, number]
  const samples = [
    ...Array.from({ length: 241 }, (_, i) => from + ((to - from) * i) / 240),
    ...edges.map((e) => e.at),
  ]
    .filter((p) => p >= from && p <= to)
    .sort((a, b) => a - b)
  const placeAt = (clientX: number): number => {
    const box = frame.current?.getBoundingClientRect()
    return x.invert(clientX - (box?.left ?? 0))
  }
  /** The bands as the hand wants them; null while it holds no edge, or has not moved it. */
  const wanted = (e: PointerEvent): Band[] | null => {
    const d = drag.current
    return d === null || Math.abs(e.clientX - d.fromX) < DRAG_PX
      ? null
      : moveEdge(settings.bands ?? [], d.index, placeAt(e.clientX - d.besidePx))
  }
  const move = (e: PointerEvent) => {
    if (drag.current) setHeld(wanted(e))
  }
  const letGo = () => {
    drag.current = null
    setHeld(null)
  }
  const drop = (e: PointerEvent) => {
    const next = wanted(e)
    letGo()
    if (next) putBands(next)
  }
  const take = (index: number) => {
    const level = standingAt(recent())
    if (level !== null) putBands(moveEdge(bands, index, travelPlace(settings, level)))
  }
  const keyDown = (index: number) => (e: KeyboardEvent) => {
    const step = { ArrowRight: 0.001, ArrowLeft: -0.001, ArrowUp: 0.01, ArrowDown: -0.01 }[e.key]
    const edge = edges[index]
    if (e.key === 'Enter') take(index)
    else if (step !== undefined && edge) putBands(moveEdge(bands, index, edge.at + step))
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  const zoomBy = (factor: number, at: number) =>
    setView(({ zoom }) => ({ zoom: Math.min(MOST_ZOOM, Math.max(1, zoom * factor)), middle: at }))
  const here = () => {
    const level = last.current?.value
    return level === undefined ? middle : travelPlace(settings, level)
  }
  return (
    <div ref={frame}>
      <svg
        width={width}
        height={BOXES + 40}
        onPointerMove={move}
        onPointerUp={drop}
        onPointerCancel={letGo}
        onWheel={(e) => zoomBy(e.deltaY < 0 ? ZOOM : 1 / ZOOM, placeAt(e.clientX))}
      >
        <title>Travel and what it gives</title>
        {y.ticks(5).map((t) => (
          <g key={t}>
            <path d={`M${LEFT} ${y(t)}H${width - RIGHT}`} stroke="var(--hair)" />
            <text
              x={LEFT - 6}
              y={y(t) + 4}
              fontSize={11}
              textAnchor="end"
              className="mono"
              fill="var(--ink2)"
            >
              {y.tickFormat(5)(t)}
            </text>
          </g>
        ))}
        <path d={curve(samples) ?? ''} fill="none" stroke="var(--ink)" strokeWidth={1.8} />
        <path ref={bars} fill="var(--accent)" opacity={0.45} />
        <g ref={marker} pointerEvents="none">
          <path d={`M0 ${TOP - 12}V${RULER + 8}`} stroke="var(--accent)" strokeWidth={1.5} />
          <circle r={5} fill="var(--accent)" />
          <text ref={words} y={TOP - 8} fontSize={12} className="mono" fill="var(--accent)" data-now />
        </g>
        {x.ticks(20).map((t) => (
          <path key={t} d={`M${x(t)} ${RULER}v5`} stroke="var(--ink3)" />
        ))}
        {x.ticks(10).map((t) => (
          <g key={t}>
            <path d={`M${x(t)} ${RULER}v11`} stroke="var(--ink2)" />
            <text
              x={x(t)}
              y={RULER + 23}
              fontSize={11}
              textAnchor="middle"
              className="mono"
              fill="var(--ink2)"
            >
              {formatNumber(Number((t * 100).toFixed(2)))}
            </text>
          </g>
        ))}
        {bands.map((b, i) => (
          <BandBox
            key={i}
            band={b}
            index={i}
            left={Math.max(LEFT, x(b.from))}
            right={Math.min(width - RIGHT, x(b.to))}
          />
        ))}
        {edges.map((edge, i) =>
          edge.at < from - 1e-9 || edge.at > to + 1e-9 ? null : (
            <g
              key={i}
              role="slider"
              tabIndex={0}
              aria-label={edgeWords(bands, edge.ends, edge.begins)}
              aria-valuemin={0}
              aria-valuemax={100}
              aria-valuenow={Number((edge.at * 100).toFixed(2))}
              aria-valuetext={`${(edge.at * 100).toFixed(1)} % of travel; Enter takes where the lever stands`}
              transform={`translate(${x(edge.at)} ${RULER - 2})`}
              className="cursor-ew-resize"
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId)
                const left = frame.current?.getBoundingClientRect().left ?? 0
                drag.current = { index: i, besidePx: e.clientX - left - x(edge.at), fromX: e.clientX }
              }}
              onKeyDown={keyDown(i)}
            >
              <rect x={-9} y={-16} width={18} height={20} fill="transparent" />
              <path d="M-6 -11H6L0 -1z" fill="var(--ink)" />
            </g>
          ),
        )}
      </svg>
      <p className="flex flex-wrap items-center gap-1.5 text-[12px] text-ink2">
        <span className="min-w-[200px] flex-1">
          {bands.length === 0
            ? 'Without bands it gives its travel, from 0 to 1.'
            : 'Drag an edge, or focus it: arrows move it, Enter takes where the lever stands.'}
        </span>
        <button type="button" className="btn" onClick={() => zoomBy(4, here())}>
          Zoom to it
        </button>
        <button
          type="button"
          className="btn"
          disabled={view.zoom === 1}
          onClick={() => setView({ middle: 0.5, zoom: 1 })}
        >
          All of it
        </button>
      </p>
    </div>
  )
})

const edgeWords = (bands: readonly Band[], ends: number | null, begins: number | null): string => {
  const name = (i: number | null) => (i === null ? null : (bands[i]?.name ?? `band ${i + 1}`))
  const [before, after] = [name(ends), name(begins)]
  if (before !== null && after !== null) return `Where ${before} ends and ${after} begins`
  return before === null ? `Where ${after} begins` : `Where ${before} ends`
}

const BandBox = ({
  band,
  index,
  left,
  right,
}: {
  band: Band
  index: number
  left: number
  right: number
}) => {
  if (right <= left) return null
  const middle = (left + right) / 2
  const [a, b] = band.gives
  const isFlat = a === b
  const unit = band.unit ? ` ${band.unit}` : ''
  const room = right - left
  return (
    <g>
      <rect
        x={left}
        y={BOXES}
        width={room}
        height={34}
        fill="var(--raised)"
        stroke={isFlat ? 'var(--ink3)' : 'var(--accent)'}
      />
      {room > 30 && (
        <text x={middle} y={BOXES + 14} fontSize={11} textAnchor="middle" fill="var(--ink)">
          {shortened(band.name ?? `band ${index + 1}`, room)}
        </text>
      )}
      {room > 44 && (
        <text x={middle} y={BOXES + 28} fontSize={11} textAnchor="middle" className="mono" fill="var(--ink2)">
          {shortened(
            a === b ? `${formatNumber(a)}${unit}` : `${formatNumber(a)} … ${formatNumber(b)}${unit}`,
            room,
          )}
        </text>
      )}
    </g>
  )
}

/** Letters are some seven pixels wide. */
const shortened = (text: string, room: number): string => {
  const most = Math.floor(room / 7)
  return text.length <= most ? text : `${text.slice(0, Math.max(1, most - 1))}…`
}

/** How often it stood where, of what it stood at lately, as bars on the ruler. */
const trembling = (
  notes: readonly Note[],
  settings: TravelSettings,
  x: (place: number) => number,
): string => {
  const counts = new Map<number, number>()
  for (let i = Math.max(0, notes.length - 600); i < notes.length; i++) {
    const { value } = notes[i] as Note
    counts.set(value, (counts.get(value) ?? 0) + 1)
  }
  // A movement is no trembling.
  if (counts.size === 0 || counts.size > 80) return ''
  const most = Math.max(...counts.values())
  let d = ''
  for (const [value, n] of counts) {
    const at = x(travelPlace(settings, value))
    const w = Math.max(1.5, Math.abs(x(travelPlace(settings, value + 1)) - at) - 0.5)
    d += `M${(at - w / 2).toFixed(1)} ${RULER}v${((-26 * n) / most).toFixed(1)}h${w.toFixed(1)}V${RULER}z`
  }
  return d
}
