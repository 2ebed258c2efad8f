import { type Contour, distance, type Point } from '../geometry/contour'
import type { Millimetres } from '../units-of-measure'
import type { FoundLine } from './drawing'

/** Ends that lie so close are meant to meet. */
export const JOIN_MM: Millimetres = 0.02

const endOf = (c: Contour): Point => c.segments.at(-1)?.to ?? c.start

/** The ends of open pieces by where they lie, so that what meets an end is found without looking at all of them. */
class Ends {
  private readonly cells = new Map<string, Set<number>>()

  constructor(private readonly pieces: readonly FoundLine[]) {
    for (const [i, { contour }] of pieces.entries())
      for (const end of [contour.start, endOf(contour)]) {
        const key = this.keyOf(i, cellOf(end.x), cellOf(end.y))
        const cell = this.cells.get(key)
        if (cell) cell.add(i)
        else this.cells.set(key, new Set([i]))
      }
  }

  private keyOf(i: number, x: number, y: number): string {
    return `${x} ${y} ${this.pieces[i]?.layer}`
  }

  remove(i: number): void {
    const { contour } = this.pieces[i] as FoundLine
    for (const end of [contour.start, endOf(contour)])
      this.cells.get(this.keyOf(i, cellOf(end.x), cellOf(end.y)))?.delete(i)
  }

  /** The first piece of the same layer as the i-th that ends here. */
  meeting(i: number, end: Point): number | null {
    let first: number | null = null
    for (const dx of [-1, 0, 1])
      for (const dy of [-1, 0, 1])
        for (const k of this.cells.get(this.keyOf(i, cellOf(end.x) + dx, cellOf(end.y) + dy)) ?? []) {
          if (first !== null && k > first) continue
          const { contour } = this.pieces[k] as FoundLine
          if (distance(contour.start, end) <= JOIN_MM || distance(endOf(contour), end) <= JOIN_MM) first = k
        }
    return first
  }
}

const cellOf = (mm: Millimetres): number => Math.floor(mm / JOIN_MM)

/** Joins open pieces whose ends meet into closed ones, as many as there are. */
export const joined = (pieces: readonly FoundLine[]): FoundLine[] => {
  const done = pieces.filter((p) => p.contour.closed)
  const open = pieces.filter((p) => !p.contour.closed)
  const ends = new Ends(open)
  const used = new Set<number>()
  for (const [i, first] of open.entries()) {
    if (used.has(i)) continue
    used.add(i)
    ends.remove(i)
    const { start } = first.contour
    const segments = [...first.contour.segments]
    for (;;) {
      const end = segments.at(-1)?.to ?? start
      const chain: Contour = { start, segments, closed: false }
      const closes = distance(end, start) <= JOIN_MM && segments.length > 1
      const next = closes ? null : ends.meeting(i, end)
      if (next === null) {
        done.push({ ...first, contour: closes ? closedUp(chain) : chain })
        break
      }
      used.add(next)
      ends.remove(next)
      const { contour } = open[next] as FoundLine
      const onwards = distance(contour.start, end) <= JOIN_MM ? contour : reversed(contour)
      for (const s of onwards.segments) segments.push(s)
    }
  }
  return done
}

const closedUp = (c: Contour): Contour => {
  const last = c.segments.at(-1)
  if (!last) return c
  return { ...c, closed: true, segments: [...c.segments.slice(0, -1), { ...last, to: c.start }] }
}

const reversed = (c: Contour): Contour => {
  const starts = [c.start, ...c.segments.map((s) => s.to)]
  const segments = c.segments.map((s, i) => {
    const to = starts[i] as Contour['start']
    if (s.is === 'line') return { is: 'line' as const, to }
    if (s.is === 'arc') return { ...s, to, clockwise: !s.clockwise }
    return { is: 'cubic' as const, c1: s.c2, c2: s.c1, to }
  })
  return { start: endOf(c), segments: segments.reverse(), closed: c.closed }
}
