import Papa from 'papaparse'
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react'
import { formatValue } from '@/core/signal/format'
import { useStore } from '../live/store'
import { saveFile } from '../primitives/save-file'
import { replayTo } from '../recordings/replay-acts'
import { useChartTape } from './chart-tape'
import {
  AXIS_PX,
  type ChartLine,
  chartRows,
  drawChart,
  LABEL_PX,
  lanesOf,
  momentWords,
  type Stretch,
} from './chart-view'
import { flipPin, useScope } from './scope-store'

const LEAST_MS = 1000
const MOST_MS = 3_600_000
const FIRST_MS = 60_000
const SPANS = [
  [10_000, '10 s'],
  [60_000, '1 min'],
  [600_000, '10 min'],
  [3_600_000, '1 h'],
] as const

/** Told apart by colour and by how they are dashed. */
const strokes = [
  ['--accent', []],
  ['--warn', [7, 3]],
  ['--live', [2, 2]],
  ['--fault', [9, 3, 2, 3]],
  ['--ink', [4, 2]],
  ['--ink2', [1, 3]],
] as const

const colourOf = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim()

/** The pinned variables over time: dragged and zoomed, with what each was under the cursor. */
export const Chart = () => {
  const pinned = useScope((s) => s.pinned)
  const index = useStore((s) => s.catalogue)
  const canvas = useRef<HTMLCanvasElement>(null)
  const [span, setSpan] = useState(FIRST_MS)
  /** The right edge; null for now. */
  const [end, setEnd] = useState<number | null>(null)
  const [cursor, setCursor] = useState<number | null>(null)
  const drag = useRef<{ x: number; to: number } | null>(null)
  const infos = useMemo(
    () =>
      pinned.flatMap((name) => {
        const info = index.catalogue.variables[index.variable.get(name) ?? -1]
        return info && info.type !== 'text' ? [info] : []
      }),
    [pinned, index],
  )
  const tape = useChartTape(infos.map((i) => i.name))
  const { length } = tape
  // A recording is seen as a whole first.
  useEffect(() => {
    setSpan(length === null ? FIRST_MS : Math.min(MOST_MS, length))
    setEnd(length)
  }, [length])
  const view = useRef({ span, end, cursor, infos, tape })
  view.current = { span, end, cursor, infos, tape }

  const stretch = (): Stretch => {
    const now = tape.now()
    // What is played is followed in the middle, what goes on at the edge.
    const to = view.current.end ?? (length === null ? now : Math.min(length, now + view.current.span / 2))
    return { from: to - view.current.span, to }
  }
  const lines = (): ChartLine[] =>
    view.current.infos.flatMap((info, i) => {
      const series = view.current.tape.of(info.name)
      const [stroke, dash] = strokes[i % strokes.length] as (typeof strokes)[number]
      return series ? [{ name: info.name, series, stroke: colourOf(stroke), dash }] : []
    })

  useEffect(() => {
    let frame = 0
    const draw = () => {
      frame = requestAnimationFrame(draw)
      const there = canvas.current
      const g = there?.getContext('2d')
      if (!there || !g) return
      const [width, height] = [there.clientWidth, there.clientHeight]
      const dots = window.devicePixelRatio || 1
      if (there.width !== Math.round(width * dots) || there.height !== Math.round(height * dots)) {
        there.width = Math.round(width * dots)
        there.height = Math.round(height * dots)
      }
      g.setTransform(dots, 0, 0, dots, 0, 0)
      const lanes = lanesOf(lines(), view.current.infos)
      const playhead = length === null ? null : tape.now()
      const colours = {
        ...{ ink2: colourOf('--ink2'), ink3: colourOf('--ink3'), hair: colourOf('--hair') },
        ...{ line: colourOf('--line'), warn: colourOf('--warn'), accent: colourOf('--accent') },
      }
      drawChart(g, [width, height], lanes, stretch(), view.current.cursor, tape.notes(), colours, playhead)
    }
    draw()
    return () => cancelAnimationFrame(frame)
  })

  const timeAt = (clientX: number): number => {
    const box = canvas.current?.getBoundingClientRect()
    if (!box) return 0
    const { from, to } = stretch()
    const inner = Math.max(10, box.width - AXIS_PX - LABEL_PX)
    return from + ((clientX - box.left - AXIS_PX) / inner) * (to - from)
  }
  /** A stretch that reaches now goes on with it. */
  const show = (nextSpan: number, to: number): void => {
    const width = Math.min(MOST_MS, Math.max(LEAST_MS, nextSpan))
    setSpan(width)
    if (length === null) setEnd(to >= tape.now() ? null : to)
    else setEnd(Math.min(length, Math.max(width, to)))
  }
  const zoom = (by: number, around: number): void => {
    const { from, to } = stretch()
    const width = Math.min(MOST_MS, Math.max(LEAST_MS, (to - from) * by))
    show(width, around + ((to - around) / (to - from)) * width)
  }
  useEffect(() => {
    const there = canvas.current
    const wheel = (e: WheelEvent) => {
      e.preventDefault()
      zoom(e.deltaY > 0 ? 1.25 : 0.8, timeAt(e.clientX))
    }
    there?.addEventListener('wheel', wheel, { passive: false })
    return () => there?.removeEventListener('wheel', wheel)
  })
  const move = (e: PointerEvent) => {
    if (drag.current) {
      const box = e.currentTarget.getBoundingClientRect()
      const perPx = view.current.span / Math.max(10, box.width - AXIS_PX - LABEL_PX)
      show(view.current.span, drag.current.to - (e.clientX - drag.current.x) * perPx)
    }
    const { from, to } = stretch()
    const at = timeAt(e.clientX)
    setCursor(at >= from && at <= to ? at : null)
  }
  const keyDown = (e: KeyboardEvent) => {
    const { from, to } = stretch()
    const middle = (from + to) / 2
    if (e.key === 'ArrowLeft') show(span, to - span / 8)
    else if (e.key === 'ArrowRight') show(span, to + span / 8)
    else if (e.key === '+') zoom(0.8, middle)
    else if (e.key === '-') zoom(1.25, middle)
    else if (e.key === 'Home') setEnd(null)
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  const save = () => {
    const shown = lines()
    const rows = chartRows(shown, stretch(), length !== null)
    const text = Papa.unparse([
      [length === null ? 'time' : 'time (s)', ...shown.map((l) => l.name)],
      ...rows.map((r) => [...r]),
    ])
    saveFile('chart.csv', `${text}\n`, 'text/csv')
  }
  if (infos.length === 0)
    return (
      <p className="flex flex-1 items-start gap-3 p-3 text-ink2">
        Nothing to draw yet: pin variables in the table, with Space. Texts have no line.
        <button type="button" className="btn" onClick={() => useScope.setState({ mode: 'table' })}>
          To the table
        </button>
      </p>
    )
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-3 py-1.5">
        {infos.map((info, i) => {
          const [stroke, dash] = strokes[i % strokes.length] as (typeof strokes)[number]
          const value = tape.of(info.name)?.at(cursor ?? tape.now()) ?? Number.NaN
          return (
            <span key={info.name} data-charted={info.name} className="flex items-center gap-1.5 text-[12px]">
              <svg width={26} height={8} aria-hidden="true">
                <path
                  d="M0 4H26"
                  stroke={`var(${stroke})`}
                  strokeWidth={2}
                  strokeDasharray={dash.join(' ')}
                />
              </svg>
              <span className="mono">{info.name}</span>
              <span className="mono min-w-[70px] text-live">
                {formatValue(Number.isNaN(value) ? null : value, info)}
              </span>
              <button
                type="button"
                aria-label={`Take ${info.name} out`}
                className="px-1 text-ink3 hover:text-ink"
                onClick={() => flipPin(info.name)}
              >
                ×
              </button>
            </span>
          )
        })}
        <span className="mono ml-auto text-[12px] text-ink2">
          {cursor === null ? '' : momentWords(cursor, length !== null)}
        </span>
      </div>
      <div
        // biome-ignore lint/a11y/noNoninteractiveTabindex: its keys pan and zoom
        tabIndex={0}
        role="application"
        aria-label={`Chart of ${infos.map((i) => i.name).join(', ')}`}
        className="min-h-0 flex-1 cursor-crosshair touch-none pt-2 outline-offset-[-2px]"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId)
          drag.current = { x: e.clientX, to: stretch().to }
        }}
        onPointerMove={move}
        onPointerUp={() => {
          drag.current = null
        }}
        onDoubleClick={(e) => {
          if (length !== null) replayTo(timeAt(e.clientX))
        }}
        onPointerLeave={() => setCursor(null)}
        onKeyDown={keyDown}
      >
        <canvas ref={canvas} className="h-full w-full" />
      </div>
      <div className="flex items-center gap-1.5 border-t border-line px-3 py-2">
        {SPANS.map(([ms, words]) => (
          <button
            key={ms}
            type="button"
            className={`btn ${span === ms ? 'border-accent bg-accent-bg text-accent' : ''}`}
            aria-pressed={span === ms}
            onClick={() => setSpan(ms)}
          >
            {words}
          </button>
        ))}
        <button
          type="button"
          className="btn"
          data-strong={end !== null}
          disabled={end === null}
          onClick={() => setEnd(null)}
        >
          Now <span className="key">Home</span>
        </button>
        <span className="ml-2 text-[12px] text-ink2">
          Wheel or + and − zoom, dragging or arrows pan ·{' '}
          {length !== null && 'double click plays from there · '}
          {end === null ? 'runs with the time' : 'stands still'}
        </span>
        <button type="button" className="btn ml-auto" onClick={save}>
          Save what is shown
        </button>
      </div>
    </div>
  )
}
