import type { AnnunciatorSettings } from '../../core/elements/annunciator'
import { type DrawElement, givenColour, wordsFor } from '../drawing'
import { attribute, line, node, wordsIn } from '../pen'

export const drawAnnunciator: DrawElement<AnnunciatorSettings> = (group, s, extent) => {
  const box = node(group, 'rect', { ...extent, rx: 3, 'stroke-width': '1.5' })
  const text = line(group, s, extent, 6)
  const words = wordsIn(text)
  const [ground, edge] = [attribute(box, 'fill'), attribute(box, 'stroke')]
  const [ink, strength] = [attribute(text, 'fill'), attribute(text, 'fill-opacity')]
  return (shown) => {
    const lit = shown.value === 1
    words(wordsFor(shown.text, s.words))
    // A colour that it follows is that of its light.
    const light = givenColour(shown.colour, s.ground)
    ground(lit ? light : '#171d20')
    edge(lit ? light : '#2a3337')
    ink(lit ? s.colour : light)
    strength(lit ? '1' : s.out === 'readable' ? '0.38' : '0')
    return false
  }
}
