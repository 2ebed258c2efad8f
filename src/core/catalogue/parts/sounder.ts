import { bushed, fourScrews, round } from '../mount'
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

/**
 * A relay on a small board behind the plate, for what takes more than a driver may switch: a flood lamp, a motor, a bell. Coil
 * of 5 V and 70 ohms, as the usual small relays have it.
 */
export const relay: PartKind = {
  id: 'relay-5v',
  name: 'Relay, coil of 5 V and 71 mA',
  family: 'sounder',
  mount: {
    // The small lamp on such a board, which is lit while the coil is, shows through it.
    cutouts: [round(3.2)],
    screws: fourScrews(30, 20, 3.2),
    body: { widthMm: 36, heightMm: 26, depthMm: 18 },
    standoffMm: 6,
    reach: { widthMm: 8, heightMm: 8 },
  },
  front: { look: 'lamp', lensMm: 4, colour: 'white' },
  frontMm: { width: 6, height: 6 },
  terminals: [
    { id: 'plus', name: 'coil plus', role: 'lamp-plus' },
    { id: 'minus', name: 'coil minus', role: 'lamp-minus' },
  ],
  aspects: [{ kind: 'lamp', id: 'coil', terminal: 'plus' }],
  electrical: { forwardVolts: 0, milliamps: 71, inductive: true },
}
