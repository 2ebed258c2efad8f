import { bushed, round } from '../mount'
import type { PartKind } from '../part-kind'

/** A magnetic buzzer: it sounds as long as it has current. Its coil needs a driver. */
export const buzzer: PartKind = {
  id: 'buzzer-12',
  name: 'Buzzer, 12 mm, magnetic',
  family: 'sounder',
  mount: bushed(round(12.2), [14, 14, 12], [14, 14]),
  front: { look: 'lamp', lensMm: 8, colour: 'white' },
  frontMm: { width: 12, height: 12 },
  terminals: [
    { id: 'plus', name: 'plus', role: 'lamp-plus' },
    { id: 'minus', name: 'minus', role: 'lamp-minus' },
  ],
  aspects: [{ kind: 'lamp', id: 'sound', terminal: 'plus' }],
  electrical: { forwardVolts: 0, milliamps: 30, inductive: true },
}
