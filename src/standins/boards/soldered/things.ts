import type { DrivenSlot } from '../../../core/harness/slot'
import { darkState } from '../../../core/signal/colours'
import { digitsThing } from './digits'
import { needleThing } from './needle'
import type { SolderedChip, SolderedThing } from './soldered'
import { textThing } from './text'

/** RGB lamps on one line: green comes first (WS2812B data sheet, "Composition of 24bit data"). */
const strip = (lamps: number): SolderedThing => {
  let shown = darkState(lamps)
  return {
    colours: (bytes) => {
      const codes = [0]
      for (let i = 0; i < lamps; i++)
        codes.push(bytes[3 * i + 1] ?? 0, bytes[3 * i] ?? 0, bytes[3 * i + 2] ?? 0)
      shown = String.fromCharCode(...codes)
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
