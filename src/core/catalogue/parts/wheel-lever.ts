import { window } from '../mount'
import type { PartKind } from '../part-kind'

/** A tall slide lever with a round knob and a micro switch at either end; neither is closed in the middle. */
export const wheelLever: PartKind = {
  id: 'wheel-lever',
  name: 'Wheel lever, 3 positions',
  family: 'lever',
  mount: {
    cutouts: [window(6, 56, 3)],
    screws: [-1, 1].map((side) => ({ xMm: 0, yMm: side * 36, diameterMm: 3.2 })),
    body: { widthMm: 22, heightMm: 84, depthMm: 40 },
    standoffMm: 0,
    reach: { widthMm: 24, heightMm: 76 },
  },
  front: { look: 'lever', travelMm: 50, knobMm: 17.2 },
  frontMm: { width: 17.2, height: 67.2 },
  terminals: [
    { id: 'common', name: 'common', hint: 'to ground', role: 'common' },
    { id: 'up', name: 'upper contact', role: 'contact' },
    { id: 'down', name: 'lower contact', role: 'contact' },
  ],
  aspects: [
    {
      kind: 'positions',
      id: 'position',
      positions: [
        { id: 'up', closes: ['up'] },
        { id: 'off', closes: [] },
        { id: 'down', closes: ['down'] },
      ],
      momentary: false,
      debounceMs: 12,
    },
  ],
}
