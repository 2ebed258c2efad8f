import type { CapColour, LampColour, PartKind, PositionsAspect, Terminal } from '../part-kind'

const switchTerminals: readonly Terminal[] = [
  { id: 'common', name: 'common to ground', role: 'common' },
  { id: 'closed', name: 'contact, closed when pressed', role: 'contact' },
]

const press: PositionsAspect = {
  kind: 'positions',
  id: 'press',
  positions: [
    { id: 'released', closes: [] },
    { id: 'pressed', closes: ['closed'] },
  ],
  momentary: true,
  debounceMs: 6,
}

const button = (id: string, colour: CapColour): PartKind => ({
  id,
  name: `Button, 10 mm, ${colour}`,
  front: { look: 'button', capMm: 10, bezelMm: 14, colour },
  frontMm: { width: 14, height: 14 },
  terminals: switchTerminals,
  aspects: [press],
})

/** A button with a lamp in its cap: two things in one housing, wired and bound apart. */
const litButton = (light: LampColour): PartKind => ({
  id: `lit-button-12-${light}`,
  name: `Lit button, 12 mm, ${light}`,
  front: { look: 'button', capMm: 12, bezelMm: 16, colour: 'black', light },
  frontMm: { width: 16, height: 16 },
  terminals: [
    ...switchTerminals,
    { id: 'plus', name: 'lamp plus, through its resistor', role: 'lamp-plus' },
    { id: 'minus', name: 'lamp minus to ground', role: 'lamp-minus' },
  ],
  aspects: [press, { kind: 'lamp', id: 'lamp', terminal: 'plus' }],
  electrical: { forwardVolts: light === 'white' || light === 'blue' ? 3.1 : 2, milliamps: 10 },
})

export const redButton = button('button-10-red', 'red')
export const greyButton = button('button-10-grey', 'grey')
export const litButtons: PartKind[] = (['green', 'amber', 'red', 'white', 'blue'] as const).map(litButton)
