import { z } from 'zod'
import { finite } from '../aspects/binding-fields'
import { needleFace } from '../aspects/face'
import { needlePoints } from '../aspects/needle'
import { needleAngle } from '../signal/needle'
import type { Degrees } from '../units-of-measure'
import { colour, colourRanges, type ElementKind, heldSettings, live, nothingFollowed } from './element-kind'

const settings = z.strictObject({
  kind: z.literal('needle'),
  ...heldSettings,
  /** The same points and the same face as those of a real needle. */
  points: needlePoints,
  smooth: z.boolean(),
  face: needleFace,
  /** How many millimetres across it stands for: what sizes of its face are measured by. */
  dialMm: finite.min(10).max(300),
  /** Without its face it is a second needle over another. */
  showsFace: z.boolean(),
  shape: z.enum(['line', 'wedge', 'arrow']),
  /** Its length as a share of the dial's radius. */
  length: finite.min(0.1).max(1),
  colour,
  ranges: colourRanges.nullable(),
})
export type NeedleElement = z.infer<typeof settings>

export const needle: ElementKind<typeof settings> = {
  kind: 'needle',
  word: 'Needle',
  says: 'a dial with a needle, as a real one would be',
  settings,
  live: () => [live('value')],
  fresh: () => ({
    width: 180,
    height: 180,
    settings: {
      ...nothingFollowed,
      kind: 'needle',
      points: [
        { value: 0, deg: -135 },
        { value: 100, deg: 135 },
      ],
      ...{ smooth: false, face: {}, dialMm: 50, showsFace: true, shape: 'wedge', length: 0.8 },
      ...{ colour: '#ff8f5a', ranges: null },
    },
  }),
  range: ({ points }) => [points[0]?.value ?? 0, points.at(-1)?.value ?? 1],
}

/** From a value to the needle's angle, clockwise from straight up. */
export const angleOf = ({ points, smooth }: NeedleElement): ((value: number) => Degrees) =>
  needleAngle(points, smooth)

/** A needle of some length that points straight up, as path data. */
export const needlePath = (shape: NeedleElement['shape'], length: number): string => {
  const w = Math.max(1, length * 0.035)
  const n = (x: number) => Number(x.toFixed(2))
  switch (shape) {
    case 'line':
      return `M${n(-w / 2)} ${n(length * 0.18)}V${n(-length)}H${n(w / 2)}V${n(length * 0.18)}z`
    case 'wedge':
      return `M${n(-w)} ${n(length * 0.16)}L${n(-w / 2)} ${n(-length)}H${n(w / 2)}L${n(w)} ${n(length * 0.16)}z`
    case 'arrow':
      return `M${n(-w / 2)} ${n(length * 0.1)}V${n(-length * 0.78)}H${n(-w * 2)}L0 ${n(-length)}L${n(w * 2)} ${n(-length * 0.78)}H${n(w / 2)}V${n(length * 0.1)}z`
  }
}
