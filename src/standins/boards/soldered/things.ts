import type { DrivenSlot } from '../../../core/harness/slot'
import { type ColourOrder, darkState } from '../../../core/signal/colours'
import { digitsThing } from './digits'
import { needleThing } from './needle'
import type { SolderedChip, SolderedThing } from './soldered'
import { textThing } from './text'

/** RGB lamps on one line: green comes first (WS2812B data sheet, "Composition of 24bit data"). */
const strip = (lamps: number): SolderedThing => {
  let shown = darkState(lamps)
  let order: ColourOrder = 'GRB'
  let last: readonly number[] = []
  const show = () => {
    const codes = [0]
    for (let i = 0; i < lamps; i++) for (const c of 'RGB') codes.push(last[3 * i + order.indexOf(c)] ?? 0)
    shown = String.fromCharCode(...codes)
  }
  return {
    colours: (bytes) => {
      last = bytes
      show()
    },
    beLike: (nature) => {
      order = nature?.kind === 'colour' ? (nature.order ?? 'GRB') : 'GRB'
      show()
    },
    shows: () => shown,
  }
}

/** What is soldered on where a slot would drive it; null for a lamp, which hangs on a pin as it is. */
export const solderedThing = (
  slot: DrivenSlot,
  chipAt: (index: number) => SolderedChip | undefined,
): SolderedThing | null => {
  switch (slot.kind) {
    case 'digits':
      return digitsThing(slot)
    case 'text':
      return textThing(slot)
    case 'needle':
      return needleThing(slot, chipAt)
    case 'colour':
      return strip(slot.lamps)
    default:
      return null
  }
}
