import { type BarSettings, filled, type Rect, shareOf, stretch } from '../../core/elements/bar'
import { scaleMarks } from '../../core/elements/scale-marks'
import { colourFor, type DrawElement, numberIn } from '../drawing'
import { at, attribute, figures, node, seen } from '../pen'

const put = (of: SVGRectElement, r: Rect): void => {
  of.setAttribute('x', at(r.x))
  of.setAttribute('y', at(r.y))
  of.setAttribute('width', at(r.width))
  of.setAttribute('height', at(r.height))
}

/** How thick a band along the edge is, and how long marks are, as shares of the bar's thickness. */
const BAND = 0.14
const MARK = 0.3

export const drawBar: DrawElement<BarSettings> = (group, s, extent) => {
  const lies = s.along === 'right' || s.along === 'left'
  const thickness = lies ? extent.height : extent.width
  put(node(group, 'rect', { fill: s.track }), { x: 0, y: 0, ...extent })
  const fill = node(group, 'rect')
  for (const band of s.bands) {
    const r = stretch(s.along, extent, shareOf(s, band.from), shareOf(s, band.to))
    const edge = lies ? { ...r, height: thickness * BAND } : { ...r, width: thickness * BAND }
    put(node(group, 'rect', { fill: band.colour }), edge)
  }
  for (const mark of scaleMarks(s.least, s.most, s.marksEvery, s.labelsEvery)) {
    const share = shareOf(s, mark.value)
    const p = stretch(s.along, extent, 0, share)
    const x = s.along === 'right' ? p.width : s.along === 'left' ? p.x : 0
    const y = s.along === 'down' ? p.height : s.along === 'up' ? p.y : 0
    const length = thickness * (mark.long ? MARK : MARK / 2)
    node(group, 'path', {
      d: lies
        ? `M${at(x)} ${at(extent.height)}v${at(-length)}`
        : `M${at(extent.width)} ${at(y)}h${at(-length)}`,
      stroke: '#e6ebe7',
      'stroke-width': '1.5',
    })
    if (mark.words === null) continue
    const words = node(group, 'g', { fill: '#cfd6d1' })
    if (lies) figures(words, mark.words, x, extent.height + s.labelPx * 0.75, s.labelPx)
    else figures(words, mark.words, extent.width + 4, y, s.labelPx, 'start')
  }
  const shows = seen(fill)
  const colour = attribute(fill, 'fill')
  const [x, y, width, height] = ['x', 'y', 'width', 'height'].map((name) => attribute(fill, name)) as [
    (v: string) => void,
    (v: string) => void,
    (v: string) => void,
    (v: string) => void,
  ]
  return (shown) => {
    const value = numberIn(shown.value)
    shows(value !== null)
    if (value === null) return false
    const r = filled(s, extent, value)
    x(at(r.x))
    y(at(r.y))
    width(at(r.width))
    height(at(r.height))
    colour(colourFor(s, shown))
    return false
  }
}
