import type { KeyboardEvent } from 'react'

const TABBABLE = 'button, a[href], input, select, textarea, [tabindex="0"]'

const ways: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

const middleOf = (e: Element): readonly [number, number] => {
  const r = e.getBoundingClientRect()
  return [r.x + r.width / 2, r.y + r.height / 2]
}

/** The place that lies next in a direction: near, and not far off to the side. */
export const nextIn = (
  from: readonly [number, number],
  [dx, dy]: readonly [number, number],
  places: readonly (readonly [number, number])[],
): number => {
  let best = -1
  let least = Number.POSITIVE_INFINITY
  for (const [i, [x, y]] of places.entries()) {
    const ahead = (x - from[0]) * dx + (y - from[1]) * dy
    const aside = Math.abs((x - from[0]) * dy) + Math.abs((y - from[1]) * dx)
    if (ahead < 1) continue
    const cost = ahead + 3 * aside
    if (cost < least) {
      least = cost
      best = i
    }
  }
  return best
}

/** What comes before or after a region when one goes on with Tab. */
const beside = (region: Element, back: boolean): HTMLElement | undefined => {
  const all = [...document.querySelectorAll<HTMLElement>(TABBABLE)].filter(
    (e) => !region.contains(e) && e.getClientRects().length > 0 && !(e as HTMLButtonElement).disabled,
  )
  const side = back ? Node.DOCUMENT_POSITION_PRECEDING : Node.DOCUMENT_POSITION_FOLLOWING
  const there = all.filter((e) => region.compareDocumentPosition(e) & side)
  return back ? there.at(-1) : there[0]
}

/**
 * Keys for a drawing with very many places in it: the arrows lead from one to the next in their direction, and Tab
 * leaves the drawing instead of going through all of them.
 */
export const spatialKeys =
  (place: string) =>
  (e: KeyboardEvent<HTMLElement>): void => {
    const region = e.currentTarget
    const at = (e.target as Element).closest(place)
    if (!at || e.ctrlKey || e.metaKey || e.altKey) return
    if (e.key === 'Tab') {
      const next = beside(region, e.shiftKey)
      if (!next) return
      e.preventDefault()
      next.focus()
      return
    }
    const way = ways[e.key]
    if (!way) return
    const others = [...region.querySelectorAll<HTMLElement>(place)].filter((o) => o !== at)
    const next = others[nextIn(middleOf(at), way, others.map(middleOf))]
    if (!next) return
    e.preventDefault()
    next.focus()
    next.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }
