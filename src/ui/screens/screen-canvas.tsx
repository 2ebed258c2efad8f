'use client'
import { useMemo, useRef } from 'react'
import { point } from '@/core/geometry/contour'
import { handles, placeOfHandle } from '@/core/layout/sized'
import { isLocked, surfaceOfPage, thingsOn } from '@/core/layout/things'
import type { Rig } from '@/core/rig/rig'
import type { ElementRow, ScreenRow } from '@/core/rig/rows'
import type { ScreenView } from '../../screen/screen-view'
import { DrawingSheet, useSheetLayer } from '../surface/drawing-sheet'
import { useHand } from '../surface/hand'
import { HandMarks } from '../surface/hand-marks'
import { PickedMarks } from '../surface/picked-marks'
import { useRoom, useWheel } from '../surface/sheet-size'
import { useSurface } from '../surface/view-store'
import { placeElement } from './new-screen'
import { ScreenDrawing } from './screen-drawing'
import { useSamples } from './use-samples'

/** A page of a screen to be drawn on, dot by dot, with the hands that panels are drawn with. */
export const ScreenCanvas = ({
  rig,
  screen,
  pageId,
}: {
  rig: Rig
  screen: ScreenRow
  pageId: string | null
}) => {
  const { view, picked, tool } = useSurface()
  const sheet = useRef<HTMLDivElement>(null)
  const drawing = useRef<ScreenView | null>(null)
  const on = useMemo(() => surfaceOfPage(screen, pageId), [screen, pageId])
  const things = useMemo(() => thingsOn(rig, on), [rig, on])
  const samples = useSamples(rig, screen.id, picked)
  useRoom(sheet, on)
  useWheel(sheet)
  const put = (at: { x: number; y: number }, more: boolean) => {
    if (tool.is === 'element') placeElement(rig, screen, pageId, tool.kind, at, more)
  }
  const held = useRef<readonly string[]>([])
  const { lines, dragged, marquee, hears, letGo } = useHand({
    ...{ rig, on, things, sheet, place: put },
    hold: (at) => {
      for (const id of held.current) if (!at?.has(id)) drawing.current?.hold(id, null)
      for (const [id, where] of at ?? []) drawing.current?.hold(id, where)
      held.current = [...(at?.keys() ?? [])]
    },
  })
  const { scale } = view
  const layer = useSheetLayer()
  const pickedThings = dragged.size > 0 ? [] : things.filter((t) => picked.has(t.key))
  const [only, more] = pickedThings
  return (
    <DrawingSheet
      {...{ sheet, on, hears, letGo }}
      name={screen.name}
      put={(again) => put(point(screen.widthPx / 2, screen.heightPx / 2), again)}
    >
      <svg {...layer} aria-label={`Page of ${screen.name}`}>
        <rect x={-8} y={-8} width={screen.widthPx + 16} height={screen.heightPx + 16} rx={6} fill="#1a2124" />
        <ScreenDrawing
          screenId={screen.id}
          {...{ x: 0, y: 0, width: screen.widthPx, height: screen.heightPx }}
          pageId={pageId}
          samples={samples}
          take={(v) => {
            drawing.current = v
          }}
        />
      </svg>
      <svg {...layer} aria-hidden="true">
        <PickedMarks things={pickedThings} findings={[]} on={on} scale={scale} />
        {only?.table === 'element' && !more && !isLocked(only) && <Handles row={only.row} px={1 / scale} />}
        <HandMarks {...{ lines, marquee, scale }} />
      </svg>
    </DrawingSheet>
  )
}

/** By these the one picked element is made larger. */
const Handles = ({ row, px }: { row: ElementRow; px: number }) => (
  <>
    {handles.map((h) => {
      if ((row.height === 0 && h.sy !== 0) || (row.width === 0 && h.sx !== 0)) return null
      const at = placeOfHandle(row, h)
      return (
        <rect
          key={`${h.sx}${h.sy}`}
          x={at.x - 3.5 * px}
          y={at.y - 3.5 * px}
          width={7 * px}
          height={7 * px}
          fill="#20282b"
          stroke="#ffd9a8"
          strokeWidth={1.4 * px}
        />
      )
    })}
  </>
)
