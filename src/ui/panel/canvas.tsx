'use client'
import { type KeyboardEvent, memo, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react'
import { kindOf } from '@/core/catalogue/own-kind'
import type { PartKind } from '@/core/catalogue/part-kind'
import { moved } from '@/core/layout/arrange'
import { type Box, boxOf, type Point, point } from '@/core/layout/contour'
import type { FitFinding } from '@/core/layout/fit'
import { type SnapLine, snap } from '@/core/layout/snap'
import { isLocked, type Thing, thingAt, thingsOf, unionOf } from '@/core/layout/things'
import type { Rig } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { PlateDrawing } from '../drawing/plate-drawing'
import { PlateThings } from '../drawing/plate-things'
import { edit } from '../live/edits'
import { BehindDrawing } from './behind-drawing'
import { nameOf } from './commands'
import { PickedMarks } from './picked-marks'
import { place } from './place'
import { RULER_PX, Rulers } from './rulers'
import { fitView, pick, type Tool, usePanelView, type View, zoom } from './view-store'

const SNAP_PX = 6
const DRAG_PX = 4

interface Props {
  readonly rig: Rig
  readonly panel: PanelRow
  readonly findings: readonly FitFinding[]
}

type Hand =
  | { readonly is: 'pan'; readonly from: Point; readonly view: View }
  | { readonly is: 'drag'; readonly from: Point; readonly keys: ReadonlySet<string>; readonly box: Box }
  | { readonly is: 'frame'; readonly from: Point; readonly add: boolean }

/** The drawing: panned, zoomed, picked from, dragged on. All in millimetres. */
export const Canvas = ({ rig, panel, findings }: Props) => {
  const { view, room, picked, tool, behind, gridMm } = usePanelView()
  const sheet = useRef<HTMLDivElement>(null)
  const moving = useRef<SVGSVGElement>(null)
  const lines = useRef<SVGPathElement>(null)
  const hand = useRef<Hand | null>(null)
  const [dragged, setDragged] = useState<ReadonlySet<string>>(new Set())
  const [marquee, setMarquee] = useState<Box | null>(null)
  const [pointer, setPointer] = useState<Point | null>(null)
  const things = useMemo(() => thingsOf(rig, panel), [rig, panel])

  useRoom(sheet, panel)
  useWheel(sheet)

  const toPixels = (e: { clientX: number; clientY: number }): Point => {
    const box = sheet.current?.getBoundingClientRect()
    return point(e.clientX - (box?.left ?? 0), e.clientY - (box?.top ?? 0))
  }
  const toMm = (e: { clientX: number; clientY: number }): Point => {
    const p = toPixels(e)
    return point(view.x + p.x / view.scale, view.y + p.y / view.scale)
  }

  const down = (e: PointerEvent) => {
    sheet.current?.focus()
    e.currentTarget.setPointerCapture(e.pointerId)
    const at = toMm(e)
    if (e.button === 1 || e.button === 2) {
      hand.current = { is: 'pan', from: toPixels(e), view }
      return
    }
    if (e.button !== 0) return
    if (tool.is !== 'pick') {
      place(rig, panel, tool, at, e.shiftKey)
      return
    }
    const hit = thingAt(things, rig, at, 4 / view.scale)
    if (!hit) {
      hand.current = { is: 'frame', from: at, add: e.shiftKey }
      if (!e.shiftKey) pick(new Set())
      return
    }
    if (e.shiftKey) {
      const next = new Set(picked)
      if (!next.delete(hit.key)) next.add(hit.key)
      pick(next)
    } else if (!picked.has(hit.key)) pick(new Set([hit.key]))
    const { picked: now } = usePanelView.getState()
    const own = withTied(things, now).filter((t) => !isLocked(t))
    if (own.length === 0) return
    hand.current = {
      is: 'drag',
      from: at,
      keys: new Set(own.map((t) => t.key)),
      box: unionOf(own.filter((t) => now.has(t.key)).map((t) => t.box)),
    }
  }

  const dragTo = (h: Extract<Hand, { is: 'drag' }>, e: PointerEvent) => {
    const at = toMm(e)
    let [dx, dy] = [at.x - h.from.x, at.y - h.from.y]
    if (e.shiftKey) {
      if (Math.abs(dx) > Math.abs(dy)) dy = 0
      else dx = 0
    }
    let found: readonly SnapLine[] = []
    if (!e.altKey) {
      const others = things.filter((t) => !h.keys.has(t.key) && t.table === 'part').map((t) => t.box)
      const box = {
        minX: h.box.minX + dx,
        maxX: h.box.maxX + dx,
        minY: h.box.minY + dy,
        maxY: h.box.maxY + dy,
      }
      const caught = snap(box, {
        others,
        panel,
        guides: panel.settings.guides ?? [],
        gridMm,
        withinMm: SNAP_PX / view.scale,
      })
      if (dx !== 0) dx += caught.dx
      if (dy !== 0) dy += caught.dy
      found = caught.lines
    }
    return { dx, dy, found }
  }

  const showDrag = (dx: number, dy: number, found: readonly SnapLine[]) => {
    if (moving.current)
      moving.current.style.transform = `translate(${dx * view.scale}px, ${dy * view.scale}px)`
    lines.current?.setAttribute(
      'd',
      found.map((l) => `M${l.from.x} ${l.from.y}L${l.to.x} ${l.to.y}`).join(''),
    )
  }

  const move = (e: PointerEvent) => {
    if (tool.is !== 'pick') setPointer(toMm(e))
    const h = hand.current
    if (!h) return
    if (h.is === 'pan') {
      const p = toPixels(e)
      usePanelView.setState({
        view: {
          ...h.view,
          x: h.view.x - (p.x - h.from.x) / h.view.scale,
          y: h.view.y - (p.y - h.from.y) / h.view.scale,
        },
      })
    } else if (h.is === 'frame') setMarquee(boxOf([h.from, toMm(e)]))
    else {
      const { dx, dy, found } = dragTo(h, e)
      if (dragged.size === 0) {
        if (Math.hypot(dx, dy) * view.scale < DRAG_PX) return
        setDragged(h.keys)
      }
      showDrag(dx, dy, found)
    }
  }

  const up = (e: PointerEvent) => {
    const h = hand.current
    hand.current = null
    setMarquee(null)
    if (!h || h.is === 'pan') return
    if (h.is === 'frame') {
      const box = boxOf([h.from, toMm(e)])
      if ((box.maxX - box.minX) * view.scale < DRAG_PX) return
      const inside = things.filter((t) => within(t.box, box)).map((t) => t.key)
      pick(new Set([...(h.add ? picked : []), ...inside]))
      return
    }
    if (dragged.size === 0) return
    const { dx, dy } = dragTo(h, e)
    showDrag(0, 0, [])
    setDragged(new Set())
    const own = things.filter((t) => h.keys.has(t.key))
    edit(
      `Moved ${nameOf(own.filter((t) => picked.has(t.key)))}`,
      moved(rig, panel, new Map(own.map((t) => [t.key, { dx, dy }]))),
    )
  }

  /** With keys alone, what the tool holds is put down in the middle of what is seen. */
  const putInMiddle = (e: KeyboardEvent) => {
    if (e.key !== 'Enter' || tool.is === 'pick') return
    e.preventDefault()
    const middle = point(view.x + room.width / 2 / view.scale, view.y + room.height / 2 / view.scale)
    place(rig, panel, tool, middle, e.shiftKey)
  }

  const { x, y, scale } = view
  const box = `${x} ${y} ${room.width / Math.max(scale, 0.01)} ${room.height / Math.max(scale, 0.01)}`
  const layer = 'pointer-events-none absolute inset-0 h-full w-full'
  return (
    <div className="relative h-full w-full overflow-hidden">
      <Rulers view={view} room={room} panel={panel} />
      <div
        ref={sheet}
        role="application"
        aria-label={`Drawing of ${panel.name}`}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: keys move what is picked
        tabIndex={0}
        className="absolute overflow-hidden outline-none"
        style={{
          top: RULER_PX,
          left: RULER_PX,
          right: 0,
          bottom: 0,
          cursor: tool.is === 'pick' ? 'default' : 'crosshair',
          touchAction: 'none',
        }}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={up}
        onPointerLeave={() => setPointer(null)}
        onKeyDown={putInMiddle}
        onContextMenu={(e) => e.preventDefault()}
      >
        {scale > 0 && (
          <>
            <svg
              className={layer}
              viewBox={box}
              style={{ fontFamily: 'B612' }}
              aria-label={`Panel ${panel.name}`}
            >
              <Sheet rig={rig} panel={panel} without={dragged} behind={behind} />
            </svg>
            <svg
              ref={moving}
              className={layer}
              viewBox={box}
              style={{ fontFamily: 'B612', willChange: dragged.size > 0 ? 'transform' : undefined }}
              aria-label="What is being moved"
            >
              {dragged.size > 0 && <Things rig={rig} things={things.filter((t) => dragged.has(t.key))} />}
            </svg>
            <svg className={layer} viewBox={box} aria-hidden="true">
              <PickedMarks
                things={dragged.size > 0 ? [] : things.filter((t) => picked.has(t.key))}
                findings={findings}
                panel={panel}
                scale={scale}
              />
              <path ref={lines} fill="none" stroke="#ffd9a8" strokeWidth={1.2 / scale} />
              {marquee && (
                <rect
                  x={marquee.minX}
                  y={marquee.minY}
                  width={marquee.maxX - marquee.minX}
                  height={marquee.maxY - marquee.minY}
                  fill="var(--accent)"
                  fillOpacity={0.12}
                  stroke="var(--accent)"
                  strokeWidth={1 / scale}
                />
              )}
              {pointer && tool.is === 'part' && <Ghost size={sizeOf(tool)} at={pointer} scale={scale} />}
            </svg>
          </>
        )}
      </div>
    </div>
  )
}

/** Everything that lies still, drawn anew only when it changes. */
const Sheet = memo(
  ({
    rig,
    panel,
    without,
    behind,
  }: {
    rig: Rig
    panel: PanelRow
    without: ReadonlySet<string>
    behind: boolean
  }) => {
    const things = thingsOf(rig, panel).filter((t) => !without.has(t.key))
    return (
      <>
        <PlateDrawing panel={panel} />
        <g opacity={behind ? 0.35 : 1}>
          <Things rig={rig} things={things} />
        </g>
        {behind && <BehindDrawing rig={rig} panel={panel} />}
      </>
    )
  },
)

const Things = ({ rig, things }: { rig: Rig; things: readonly Thing[] }) => (
  <PlateThings
    rig={rig}
    legends={things.flatMap((t) => (t.table === 'legend' ? [t.row] : []))}
    parts={things.flatMap((t) => (t.table === 'part' ? [t.row] : []))}
    selected={null}
    operable={false}
  />
)

const sizeOf = ({ kind, own }: Extract<Tool, { is: 'part' }>): PartKind['frontMm'] | undefined =>
  kindOf({ kind, settings: { own } })?.frontMm

/** What is about to be put down. */
const Ghost = ({ size, at, scale }: { size: PartKind['frontMm'] | undefined; at: Point; scale: number }) => {
  if (!size) return null
  return (
    <rect
      x={at.x - size.width / 2}
      y={at.y - size.height / 2}
      width={size.width}
      height={size.height}
      fill="none"
      stroke="#ffd9a8"
      strokeWidth={1.2 / scale}
      strokeDasharray={`${4 / scale} ${3 / scale}`}
    />
  )
}

const within = (inner: Box, outer: Box): boolean =>
  inner.minX >= outer.minX && inner.maxX <= outer.maxX && inner.minY >= outer.minY && inner.maxY <= outer.maxY

/** The picked things, with the legends of picked parts. */
const withTied = (things: readonly Thing[], picked: ReadonlySet<string>): Thing[] => {
  const parts = new Set(things.filter((t) => t.table === 'part' && picked.has(t.key)).map((t) => t.row.id))
  return things.filter((t) => picked.has(t.key) || (t.table === 'legend' && parts.has(t.row.partId ?? '')))
}

/** Knows how large the drawing is, and shows the whole panel when it is opened or changed. */
const useRoom = (element: React.RefObject<HTMLDivElement | null>, panel: PanelRow): void => {
  const shown = useRef('')
  const latest = useRef(panel)
  latest.current = panel
  useEffect(() => {
    const { current } = element
    if (!current) return
    const seen = new ResizeObserver(() => {
      const room = { width: current.clientWidth, height: current.clientHeight }
      if (shown.current === '') fitView(latest.current, room)
      else usePanelView.setState({ room })
      shown.current = latest.current.id
    })
    seen.observe(current)
    return () => seen.disconnect()
  }, [element])
  useEffect(() => {
    if (shown.current !== '' && shown.current !== panel.id) {
      shown.current = panel.id
      fitView(panel)
      usePanelView.setState({ picked: new Set() })
    }
  }, [panel])
}

/** The wheel zooms at the pointer, with Shift it pans. React listens passively, so this listens itself. */
const useWheel = (element: React.RefObject<HTMLDivElement | null>): void => {
  useEffect(() => {
    const { current } = element
    if (!current) return
    const wheel = (e: WheelEvent) => {
      e.preventDefault()
      const box = current.getBoundingClientRect()
      if (e.shiftKey) {
        usePanelView.setState(({ view }) => ({
          view: { ...view, x: view.x + e.deltaX / view.scale, y: view.y + e.deltaY / view.scale },
        }))
      } else zoom(1.0015 ** -e.deltaY, e.clientX - box.left, e.clientY - box.top)
    }
    current.addEventListener('wheel', wheel, { passive: false })
    return () => current.removeEventListener('wheel', wheel)
  }, [element])
}
