import { type Box, boundsOf } from '../geometry/boxes'
import { asCircle, type Contour, distance, type Point, point } from '../geometry/contour'
import { flattened } from '../geometry/flatten'
import { placedAt, transformed } from '../geometry/matrix'
import { pathData } from '../geometry/path-data'
import { areaOf, isInside } from '../geometry/rings'
import type { Millimetres } from '../units-of-measure'

/** A contour out of a file, in millimetres, on the layer it had there. */
export interface Found {
  readonly contour: Contour
  readonly layer: string
}

/** What was read from a drawing made elsewhere, or by Clavik. */
export interface ReadDrawing {
  readonly found: readonly Found[]
  /** What there was besides, in sentences with counts. */
  readonly ignored: readonly string[]
  /** Null when the file does not say what its numbers measure. */
  readonly unitMm: number | null
}

/** A plate that was read: its size, its edge where that is no plain rectangle, openings, and round holes. */
export interface ReadPlate {
  readonly widthMm: Millimetres
  readonly heightMm: Millimetres
  readonly cornerMm: Millimetres
  readonly outline?: string
  readonly windows: readonly string[]
  readonly holes: readonly {
    readonly xMm: Millimetres
    readonly yMm: Millimetres
    readonly diameterMm: Millimetres
  }[]
  readonly ignored: readonly string[]
}

const JOIN_MM = 0.02
const tidy = (mm: Millimetres): Millimetres => Math.round(mm * 1e4) / 1e4

/** The ends of open pieces by where they lie, so that what meets an end is found without looking at all of them. */
class Ends {
  private readonly cells = new Map<string, Set<number>>()

  constructor(private readonly pieces: readonly Found[]) {
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
    const { contour } = this.pieces[i] as Found
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
          const { contour } = this.pieces[k] as Found
          if (distance(contour.start, end) <= JOIN_MM || distance(endOf(contour), end) <= JOIN_MM) first = k
        }
    return first
  }
}

const cellOf = (mm: Millimetres): number => Math.floor(mm / JOIN_MM)

/** Joins open pieces whose ends meet into closed ones, as many as there are. */
export const joined = (pieces: readonly Found[]): Found[] => {
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
      const { contour } = open[next] as Found
      const onwards = distance(contour.start, end) <= JOIN_MM ? contour : reversed(contour)
      for (const s of onwards.segments) segments.push(s)
    }
  }
  return done
}

/** Whether every number of a contour is one. */
const isSound = ({ start, segments }: Contour): boolean =>
  [
    start,
    ...segments.flatMap((s) =>
      s.is === 'cubic' ? [s.c1, s.c2, s.to] : s.is === 'arc' ? [s.centre, s.to] : [s.to],
    ),
  ].every((p) => Number.isFinite(p.x) && Number.isFinite(p.y))

const endOf = (c: Contour) => c.segments.at(-1)?.to ?? c.start

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

/** Layers that are looked at but not made, by their usual names. */
const isSeenOnly = (layer: string): boolean => /^(engrave|reference|text|legend|dimension)/i.test(layer)

/**
 * The plate in a drawing: the largest closed line is its edge, closed lines inside are openings, round ones holes.
 * Its top left corner becomes the origin. A sentence where there is no plate in it.
 */
export const plateFrom = (read: ReadDrawing, unitMm: number): ReadPlate | { problem: string } => {
  const scale = { ...placedAt(0, 0), a: unitMm, d: unitMm }
  const scaled = read.found.map((f) => ({ ...f, contour: transformed(f.contour, scale) }))
  const sound = scaled.filter((f) => isSound(f.contour))
  const all = joined(sound)
  const made = all.filter((f) => !isSeenOnly(f.layer))
  const closed = made.filter((f) => f.contour.closed)
  const ignored = [...read.ignored]
  const count = (n: number, what: string) => {
    if (n > 0) ignored.push(`${n} ${what}`)
  }
  count(scaled.length - sound.length, 'lines whose numbers are none')
  count(all.length - made.length, 'lines that are engraved or only for the eye')
  count(made.length - closed.length, 'lines that do not close')
  const sized = closed
    .map((f) => ({ contour: f.contour, ring: flattened(f.contour, 0.01) }))
    .map((f) => ({ ...f, area: Math.abs(areaOf(f.ring)) }))
    .sort((a, b) => b.area - a.area)
  const [edge, ...inner] = sized
  if (!edge || edge.area < 1)
    return { problem: 'There is no closed line in it that could be the edge of a plate.' }
  const box = boundsOf(edge.contour)
  const size = { widthMm: tidy(box.maxX - box.minX), heightMm: tidy(box.maxY - box.minY) }
  if (Math.max(size.widthMm, size.heightMm) > 5000)
    return {
      problem: `The plate would be ${size.widthMm} × ${size.heightMm} mm; at most 5000 mm can be drawn. Is the unit right?`,
    }
  const home = placedAt(-box.minX, -box.minY)
  const inside = inner.filter((f) => isInside(f.ring[0] ?? point(0, 0), edge.ring))
  count(inner.length - inside.length, 'closed lines outside the edge')
  const holes: ReadPlate['holes'][number][] = []
  const windows: string[] = []
  for (const f of inside) {
    const contour = transformed(f.contour, home)
    const round = asCircle(contour)
    if (round)
      holes.push({
        xMm: tidy(round.centre.x),
        yMm: tidy(round.centre.y),
        diameterMm: tidy(round.radius * 2),
      })
    else windows.push(pathData(contour))
  }
  const corner = cornerOf(edge.contour, box, edge.area)
  return {
    ...size,
    cornerMm: corner ?? 0,
    ...(corner === null ? { outline: pathData(transformed(edge.contour, home)) } : {}),
    windows,
    holes,
    ignored,
  }
}

/** The corner radius of what is a plain rectangle with four equal corners; null for any other edge. */
const cornerOf = (c: Contour, box: Box, area: number): Millimetres | null => {
  if (c.segments.some((s) => s.is === 'cubic')) return null
  let from = c.start
  const radii = new Set<number>()
  for (const s of c.segments) {
    if (s.is === 'arc') radii.add(tidy(distance(from, s.centre)))
    else if (Math.abs(s.to.x - from.x) > 1e-3 && Math.abs(s.to.y - from.y) > 1e-3) return null
    from = s.to
  }
  const sorted = [...radii].sort((a, b) => a - b)
  const [radius = 0] = sorted
  if ((sorted.at(-1) ?? 0) - radius > 1e-3) return null
  const whole = (box.maxX - box.minX) * (box.maxY - box.minY) - (4 - Math.PI) * radius * radius
  return Math.abs(whole - area) < 0.002 * whole ? Math.round(radius * 1e3) / 1e3 : null
}
