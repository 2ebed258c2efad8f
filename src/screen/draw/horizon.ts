import { dotsPerDegree, type HorizonSettings, horizonAt, pitchLines } from '../../core/elements/horizon'
import { type DrawElement, numberIn } from '../drawing'
import { at, attribute, figures, node, seen } from '../pen'

let clips = 0

export const drawHorizon: DrawElement<HorizonSettings> = (group, s, extent) => {
  const { width, height } = extent
  const id = `horizon-${++clips}`
  const clip = node(group, 'clipPath', { id })
  if (s.round) node(clip, 'ellipse', { cx: width / 2, cy: height / 2, rx: width / 2, ry: height / 2 })
  else node(clip, 'rect', { ...extent })
  const window = node(group, 'g', { 'clip-path': `url(#${id})` })
  node(window, 'rect', { ...extent, fill: '#20282b' })
  const rolled = node(window, 'g')
  const pitched = node(rolled, 'g')
  // Far enough out that no corner is ever seen.
  const far = Math.hypot(width, height) + 90 * dotsPerDegree(s, extent)
  node(pitched, 'rect', { x: -far, y: -far, width: 2 * far, height: far, fill: s.sky })
  node(pitched, 'rect', { x: -far, y: 0, width: 2 * far, height: far, fill: s.ground })
  const ladder = node(pitched, 'g', { stroke: s.colour, fill: s.colour, 'stroke-width': '1.5' })
  node(ladder, 'path', { d: `M${at(-far)} 0H${at(far)}`, 'stroke-width': '2' })
  for (const { deg, half, words } of pitchLines(s)) {
    const y = -deg * dotsPerDegree(s, extent)
    node(ladder, 'path', { d: `M${at(-half * width)} ${at(y)}H${at(half * width)}`, fill: 'none' })
    if (words !== null)
      for (const side of [-1, 1])
        figures(node(ladder, 'g', { stroke: 'none' }), words, side * (half * width + s.labelPx), y, s.labelPx)
  }
  const [cx, cy] = [width / 2, height / 2]
  const wing = width * 0.2
  node(group, 'path', {
    d: `M${at(cx - wing)} ${at(cy)}h${at(wing * 0.6)}v6M${at(cx + wing)} ${at(cy)}h${at(-wing * 0.6)}v6`,
    ...{ stroke: s.markColour, 'stroke-width': '3.5', fill: 'none' },
  })
  node(group, 'rect', { x: cx - 3, y: cy - 3, width: 6, height: 6, fill: s.markColour })
  const roll = attribute(rolled, 'transform')
  const pitch = attribute(pitched, 'transform')
  const shows = seen(rolled)
  return (shown) => {
    const [up, over] = [numberIn(shown.pitch), numberIn(shown.roll)]
    // Half of it would be a false picture.
    const follows = { pitch: shown.pitch !== undefined, roll: shown.roll !== undefined }
    const known = (follows.pitch ? up !== null : follows.roll) && (!follows.roll || over !== null)
    shows(known)
    if (!known) return false
    roll(`translate(${at(cx)} ${at(cy)}) rotate(${(-(over ?? 0)).toFixed(2)})`)
    pitch(`translate(0 ${at(horizonAt(s, extent, up ?? 0))})`)
    return false
  }
}
