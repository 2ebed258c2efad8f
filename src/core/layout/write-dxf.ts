import { Colors, DxfWriter, LWPolylineFlags, point2d, point3d, SplineFlags, Units } from '@tarikjabiri/dxf'
import { sweepOf } from '../geometry/arcs'
import { asCircle, type Contour, type Point } from '../geometry/contour'
import { type CutDrawing, type LayerName, layerNames } from './cut-drawing'
import { contoursOfLayer } from './write-svg'

const colours: Record<LayerName, Colors> = {
  cut: Colors.Red,
  engrave: Colors.Blue,
  drill: Colors.Green,
  reference: Colors.White,
}

/**
 * A drawing as DXF in millimetres, a layer for each kind of work. Circles stay circles, arcs become bulges of a
 * polyline (the tangent of a quarter of their angle), cubic curves splines; y runs upwards from the lower edge.
 */
export const writeDxf = (drawing: CutDrawing): string => {
  const dxf = new DxfWriter()
  dxf.setUnits(Units.Millimeters)
  const up = (p: Point): Point => ({ x: p.x - drawing.box.minX, y: drawing.box.maxY - p.y })
  for (const layer of layerNames) {
    dxf.addLayer(layer, colours[layer], 'Continuous')
    dxf.setCurrentLayerName(layer)
    for (const contour of contoursOfLayer(drawing, layer)) addContour(dxf, contour, up)
  }
  return dxf.stringify()
}

const addContour = (dxf: DxfWriter, contour: Contour, up: (p: Point) => Point): void => {
  const whole = asCircle(contour)
  if (whole) {
    const { x, y } = up(whole.centre)
    dxf.addCircle(point3d(x, y), whole.radius)
  } else if (contour.segments.some((s) => s.is === 'cubic')) addSpline(dxf, contour, up)
  else addPolyline(dxf, contour, up)
}

const addPolyline = (dxf: DxfWriter, contour: Contour, up: (p: Point) => Point): void => {
  let from = contour.start
  const vertices = contour.segments.map((s) => {
    // Turned upside down, a turn keeps its sense as it is seen; a positive bulge runs against the clock.
    const bulge = s.is === 'arc' ? -Math.tan(sweepOf(from, s) / 4) : 0
    const { x, y } = up(from)
    from = s.to
    return { point: point2d(x, y), bulge }
  })
  if (!contour.closed) {
    const { x, y } = up(from)
    vertices.push({ point: point2d(x, y), bulge: 0 })
  }
  dxf.addLWPolyline(vertices, { flags: contour.closed ? LWPolylineFlags.Closed : LWPolylineFlags.None })
}

/** One spline of degree 3 whose knots are threefold where its pieces meet, which is the same curve exactly. */
const addSpline = (dxf: DxfWriter, contour: Contour, up: (p: Point) => Point): void => {
  const points: Point[] = [contour.start]
  let from = contour.start
  for (const s of contour.segments) {
    const third = (t: number): Point => ({
      x: from.x + (s.to.x - from.x) * t,
      y: from.y + (s.to.y - from.y) * t,
    })
    if (s.is === 'cubic') points.push(s.c1, s.c2, s.to)
    else points.push(third(1 / 3), third(2 / 3), s.to)
    from = s.to
  }
  const pieces = contour.segments.length
  const knots = [0, ...Array.from({ length: pieces + 1 }, (_, i) => [i, i, i]).flat(), pieces]
  dxf.addSpline({
    controlPoints: points.map(up).map(({ x, y }) => point3d(x, y)),
    degreeCurve: 3,
    flags: (contour.closed ? SplineFlags.Closed : 0) | SplineFlags.Planar,
    knots,
  })
}
