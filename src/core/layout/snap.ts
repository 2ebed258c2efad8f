import type { Box } from '../geometry/boxes'
import { type Point, point } from '../geometry/contour'
import type { Millimetres } from '../units-of-measure'

/** A line along which something snapped, to be shown. */
export interface SnapLine {
  readonly from: Point
  readonly to: Point
  readonly why: 'edge' | 'centre' | 'gap' | 'guide' | 'panel' | 'grid'
}

export interface Snapped {
  readonly dx: Millimetres
  readonly dy: Millimetres
  readonly lines: readonly SnapLine[]
}

export interface SnapTo {
  readonly others: readonly Box[]
  /** The whole of what it lies on, in whatever that is measured by. */
  readonly surface: { readonly width: number; readonly height: number }
  readonly guides: readonly { readonly axis: 'x' | 'y'; readonly at: number }[]
  /** 0 for no grid. */
  readonly grid: number
  /** What of a box lies on the grid: on a panel its middle, on a screen its corner, so that edges lie between dots. */
  readonly gridFor: 'middle' | 'corner'
  /** How near counts: a few pixels at the present scale. */
  readonly within: number
}

/** One axis of a box: low edge, middle, high edge. */
interface Span {
  readonly low: number
  readonly high: number
}

interface Catch {
  readonly by: number
  readonly at: number
  readonly why: SnapLine['why']
  /** The one it caught on, for the length of the line that is shown. */
  readonly other: Box | null
}

const spanX = (b: Box): Span => ({ low: b.minX, high: b.maxX })
const spanY = (b: Box): Span => ({ low: b.minY, high: b.maxY })
const mid = (s: Span): number => (s.low + s.high) / 2

/**
 * How a box that is being dragged is to be corrected so that it sits on an edge, a middle line, an equal gap, a guide
 * or the grid. Things go before the grid, the nearest first.
 */
export const snap = (moving: Box, to: SnapTo): Snapped => {
  const x = along('x', moving, to)
  const y = along('y', moving, to)
  const dx = x?.by ?? 0
  const dy = y?.by ?? 0
  const at: Box = {
    minX: moving.minX + dx,
    maxX: moving.maxX + dx,
    minY: moving.minY + dy,
    maxY: moving.maxY + dy,
  }
  const lines: SnapLine[] = []
  if (x && x.why !== 'grid') {
    const [a, b] = reach(spanY(at), x.other && spanY(x.other), to.surface.height)
    lines.push({ from: point(x.at, a), to: point(x.at, b), why: x.why })
  }
  if (y && y.why !== 'grid') {
    const [a, b] = reach(spanX(at), y.other && spanX(y.other), to.surface.width)
    lines.push({ from: point(a, y.at), to: point(b, y.at), why: y.why })
  }
  return { dx, dy, lines }
}

/** From the one to the other, or over the whole panel for what is not a thing. */
const reach = (own: Span, other: Span | null, whole: number): [number, number] =>
  other ? [Math.min(own.low, other.low), Math.max(own.high, other.high)] : [0, whole]

const along = (axis: 'x' | 'y', moving: Box, to: SnapTo): Catch | null => {
  const span = axis === 'x' ? spanX : spanY
  const own = span(moving)
  let best: Catch | null = null
  const offer = (by: number, at: number, why: SnapLine['why'], other: Box | null) => {
    if (Math.abs(by) > to.within) return
    if (best === null || Math.abs(by) < Math.abs(best.by) - 1e-9) best = { by, at, why, other }
  }
  const edges = (line: number, why: SnapLine['why'], other: Box | null) => {
    offer(line - own.low, line, why, other)
    offer(line - own.high, line, why, other)
  }
  const whole = axis === 'x' ? to.surface.width : to.surface.height
  offer(whole / 2 - mid(own), whole / 2, 'panel', null)
  for (const g of to.guides) {
    if (g.axis !== axis) continue
    offer(g.at - mid(own), g.at, 'guide', null)
    edges(g.at, 'guide', null)
  }
  for (const other of to.others) {
    const s = span(other)
    offer(mid(s) - mid(own), mid(s), 'centre', other)
    edges(s.low, 'edge', other)
    edges(s.high, 'edge', other)
  }
  for (const g of gaps(axis, moving, to.others)) offer(g.low - own.low, g.low, 'gap', g.other)
  if (best !== null || to.grid === 0) return best
  const held = to.gridFor === 'middle' ? mid(own) : own.low
  const line = Math.round(held / to.grid) * to.grid
  return { by: line - held, at: line, why: 'grid', other: null }
}

/** Places with the same gap on as two neighbours in the same row have between them, or halfway between two. */
const gaps = (axis: 'x' | 'y', moving: Box, others: readonly Box[]): { low: number; other: Box }[] => {
  const span = axis === 'x' ? spanX : spanY
  const across = axis === 'x' ? spanY : spanX
  const own = across(moving)
  const size = span(moving).high - span(moving).low
  const row = others
    .filter((b) => across(b).low < own.high && across(b).high > own.low)
    .sort((a, b) => span(a).low - span(b).low)
  return row.flatMap((first, i) => {
    const second = row[i + 1]
    if (!second) return []
    const gap = span(second).low - span(first).high
    const between = { low: span(first).high + (gap - size) / 2, other: second }
    if (gap <= 0) return []
    return [
      { low: span(second).high + gap, other: second },
      { low: span(first).low - gap - size, other: first },
      ...(gap > size ? [between] : []),
    ]
  })
}
