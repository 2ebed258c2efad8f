import { bushed, type Mount, round } from '../mount'
import type { PartKind } from '../part-kind'

/** A round connector in the plate, for the cable of a removable panel. */
const connector = (contacts: number, shellMm: number): PartKind => ({
  id: `connector-${contacts}`,
  name: `Round connector, ${contacts} contacts`,
  family: 'connector',
  front: { look: 'connector', shellMm, contacts },
  frontMm: { width: shellMm + 4, height: shellMm + 4 },
  mount: bushed(round(shellMm + 0.2), [shellMm + 4, shellMm + 4, 24], [shellMm + 10, shellMm + 10]),
  terminals: [],
  aspects: [],
})

const behind = (headMm: number, holeMm: number): Mount => ({
  cutouts: [round(holeMm)],
  screws: [],
  body: { widthMm: headMm, heightMm: headMm, depthMm: 6 },
  standoffMm: 0,
  reach: { widthMm: headMm, heightMm: headMm },
})

/** A screw with its washer, for whatever holds the plate or hangs behind it. */
const screw = (size: number, headMm: number): PartKind => ({
  id: `screw-m${size}`,
  name: `Screw, M${size}`,
  family: 'screw',
  front: { look: 'screw', headMm },
  frontMm: { width: headMm, height: headMm },
  mount: behind(headMm, size + 0.2),
  terminals: [],
  aspects: [],
})

export const connectors: PartKind[] = [connector(5, 12), connector(8, 16), connector(12, 21)]
export const screws: PartKind[] = [screw(3, 5.5), screw(4, 7)]
