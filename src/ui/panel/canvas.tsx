'use client'
import { memo, useMemo, useRef } from 'react'
import { kindOf } from '@/core/catalogue/own-kind'
import type { PartKind } from '@/core/catalogue/part-kind'
import { type Point, point } from '@/core/geometry/contour'
import type { FitFinding } from '@/core/layout/fit/finding'
import { type Surface, surfaceOfPanel, type Thing, thingsOn } from '@/core/layout/things'
import type { Rig } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { PlateDrawing } from '../drawing/plate-drawing'
import { PlateThings } from '../drawing/plate-things'
import { DrawingSheet, useSheetLayer } from '../surface/drawing-sheet'
import { useHand } from '../surface/hand'
import { HandMarks } from '../surface/hand-marks'
import { PickedMarks } from '../surface/picked-marks'
import { useRoom, useWheel } from '../surface/sheet-size'
import { type Tool, useSurface } from '../surface/view-store'
import { BehindDrawing } from './behind-drawing'
import { place } from './place'

interface Props {
  readonly rig: Rig
  readonly panel: PanelRow
  readonly findings: readonly FitFinding[]
}

/** The middle of what is seen of a plate, along one axis. */
const seen = (from: number, length: number, plateMm: number): number =>
  (Math.max(0, from) + Math.min(plateMm, from + length)) / 2

/** The drawing: panned, zoomed, picked from, dragged on. All in millimetres. */
export const Canvas = ({ rig, panel, findings }: Props) => {
  const { view, room, picked, tool, behind } = useSurface()
  const sheet = useRef<HTMLDivElement>(null)
  const on = useMemo(() => surfaceOfPanel(panel), [panel])
  const things = useMemo(() => thingsOn(rig, on), [rig, on])

  useRoom(sheet, on)
  useWheel(sheet)

  const { moving, lines, dragged, marquee, pointer, hears, letGo } = useHand({
    ...{ rig, on, things, sheet },
    place: (at, more) => place(rig, panel, tool, at, more),
  })

  const putInMiddle = (more: boolean) => {
    if (tool.is === 'pick') return
    // Of the plate, as far as it is seen.
    const across = seen(view.x, room.width / view.scale, panel.widthMm)
    const down = seen(view.y, room.height / view.scale, panel.heightMm)
    place(rig, panel, tool, point(across, down), more)
  }

  const { scale } = view
  const layer = useSheetLayer()
  return (
    <DrawingSheet {...{ sheet, on, hears, letGo }} name={panel.name} put={putInMiddle}>
      <svg {...layer} style={{ fontFamily: 'B612' }} aria-label={`Panel ${panel.name}`}>
        <Still rig={rig} panel={panel} on={on} without={dragged} behind={behind} />
      </svg>
      <svg
        {...layer}
        ref={moving}
        style={{ fontFamily: 'B612', willChange: dragged.size > 0 ? 'transform' : undefined }}
        aria-label="What is being moved"
      >
        {dragged.size > 0 && <Things rig={rig} things={things.filter((t) => dragged.has(t.key))} />}
      </svg>
      <svg {...layer} aria-hidden="true">
        <PickedMarks
          things={dragged.size > 0 ? [] : things.filter((t) => picked.has(t.key))}
          findings={findings}
          on={on}
          scale={scale}
        />
        <HandMarks {...{ lines, marquee, scale }} />
        {pointer && tool.is === 'part' && <Ghost size={sizeOf(tool)} at={pointer} scale={scale} />}
      </svg>
    </DrawingSheet>
  )
}

/** Everything that lies still, drawn anew only when it changes. */
const Still = memo(
  ({
    rig,
    panel,
    on,
    without,
    behind,
  }: {
    rig: Rig
    panel: PanelRow
    on: Surface
    without: ReadonlySet<string>
    behind: boolean
  }) => {
    const things = thingsOn(rig, on).filter((t) => !without.has(t.key))
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
