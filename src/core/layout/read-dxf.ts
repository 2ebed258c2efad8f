import DxfParser, {
  type IArcEntity,
  type ICircleEntity,
  type IEllipseEntity,
  type IEntity,
  type ILineEntity,
  type ILwpolylineEntity,
  type IPolylineEntity,
  type ISplineEntity,
} from 'dxf-parser'
import { type Contour, circle, type Point, point, polygon, type Segment } from '../geometry/contour'
import { combined, placedAt, transformed } from '../geometry/matrix'
import { splinePieces } from '../geometry/spline'
import type { Found, ReadDrawing } from './read-plate'
import { MOST_BYTES } from './read-svg'

/** $INSUNITS of the DXF reference, as far as panels are drawn in them. */
const unitsMm: Record<number, number> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 0.0000254,
  9: 0.0254,
  14: 100,
}

const most = 100_000

/** Reads the lines of a DXF file (as text). A sentence where it cannot be read. */
export const readDxf = (text: string): ReadDrawing | { problem: string } => {
  if (text.length > MOST_BYTES) return { problem: 'The file is larger than 8 MB.' }
  if (text.includes('\0')) return { problem: 'This is a binary DXF file; save it as text.' }
  const checked = checkedPairs(text)
  if ('problem' in checked) return { problem: `This is no DXF file, or it is broken: ${checked.problem}` }
  let dxf: ReturnType<DxfParser['parseSync']>
  try {
    dxf = new DxfParser().parseSync(checked.text)
  } catch (error) {
    return { problem: `This is no DXF file, or it is broken: ${(error as Error).message}` }
  }
  if (!dxf || !Array.isArray(dxf.entities)) return { problem: 'There is nothing drawn in this DXF file.' }
  if (dxf.entities.length > most) return { problem: `There are more than ${most} things drawn in it.` }
  const found: Found[] = []
  const left = new Map<string, number>()
  for (const entity of dxf.entities) {
    const contours = contourOf(entity)
    if (contours === null) left.set(entity.type, (left.get(entity.type) ?? 0) + 1)
    // DXF's y runs upwards, a panel's downwards.
    else
      for (const c of contours)
        found.push({
          contour: transformed(c, { a: 1, b: 0, c: 0, d: -1, e: 0, f: 0 }),
          layer: entity.layer ?? '',
        })
  }
  const unit = Number(dxf.header?.$INSUNITS ?? 0)
  return {
    found,
    unitMm: unitsMm[unit] ?? null,
    ignored: [...left].map(([what, n]) => `${n} of ${what}`),
  }
}

/**
 * Looks through a file before it is read: whether it is made of pairs of a code and a value, its sections open and close
 * and it has an end; and whether a line in it announces more points than the file has lines. Gives the text up to its end.
 */
const checkedPairs = (text: string): { text: string } | { problem: string } => {
  const lines = text.split(/\r\n|\r|\n/)
  let entity = ''
  let open = false
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = lines[i] as string
    const value = (lines[i + 1] as string).trim()
    if (!/^\s*-?\d{1,4}\s*$/.test(code))
      return { problem: `Line ${i + 1} should be a code, and is “${code.slice(0, 30)}”.` }
    if (Number(code) === 90 && entity === 'LWPOLYLINE' && !(Math.abs(Number(value)) <= lines.length))
      return {
        problem: `A line in it announces ${value.slice(0, 20)} points, and the file has ${lines.length} lines.`,
      }
    if (Number(code) !== 0) continue
    entity = value
    if (value === 'SECTION' && open) return { problem: `A section begins within another, at line ${i + 1}.` }
    if (value === 'ENDSEC' && !open)
      return { problem: `A section ends that has not begun, at line ${i + 1}.` }
    if (value === 'SECTION' || value === 'ENDSEC') open = value === 'SECTION'
    else if (value === 'EOF')
      return open
        ? { problem: 'It ends within a section.' }
        : { text: `${lines.slice(0, i + 2).join('\n')}\n` }
    else if (!open)
      return { problem: `“${value.slice(0, 30)}” stands outside of all sections, at line ${i + 1}.` }
  }
  return { problem: 'It has no end.' }
}

const contourOf = (e: IEntity): Contour[] | null => {
  switch (e.type) {
    case 'LINE': {
      const [a, b] = (e as ILineEntity).vertices
      return a && b ? [polygon([a, b], false)] : []
    }
    case 'CIRCLE': {
      const { center, radius } = e as ICircleEntity
      return radius > 0 ? [circle(center, radius)] : []
    }
    case 'ARC': {
      const { center, radius, startAngle, endAngle } = e as IArcEntity
      const at = (a: number): Point => point(center.x + radius * Math.cos(a), center.y + radius * Math.sin(a))
      const segment: Segment = { is: 'arc', to: at(endAngle), centre: center, clockwise: true }
      return [{ start: at(startAngle), segments: [segment], closed: false }]
    }
    case 'LWPOLYLINE':
    case 'POLYLINE': {
      const { vertices, shape } = e as ILwpolylineEntity | IPolylineEntity
      return vertices.length > 1 ? [bulged(vertices, shape === true)] : []
    }
    case 'ELLIPSE':
      return [ellipse(e as IEllipseEntity)]
    case 'SPLINE': {
      const { controlPoints, degreeOfSplineCurve, knotValues, closed } = e as ISplineEntity
      const pieces = splinePieces(controlPoints ?? [], knotValues ?? [], degreeOfSplineCurve)
      return pieces === null ? null : [{ ...pieces, closed: closed === true || pieces.closed }]
    }
    default:
      return null
  }
}

interface Vertex {
  readonly x: number
  readonly y: number
  readonly bulge?: number
}

/** A polyline whose bulges are the tangents of a quarter of each arc's angle, against the clock above zero. */
const bulged = (vertices: readonly Vertex[], closed: boolean): Contour => {
  const segments: Segment[] = []
  const count = closed ? vertices.length : vertices.length - 1
  for (let i = 0; i < count; i++) {
    const [p, q] = [vertices[i] as Vertex, vertices[(i + 1) % vertices.length] as Vertex]
    const to = point(q.x, q.y)
    const bulge = p.bulge ?? 0
    if (Math.abs(bulge) < 1e-9) {
      segments.push({ is: 'line', to })
      continue
    }
    // The centre lies off the chord's middle by (1 − b²) / 4b of it, to its left for b above zero.
    const k = (1 - bulge * bulge) / (4 * bulge)
    const centre = point((p.x + q.x) / 2 - k * (q.y - p.y), (p.y + q.y) / 2 + k * (q.x - p.x))
    // "Clockwise" is meant with y downwards; here y still runs upwards, so the senses are exchanged.
    segments.push({ is: 'arc', to, centre, clockwise: bulge > 0 })
  }
  const first = vertices[0] as Vertex
  return { start: point(first.x, first.y), segments, closed }
}

const ellipse = (e: IEllipseEntity): Contour => {
  const { center, majorAxisEndPoint: axis, axisRatio, startAngle, endAngle } = e
  const long = Math.hypot(axis.x, axis.y)
  const turn = (Math.atan2(axis.y, axis.x) * 180) / Math.PI
  const shape = combined(placedAt(center.x, center.y, turn), {
    ...placedAt(0, 0),
    a: long,
    d: long * axisRatio,
  })
  const sweep = endAngle - startAngle
  if (Math.abs(Math.abs(sweep) - 2 * Math.PI) < 1e-6 || sweep === 0)
    return transformed(circle(point(0, 0), 1), shape)
  const at = (a: number) => point(Math.cos(a), Math.sin(a))
  const arc: Segment = { is: 'arc', to: at(endAngle), centre: point(0, 0), clockwise: true }
  return transformed({ start: at(startAngle), segments: [arc], closed: false }, shape)
}
