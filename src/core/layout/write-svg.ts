import type { Contour } from '../geometry/contour'
import { pathData } from '../geometry/path-data'
import { type CutDrawing, type LayerName, layerNames } from './cut-drawing'
import { drilledContour } from './plate'

/** One colour a layer, far apart from each other: cutters tell their passes by it. */
export const layerColours: Record<LayerName, string> = {
  cut: '#d40000',
  engrave: '#0000d4',
  drill: '#008400',
  reference: '#848484',
}

export const HAIRLINE_MM = 0.01

export const contoursOfLayer = (drawing: CutDrawing, layer: LayerName): readonly Contour[] =>
  layer === 'drill' ? drawing.drill.map(drilledContour) : drawing[layer]

export const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c)

/** A drawing as SVG in millimetres, a group for each layer. */
export const writeSvg = (drawing: CutDrawing): string => {
  const { minX, minY, maxX, maxY } = drawing.box
  const [width, height] = [maxX - minX, maxY - minY].map((n) => Math.round(n * 1e4) / 1e4)
  const layers = layerNames.map((layer) => {
    const paths = contoursOfLayer(drawing, layer).map((c) => `    <path d="${pathData(c)}"/>`)
    const look = `fill="none" stroke="${layerColours[layer]}" stroke-width="${HAIRLINE_MM}"`
    return `  <g id="${layer}" ${look}>\n${paths.join('\n')}\n  </g>`
  })
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="${minX} ${minY} ${width} ${height}">`,
    `  <title>${escaped(drawing.name)}</title>`,
    ...layers,
    '</svg>',
    '',
  ].join('\n')
}
