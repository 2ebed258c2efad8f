import type { PointerEvent, RefObject } from 'react'
import type { PositionsAspect } from '@/core/catalogue/part-kind'
import type { PartRow } from '@/core/rig/rows'

/** The point under the pointer in the part's own millimetres. */
export const underPointer = (
  svg: RefObject<SVGGElement | null>,
  e: PointerEvent | WheelEvent,
): { x: number; y: number } => {
  const matrix = svg.current?.getScreenCTM()
  if (!matrix) return { x: 0, y: 0 }
  const { x, y } = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix.inverse())
  return { x, y }
}

export const positionWords = (part: PartRow, position: string | null): string =>
  position === null ? 'not heard yet' : (part.settings.labels?.[position] ?? position)

/** Positions as they lie on the part, from below or from the left. */
export const inPlace = (aspect: PositionsAspect): readonly string[] => {
  const ids = aspect.positions.map((p) => p.id)
  const upright = ['down', 'middle', 'off', 'up'].filter((id) => ids.includes(id))
  return upright.length === ids.length ? upright : ids
}
