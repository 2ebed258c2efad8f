import { type LampsSettings, lampColours, lampPlaces } from '../../core/elements/lamps'
import { type DrawElement, numberIn } from '../drawing'
import { attribute, node } from '../pen'

export const drawLamps: DrawElement<LampsSettings> = (group, s, extent, around) => {
  const fills = lampPlaces(s, extent).map((r) => {
    const corner = s.round ? Math.min(r.width, r.height) / 2 : Math.min(3, r.width / 4)
    return attribute(node(group, 'rect', { ...r, rx: corner }), 'fill')
  })
  return (shown) => {
    const value = numberIn(shown.value)
    const { lamps, blinkHz } = value === null ? { lamps: [], blinkHz: 0 } : lampColours(s, value)
    const isOut = blinkHz > 0 && Math.floor((around.now() / 1000) * blinkHz * 2) % 2 === 1
    for (const [i, fill] of fills.entries()) fill((isOut ? null : lamps[i]) ?? s.colour)
    return blinkHz > 0
  }
}
