'use client'
import type { HTMLAttributes, KeyboardEvent, ReactNode, RefObject } from 'react'
import type { Surface } from '@/core/layout/things'
import { RULER_PX, Rulers } from './rulers'
import { useSurface } from './view-store'

/** How a drawing lies over the sheet, in the measure of what is drawn on: to be spread over an `svg`. */
export const useSheetLayer = () => {
  const { x, y, scale } = useSurface((s) => s.view)
  const { width, height } = useSurface((s) => s.room)
  const across = Math.max(scale, 0.01)
  return {
    className: 'pointer-events-none absolute top-0 left-0',
    // As large as the room was when its box was worked out: what is drawn never stretches while the room changes.
    width,
    height,
    viewBox: `${x} ${y} ${width / across} ${height / across}`,
  }
}

/** What is drawn on, with its rulers: it takes pointer, wheel and keys, and shows its layers once there is room for them. */
export const DrawingSheet = ({
  sheet,
  on,
  name,
  hears,
  letGo,
  put,
  children,
}: {
  sheet: RefObject<HTMLDivElement | null>
  on: Surface
  name: string
  hears: HTMLAttributes<HTMLDivElement>
  /** Lets go of what the hand holds; false where it holds nothing. */
  letGo: () => boolean
  /** With keys alone: puts what the tool holds down in the middle. */
  put: (more: boolean) => void
  children: ReactNode
}) => {
  const { view, room, tool } = useSurface()
  const keyDown = (e: KeyboardEvent) => {
    if (e.key === 'Escape' && letGo()) e.stopPropagation()
    if (e.key !== 'Enter' || tool.is === 'pick') return
    e.preventDefault()
    put(e.shiftKey)
  }
  return (
    <div className="relative h-full w-full overflow-hidden">
      <Rulers view={view} room={room} on={on} />
      <div
        ref={sheet}
        role="application"
        aria-label={`Drawing of ${name}`}
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
        {...hears}
        onKeyDown={keyDown}
        onContextMenu={(e) => e.preventDefault()}
      >
        {view.scale > 0 && children}
      </div>
    </div>
  )
}
