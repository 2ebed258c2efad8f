import { type CompassSettings, cardMarks } from '../../core/elements/compass'
import { colourFor, type DrawElement, numberIn } from '../drawing'
import { at, attribute, figures, node, seen } from '../pen'

export const drawCompass: DrawElement<CompassSettings> = (group, s, { width, height }) => {
  const r = Math.min(width, height) / 2
  const home = node(group, 'g', { transform: `translate(${at(width / 2)} ${at(height / 2)})` })
  node(home, 'circle', { r, fill: s.ground })
  const card = node(home, 'g', { stroke: s.colour, fill: s.colour })
  const rim = r * 0.97
  for (const { deg, long, words } of cardMarks(s.letters)) {
    const mark = node(card, 'g', { transform: `rotate(${deg})` })
    const d = `M0 ${at(-rim)}V${at(-rim + r * long)}`
    node(mark, 'path', { d, 'stroke-width': long > 0.06 ? '1.8' : '1.1', fill: 'none' })
    if (words !== null)
      figures(node(mark, 'g', { stroke: 'none' }), words, 0, -rim + r * 0.1 + s.labelPx * 0.75, s.labelPx)
  }
  const pointer = node(home, 'g')
  const fill = attribute(pointer, 'fill')
  if (s.turns === 'card') node(pointer, 'path', { d: `M-7 ${at(-r)}h14l-7 13z` })
  else node(pointer, 'path', { d: `M-6 ${at(r * 0.5)}L0 ${at(-r * 0.7)}L6 ${at(r * 0.5)}L0 ${at(r * 0.4)}z` })
  const bug = node(home, 'path', {
    d: `M-9 ${at(-r)}h5l4 6l4 -6h5v10h-18z`,
    fill: s.bugColour,
  })
  const turn = attribute(s.turns === 'card' ? card : pointer, 'transform')
  const bugTurn = attribute(bug, 'transform')
  const bugSeen = seen(bug)
  const shows = seen(s.turns === 'card' ? card : pointer)
  return (shown) => {
    const heading = numberIn(shown.value)
    shows(heading !== null)
    const mark = numberIn(shown.bug)
    bugSeen(mark !== null && heading !== null)
    if (heading === null) return false
    turn(`rotate(${(s.turns === 'card' ? -heading : heading).toFixed(2)})`)
    if (mark !== null) bugTurn(`rotate(${(s.turns === 'card' ? mark - heading : mark).toFixed(2)})`)
    fill(colourFor({ ...s, colour: s.bugColour }, shown))
    return false
  }
}
