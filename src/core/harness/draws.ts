import { kindOf } from '../catalogue/own-kind'
import type { Draw, PartKind } from '../catalogue/part-kind'
import type { PartRow } from '../rig/rows'
import type { Milliamps } from '../units-of-measure'

/** What each segment gets from a MAX7219 by its set resistor, for lamps of 2 V: its data sheet, table 11. */
const MAX7219_SEGMENTS: readonly (readonly [kiloohms: number, milliamps: Milliamps])[] = [
  [11.8, 40],
  [17.1, 30],
  [28, 20],
  [63.7, 10],
]
/** One digit is lit at a time, so its eight segments are all that ever flows, besides what the chip takes itself. */
const SEGMENTS = 8
const CHIP_MA: Milliamps = 8
/** In everyday use some five of eight are lit, at half brightness. */
const EVERYDAY = 0.31

/** Between the rows of the table straight in both logarithms; never above what the chip stands. */
const segmentMilliamps = (ohms: number): Milliamps => {
  const k = ohms / 1000
  const [first, last] = [MAX7219_SEGMENTS[0], MAX7219_SEGMENTS.at(-1)]
  if (!first || !last || k <= first[0]) return first?.[1] ?? 0
  const i = MAX7219_SEGMENTS.findIndex(([r]) => r > k)
  const [a, b] =
    i < 0
      ? [MAX7219_SEGMENTS.at(-2) ?? first, last]
      : [MAX7219_SEGMENTS[i - 1] ?? first, MAX7219_SEGMENTS[i] ?? last]
  const slope = Math.log(b[1] / a[1]) / Math.log(b[0] / a[0])
  return a[1] * (k / a[0]) ** slope
}

/** Whether a part's driver has a set resistor, which decides what it takes. */
export const isSetByResistor = (kind: PartKind): boolean =>
  kind.aspects.some((a) => a.kind === 'digits' && a.driver === 'MAX7219')

/** What a part takes: by its own set resistor where it has one, else as makers' sheets usually give it. */
export const drawsOf = (part: PartRow): Draw | undefined => {
  const kind = kindOf(part)
  const ohms = part.settings.setOhms
  if (!kind || ohms === undefined || !isSetByResistor(kind)) return kind?.draws
  const lit = SEGMENTS * segmentMilliamps(ohms)
  return { typicalMa: Math.round(lit * EVERYDAY + CHIP_MA), mostMa: Math.round(lit + CHIP_MA) }
}
