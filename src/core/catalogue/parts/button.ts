import type { Millimetres } from '../../units-of-measure'
import { bushed, type Mount, round } from '../mount'
import type { CapColour, LampColour, PartKind, PositionsAspect, Terminal } from '../part-kind'

const switchTerminals: readonly Terminal[] = [
  { id: 'common', name: 'common', hint: 'to ground', role: 'common' },
  { id: 'closed', name: 'contact', hint: 'closed when pressed', role: 'contact' },
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

interface ButtonSize {
  readonly capMm: Millimetres
  readonly bezelMm: Millimetres
  readonly holeMm: Millimetres
  readonly depthMm: Millimetres
}

const mounted = ({ bezelMm, holeMm, depthMm }: ButtonSize): Mount =>
  bushed(round(holeMm), [holeMm + 2, holeMm + 2, depthMm], [bezelMm + 2, bezelMm + 2])

const button = (size: ButtonSize, colour: CapColour): PartKind => ({
  id: `button-${size.capMm}-${colour}`,
  name: `Button, ${size.capMm} mm, ${colour}`,
  family: 'button',
  front: { look: 'button', capMm: size.capMm, bezelMm: size.bezelMm, colour },
  frontMm: { width: size.bezelMm, height: size.bezelMm },
  mount: mounted(size),
  terminals: switchTerminals,
  aspects: [press],
})

/** A button with a lamp in its cap: two things in one housing, wired and bound apart. */
const litButton = (size: ButtonSize, light: LampColour): PartKind => ({
  id: `lit-button-${size.capMm}-${light}`,
  name: `Lit button, ${size.capMm} mm, ${light}`,
  family: 'button',
  front: { look: 'button', capMm: size.capMm, bezelMm: size.bezelMm, colour: 'black', light },
  frontMm: { width: size.bezelMm, height: size.bezelMm },
  mount: mounted(size),
  terminals: [
    ...switchTerminals,
    { id: 'plus', name: 'lamp plus', hint: 'through its resistor', role: 'lamp-plus' },
    {
      id: 'minus',
      name: 'lamp minus',
      hint: 'to ground, or to a driver that takes current in',
      role: 'lamp-minus',
    },
  ],
  aspects: [press, { kind: 'lamp', id: 'lamp', terminal: 'plus' }],
  electrical: { forwardVolts: light === 'white' || light === 'blue' ? 3.1 : 2, milliamps: 10 },
})

const small: ButtonSize = { capMm: 10, bezelMm: 14, holeMm: 12.2, depthMm: 22 }
const square: ButtonSize = { capMm: 12, bezelMm: 16, holeMm: 12.2, depthMm: 26 }
const medium: ButtonSize = { capMm: 16, bezelMm: 20, holeMm: 16.2, depthMm: 28 }
const large: ButtonSize = { capMm: 20, bezelMm: 25, holeMm: 22.3, depthMm: 34 }
const lights = ['green', 'amber', 'red', 'white', 'blue'] as const

export const buttons: PartKind[] = [
  button(small, 'red'),
  button(small, 'grey'),
  button(medium, 'black'),
  button(large, 'red'),
]
export const litButtons: PartKind[] = [square, medium].flatMap((size) =>
  lights.map((light) => litButton(size, light)),
)
