'use client'
import { type KeyboardEvent, type PointerEvent, type ReactNode, type Ref, useEffect, useRef } from 'react'
import type { PartKind } from '@/core/catalogue/part-kind'
import type { PartRow } from '@/core/rig/rows'
import { select } from '../live/connection'

export interface WorkProps {
  readonly part: PartRow
  readonly kind: PartKind
  /** Whether controls can be worked here, or parts only chosen. */
  readonly operable: boolean
}

interface Props {
  readonly part: PartRow
  readonly aspectId: string
  /** Half the width and height of what can be touched. */
  readonly reach: { readonly x: number; readonly y: number }
  readonly round?: boolean
  readonly label: string
  readonly role: Record<string, string | number | boolean>
  readonly on?: {
    readonly onPointerDown?: (e: PointerEvent) => void
    readonly onPointerMove?: (e: PointerEvent) => void
    readonly onPointerUp?: (e: PointerEvent) => void
    readonly onKeyDown?: (e: KeyboardEvent) => void
    readonly onKeyUp?: (e: KeyboardEvent) => void
    readonly onBlur?: () => void
    /** It, or the page, goes away under the hand: nobody would hear that it is let go. */
    readonly onGone?: () => void
  }
  readonly ref?: Ref<SVGGElement>
  readonly children: ReactNode
}

/** Something on the panel that takes the focus, the pointer and keys, and shows that it has the focus. */
export const Worked = ({
  part,
  aspectId,
  reach,
  round = false,
  label,
  role,
  on: { onGone, ...on } = {},
  ref,
  children,
}: Props) => {
  const gone = useRef(onGone)
  gone.current = onGone
  useEffect(() => {
    const leave = () => gone.current?.()
    addEventListener('pagehide', leave)
    return () => {
      removeEventListener('pagehide', leave)
      leave()
    }
  }, [])
  const area = {
    x: -reach.x,
    y: -reach.y,
    width: reach.x * 2,
    height: reach.y * 2,
    ...(round ? { rx: reach.x } : {}),
  }
  return (
    // biome-ignore lint/a11y/useSemanticElements: a part of a drawing cannot be a form element
    <g
      ref={ref}
      role="button"
      {...role}
      aria-label={label}
      data-aspect={aspectId}
      tabIndex={0}
      className="worked cursor-pointer"
      style={{ touchAction: 'none' }}
      onFocus={() => select(part.id)}
      {...on}
      onPointerDown={(e) => {
        select(part.id)
        on.onPointerDown?.(e)
      }}
      onPointerCancel={on.onPointerUp}
    >
      <rect {...area} fill="transparent" />
      <rect
        className="focus-ring"
        pointerEvents="none"
        x={area.x - 1.2}
        y={area.y - 1.2}
        width={area.width + 2.4}
        height={area.height + 2.4}
        rx={round ? reach.x + 1.2 : 0}
        fill="none"
        stroke="#cfe8f3"
        strokeWidth={0.5}
      />
      {children}
    </g>
  )
}
