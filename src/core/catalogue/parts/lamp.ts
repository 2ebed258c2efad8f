import { bushed, round, window } from '../mount'
import type { LampColour, PartKind } from '../part-kind'

/** Typical forward voltage by colour of light, at the rated current. */
const forwardVolts: Record<LampColour, number> = { green: 2.1, amber: 2.0, red: 1.9, white: 3.1, blue: 3.1 }

const lamp = (lensMm: 3 | 5 | 8, colour: LampColour): PartKind => ({
  id: `lamp-${lensMm}-${colour}`,
  name: `Lamp, ${lensMm} mm, ${colour}`,
  family: 'lamp',
  mount: bushed(round(lensMm + 0.2), [lensMm + 2, lensMm + 2, 12], [lensMm + 2, lensMm + 2]),
  front: { look: 'lamp', lensMm, colour },
  frontMm: { width: lensMm + 1.2, height: lensMm + 1.2 },
  terminals: [
    { id: 'plus', name: 'plus', hint: 'through its resistor', role: 'lamp-plus' },
    {
      id: 'minus',
      name: 'minus',
      hint: 'to ground, or to a driver that takes current in',
      role: 'lamp-minus',
    },
  ],
  aspects: [{ kind: 'lamp', id: 'lamp', terminal: 'plus' }],
  electrical: { forwardVolts: forwardVolts[colour], milliamps: lensMm === 8 ? 20 : 10 },
})

const sizes = [3, 5, 8] as const
const colours = ['green', 'amber', 'red', 'white', 'blue'] as const
export const lamps: PartKind[] = sizes.flatMap((size) => colours.map((colour) => lamp(size, colour)))

/** A lit legend: a word engraved in a dark field that shows when it is lit. */
const legendLamp = (colour: LampColour): PartKind => ({
  id: `legend-lamp-${colour}`,
  name: `Lit legend, 18 × 8 mm, ${colour}`,
  family: 'lamp',
  front: { look: 'legend-lamp', widthMm: 18, heightMm: 8, colour },
  frontMm: { width: 19.5, height: 9.5 },
  mount: bushed(window(18.2, 8.2), [21, 11, 14], [19.5, 9.5]),
  terminals: [
    { id: 'plus', name: 'plus', hint: 'through its resistor', role: 'lamp-plus' },
    {
      id: 'minus',
      name: 'minus',
      hint: 'to ground, or to a driver that takes current in',
      role: 'lamp-minus',
    },
  ],
  aspects: [{ kind: 'lamp', id: 'lamp', terminal: 'plus' }],
  electrical: { forwardVolts: forwardVolts[colour], milliamps: 15 },
})

export const legendLamps: PartKind[] = colours.map(legendLamp)
