import type { PointerEvent, RefObject } from 'react'
import type { PositionsAspect } from '@/core/catalogue/part-kind'
import type { PartRow } from '@/core/rig/rows'
import type { Millis } from '@/core/units-of-measure'

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

/** What a hand asked for counts for so long, however slowly the contacts tell of it; then only they do. */
export const LONGEST_ON_ITS_WAY_MS = 3000

/**
 * Where the hand on a switch is or is on its way to: keys and clicks can be quicker than the contacts tell of them. As soon
 * as those tell what nobody asked for here, another hand was on it.
 */
export class Heading {
  private asked: string[] = []
  private askedAt: Millis = 0
  private told: string | null = null

  ask(position: string, now: Millis): void {
    this.asked.push(position)
    this.askedAt = now
  }

  /** Where it is headed for, given what the contacts tell. */
  from(pose: string | null, now: Millis): string | null {
    if (pose !== null && pose !== this.told) {
      const place = this.asked.indexOf(pose)
      this.asked = place < 0 ? [] : this.asked.slice(place + 1)
      this.told = pose
    }
    if (now - this.askedAt > LONGEST_ON_ITS_WAY_MS) this.asked = []
    return this.asked.at(-1) ?? pose
  }
}
