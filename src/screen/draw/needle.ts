import { angleOf, type NeedleElement, needlePath } from '../../core/elements/needle'
import { pathData } from '../../core/geometry/path-data'
import { dialFace } from '../../core/layout/dial-face'
import { faceColours, faceInks } from '../../core/layout/dial-inks'
import { colourFor, type DrawElement, numberIn } from '../drawing'
import { attribute, node, seen } from '../pen'

/** The same face as that of a real gauge, and a needle that goes by the same points. */
export const drawNeedle: DrawElement<NeedleElement> = (group, s, { width, height }) => {
  const radius = Math.min(width, height) / 2
  const home = node(group, 'g', { transform: `translate(${width / 2} ${height / 2})` })
  if (s.showsFace) {
    const radiusMm = s.dialMm / 2
    const face = dialFace([s], radiusMm)
    const { ground, ink } = faceColours[face.ground]
    const dial = node(home, 'g', { transform: `scale(${radius / radiusMm})` })
    dial.setAttribute('data-problems', face.problems.join(' '))
    const disc = node(dial, 'circle')
    disc.setAttribute('r', String(radiusMm))
    disc.setAttribute('fill', ground)
    for (const inked of faceInks(face, radiusMm)) {
      const path = node(dial, 'path', { fill: inked.colour })
      path.setAttribute('d', inked.contours.map(pathData).join(''))
    }
    for (const { at, sizeMm, text } of [...face.numbers, ...face.captions]) {
      const words = node(dial, 'text', {
        fill: ink,
        'text-anchor': 'middle',
        'font-family': 'B612, sans-serif',
      })
      words.setAttribute('x', at.x.toFixed(3))
      words.setAttribute('y', at.y.toFixed(3))
      words.setAttribute('font-size', sizeMm.toFixed(3))
      words.textContent = text
    }
  }
  const pointer = node(home, 'g')
  const needle = node(pointer, 'path', { d: needlePath(s.shape, radius * s.length) })
  node(home, 'circle', { r: radius * 0.09, fill: '#2c3438' })
  const turn = attribute(pointer, 'transform')
  const fill = attribute(needle, 'fill')
  const shows = seen(pointer)
  const angle = angleOf(s)
  return (shown) => {
    const value = numberIn(shown.value)
    shows(value !== null)
    if (value !== null) turn(`rotate(${angle(value).toFixed(2)})`)
    fill(colourFor(s, shown))
    return false
  }
}
