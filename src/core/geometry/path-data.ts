import { quarters } from './arcs'
import { type Contour, distance, type Point } from './contour'

/** Tenths of a micrometre: far below what any machine cuts, short enough to read. */
const short = (n: number): string => String(Math.round(n * 1e4) / 1e4 + 0)
const pair = (p: Point): string => `${short(p.x)} ${short(p.y)}`

/** A contour as SVG path data in millimetres; arcs stay arcs, in quarters. */
export const pathData = (c: Contour): string => {
  let from = c.start
  let d = `M${pair(from)}`
  for (const s of c.segments) {
    if (s.is === 'line') d += `L${pair(s.to)}`
    else if (s.is === 'cubic') d += `C${pair(s.c1)} ${pair(s.c2)} ${pair(s.to)}`
    else {
      const r = short(distance(from, s.centre))
      for (const { to } of quarters(from, s)) d += `A${r} ${r} 0 0 ${s.clockwise ? 1 : 0} ${pair(to)}`
    }
    from = s.to
  }
  return c.closed ? `${d}Z` : d
}
