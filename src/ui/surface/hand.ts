import { type PointerEvent, type RefObject, useRef, useState } from 'react'
import { type Box, boxOf, isWithin } from '@/core/geometry/boxes'
import { type Point, point } from '@/core/geometry/contour'
import { moved } from '@/core/layout/arrange'
import { type Handle, handleAt, sizedBy } from '@/core/layout/sized'
import { type SnapLine, snap } from '@/core/layout/snap'
import { canMove, isLocked, type Surface, type Thing, thingAt, unionOf, withTied } from '@/core/layout/things'
import { changeRow } from '@/core/rig/edit'
import type { Rig } from '@/core/rig/rig'
import type { ElementRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { nameOf } from './commands'
import { pick, useSurface, type View } from './view-store'

const SNAP_PX = 6
const DRAG_PX = 4
const HANDLE_PX = 7

const nothing: ReadonlySet<string> = new Set()

/** What the mouse is about between press and release. */
type Hand =
  | { readonly is: 'pan'; readonly from: Point; readonly view: View }
  | { readonly is: 'drag'; readonly from: Point; readonly keys: ReadonlySet<string>; readonly box: Box }
  | { readonly is: 'frame'; readonly from: Point; readonly add: boolean }
  | { readonly is: 'size'; readonly from: Point; readonly row: ElementRow; readonly handle: Handle }

/** Where an element is held, in dots. */
export type Held = Partial<Pick<ElementRow, 'x' | 'y' | 'width' | 'height'>>

interface Surroundings {
  readonly rig: Rig
  readonly on: Surface
  readonly things: readonly Thing[]
  readonly sheet: RefObject<HTMLDivElement | null>
  /** Shows elements where they are held, or, with null, where they are set; without it a sheet of its own is moved. */
  readonly hold?: (at: ReadonlyMap<string, Held> | null) => void
  /** Puts what the tool holds down; with `more` the tool stays in hand. */
  readonly place: (at: Point, more: boolean) => void
}

/** The mouse on the drawing: picking, drawing a frame round several, dragging with snapping, panning, putting down. */
export const useHand = ({ rig, on, things, sheet, hold, place }: Surroundings) => {
  const { view, picked, tool, gridMm, gridPx } = useSurface()
  /** The sheet of what is dragged is moved as a whole, and lines that were snapped to are shown, without React. */
  const moving = useRef<SVGSVGElement>(null)
  const lines = useRef<SVGPathElement>(null)
  const hand = useRef<Hand | null>(null)
  /** Whether the pointer has gone so far that a press is a drag: from then on it is one, wherever it goes. */
  const gone = useRef(false)
  /** What is dragged, as soon as it is; a quick hand lets go before React has drawn anything of it. */
  const dragging = useRef<ReadonlySet<string>>(nothing)
  const [dragged, setDragged] = useState(nothing)
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
    gone.current = false
    const at = toMm(e)
    if (e.button === 1 || e.button === 2) {
      hand.current = { is: 'pan', from: toPixels(e), view }
      return
    }
    if (e.button !== 0) return
    if (tool.is !== 'pick') {
      place(at, e.shiftKey)
      return
    }
    const sized = handleUnder(at)
    if (sized) {
      hand.current = { is: 'size', from: at, ...sized }
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
    const { picked: now } = useSurface.getState()
    const own = withTied(things, now).filter((t) => !isLocked(t))
    if (!own.some(canMove)) return
    hand.current = {
      is: 'drag',
      from: at,
      keys: new Set(own.map((t) => t.key)),
      box: unionOf(own.filter((t) => now.has(t.key)).map((t) => t.box)),
    }
  }

  /** The handle of the one picked element that lies under the pointer. */
  const handleUnder = (at: Point): { row: ElementRow; handle: Handle } | null => {
    const [only, more] = things.filter((t) => picked.has(t.key))
    if (only?.table !== 'element' || more || isLocked(only)) return null
    const handle = handleAt(only.row, at, HANDLE_PX / view.scale)
    return handle ? { row: only.row, handle } : null
  }

  /** As large as the hand wants it: to whole dots, and to what others keep. */
  const sizeTo = (h: Extract<Hand, { is: 'size' }>, e: PointerEvent) => {
    const at = toMm(e)
    const { row, handle } = h
    const [dx, dy] = [at.x - h.from.x, at.y - h.from.y]
    const free = sizedBy(row, handle, dx, dy, e.shiftKey)
    if (e.altKey || row.angle !== 0) return { to: free, found: [] as readonly SnapLine[] }
    const edge = (low: number, length: number, side: number) =>
      side === 0 ? [low, low + length] : side < 0 ? [low, low] : [low + length, low + length]
    const [minX = 0, maxX = 0] = edge(free.x, free.width, handle.sx)
    const [minY = 0, maxY = 0] = edge(free.y, free.height, handle.sy)
    const caught = snap(
      { minX, maxX, minY, maxY },
      {
        others: things.filter((t) => t.row.id !== row.id).map((t) => t.box),
        ...{ surface: on, guides: on.guides, grid: gridPx, gridFor: 'corner', within: SNAP_PX / view.scale },
      },
    )
    const by = (side: number, moved: number, snapped: number, start: number) =>
      side === 0 ? moved : Math.round(start + moved + snapped) - start
    const to = sizedBy(
      row,
      handle,
      by(handle.sx, dx, caught.dx, h.from.x),
      by(handle.sy, dy, caught.dy, h.from.y),
      e.shiftKey,
    )
    // Sides lie between dots.
    const whole = e.shiftKey
      ? to
      : {
          x: Math.round(to.x),
          y: Math.round(to.y),
          width: Math.round(to.width),
          height: Math.round(to.height),
        }
    return {
      to: whole,
      found: caught.lines.filter((l) => (l.from.x === l.to.x ? handle.sx !== 0 : handle.sy !== 0)),
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
        surface: on,
        guides: on.guides,
        grid: on.of === 'panel' ? gridMm : gridPx,
        gridFor: on.of === 'panel' ? 'middle' : 'corner',
        within: SNAP_PX / view.scale,
      })
      if (dx !== 0) dx += caught.dx
      if (dy !== 0) dy += caught.dy
      found = caught.lines
    }
    // On a screen edges lie between dots.
    if (on.of === 'page' && dx !== 0) dx = Math.round(h.box.minX + dx) - h.box.minX
    if (on.of === 'page' && dy !== 0) dy = Math.round(h.box.minY + dy) - h.box.minY
    return { dx, dy, found }
  }

  const showDrag = (dx: number, dy: number, found: readonly SnapLine[]) => {
    if (hold) {
      const own = things.filter((t) => t.table === 'element' && dragging.current.has(t.key))
      hold(
        dx === 0 && dy === 0
          ? null
          : new Map(
              own.flatMap((t) =>
                t.table === 'element' ? [[t.row.id, { x: t.row.x + dx, y: t.row.y + dy }]] : [],
              ),
            ),
      )
    } else if (moving.current)
      moving.current.style.transform = `translate(${dx * view.scale}px, ${dy * view.scale}px)`
    showLines(found)
  }

  const showLines = (found: readonly SnapLine[]) =>
    lines.current?.setAttribute(
      'd',
      found.map((l) => `M${l.from.x} ${l.from.y}L${l.to.x} ${l.to.y}`).join(''),
    )

  const move = (e: PointerEvent) => {
    if (tool.is !== 'pick') setPointer(toMm(e))
    const h = hand.current
    if (!h) return
    if (h.is === 'pan') {
      const p = toPixels(e)
      useSurface.setState({
        view: {
          ...h.view,
          x: h.view.x - (p.x - h.from.x) / h.view.scale,
          y: h.view.y - (p.y - h.from.y) / h.view.scale,
        },
      })
    } else if (h.is === 'frame') setMarquee(boxOf([h.from, toMm(e)]))
    else if (h.is === 'size') {
      if (!hasGone(h.from, e)) return
      const { to, found } = sizeTo(h, e)
      hold?.(new Map([[h.row.id, to]]))
      showLines(found)
    } else {
      const { dx, dy, found } = dragTo(h, e)
      if (isDrag(h, e)) showDrag(dx, dy, found)
    }
  }

  /** By the pointer itself, not by what snaps. */
  const hasGone = (from: Point, e: PointerEvent): boolean => {
    const at = toMm(e)
    gone.current ||= Math.hypot(at.x - from.x, at.y - from.y) * view.scale >= DRAG_PX
    return gone.current
  }
  const isDrag = (h: Extract<Hand, { is: 'drag' }>, e: PointerEvent): boolean => {
    if (!hasGone(h.from, e)) return false
    if (dragging.current !== h.keys) {
      dragging.current = h.keys
      setDragged(h.keys)
    }
    return true
  }
  const endDrag = () => {
    showDrag(0, 0, [])
    dragging.current = nothing
    setDragged(nothing)
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
    if (h.is === 'size') {
      const { to } = sizeTo(h, e)
      hold?.(null)
      showLines([])
      if (!hasGone(h.from, e)) return
      edit(`Changed the size of “${h.row.name}”`, [changeRow('element', h.row, { ...h.row, ...to })])
      return
    }
    const { dx, dy } = dragTo(h, e)
    if (!isDrag(h, e)) return
    endDrag()
    const own = things.filter((t) => h.keys.has(t.key))
    edit(
      `Moved ${nameOf(own.filter((t) => picked.has(t.key)))}`,
      moved(rig, on, new Map(own.map((t) => [t.key, { dx, dy }]))),
    )
  }

  /** Forgets what was begun; true when there was something. */
  const letGo = (): boolean => {
    const had = hand.current !== null
    hand.current = null
    setMarquee(null)
    hold?.(null)
    endDrag()
    return had
  }

  const hears = {
    onPointerDown: down,
    onPointerMove: move,
    onPointerUp: up,
    onPointerCancel: letGo,
    onPointerLeave: () => setPointer(null),
  }
  return { moving, lines, dragged, marquee, pointer, hears, letGo }
}
