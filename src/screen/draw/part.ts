import { partKind } from '../../core/catalogue/parts'
import { type PartElement, stateFor } from '../../core/elements/part'
import type { DrawElement } from '../drawing'
import { at, node } from '../pen'

/** A part is drawn by whoever draws panels; until that is there, its outline stands for it. */
export const drawPart: DrawElement<PartElement> = (group, s, { width, height }, around) => {
  const kind = partKind(s.part)
  if (!kind) return () => false
  const { width: wide, height: high } = kind.frontMm
  const scale = Math.min(width / wide, height / high)
  const home = node(group, 'g', {
    transform: `translate(${at(width / 2)} ${at(height / 2)}) scale(${scale})`,
  })
  const show = around.parts?.(home, kind)
  if (!show) node(home, 'rect', { x: -wide / 2, y: -high / 2, width: wide, height: high, fill: '#2a3337' })
  return (shown) => {
    const { value } = shown
    show?.(stateFor(kind, value === undefined || Number.isNaN(value) ? null : value))
    return false
  }
}
