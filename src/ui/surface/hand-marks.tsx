'use client'
import type { RefObject } from 'react'
import type { Box } from '@/core/geometry/boxes'

/** What a hand draws while it works: the lines that things snap to, and the box that it pulls open. */
export const HandMarks = ({
  lines,
  marquee,
  scale,
}: {
  lines: RefObject<SVGPathElement | null>
  marquee: Box | null
  scale: number
}) => (
  <>
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
  </>
)
