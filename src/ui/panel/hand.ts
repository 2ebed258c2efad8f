import { type PointerEvent, type RefObject, useRef, useState } from 'react'
import { type Box, boxOf, isWithin } from '@/core/geometry/boxes'
import { type Point, point } from '@/core/geometry/contour'
import { moved } from '@/core/layout/arrange'
import { type SnapLine, snap } from '@/core/layout/snap'
import { canMove, isLocked, type Thing, thingAt, unionOf, withTied } from '@/core/layout/things'
import type { Rig } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { nameOf } from './commands'
import { place } from './place'
import { pick, usePanelView, type View } from './view-store'

const SNAP_PX = 6
const DRAG_PX = 4

/** What the mouse is about between press and release. */
type Hand =
  | { readonly is: 'pan'; readonly from: Point; readonly view: View }
  | { readonly is: 'drag'; readonly from: Point; readonly keys: ReadonlySet<string>; readonly box: Box }
  | { readonly is: 'frame'; readonly from: Point; readonly add: boolean }

interface Surroundings {
  readonly rig: Rig
  readonly panel: PanelRow
  readonly things: readonly Thing[]
  readonly sheet: RefObject<HTMLDivElement | null>
}

/** The mouse on the drawing: picking, drawing a frame round several, dragging with snapping, panning, putting down. */
export const useHand = ({ rig, panel, things, sheet }: Surroundings) => {
  const { view, picked, tool, gridMm } = usePanelView()
  /** The sheet of what is dragged is moved as a whole, and lines that were snapped to are shown, without React. */
  const moving = useRef<SVGSVGElement>(null)
  const lines = useRef<SVGPathElement>(null)
  const hand = useRef<Hand | null>(null)
  const [dragged, setDragged] = useState<ReadonlySet<string>>(new Set())
  const [marquee, setMarquee] = useState<Box | null>(null)
  const [pointer, setPointer] = useState<Point | null>(null)

  const toPixels = (e: { clientX: number; clientY: number }): Point => {
    const box = sheet.current?.getBoundingClientRect()
    return point(e.clientX - (box?.left ?? 0), e.clientY - (box?.top ?? 0))
  }
  const toMm = (e: { clientX: number; clientY: number }): Point => {
    const p = toPixels(e)
    return point(view.x + p.x / view.scale, view.y + p.y / view.scale)
  }

  const down = (e: PointerEvent) => {
    // Before anything is drawn there is nowhere to put anything.
    if (view.scale <= 0) return
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
    if (!own.some(canMove)) return
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
      const others = things.filter((t) => !h.keys.has(t.key)).map((t) => t.box)
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
      const inside = things.filter((t) => isWithin(t.box, box)).map((t) => t.key)
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

  /** Forgets what was begun; true when there was something. */
  const letGo = (): boolean => {
    const had = hand.current !== null
    hand.current = null
    setMarquee(null)
    setDragged(new Set())
    showDrag(0, 0, [])
    return had
  }

  const on = {
    onPointerDown: down,
    onPointerMove: move,
    onPointerUp: up,
    onPointerCancel: letGo,
    onPointerLeave: () => setPointer(null),
  }
  return { moving, lines, dragged, marquee, pointer, on, letGo }
}
