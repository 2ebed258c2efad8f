import type { Millimetres } from '../../units-of-measure'
import { carried, fourScrews, window as hole } from '../mount'
import type { DigitDriver, Draw, PartKind, Terminal } from '../part-kind'

const wires: Record<DigitDriver, readonly Terminal[]> = {
  MAX7219: [
    { id: 'data', name: 'data', role: 'drive', shares: 'MAX7219 data' },
    { id: 'clock', name: 'clock', role: 'drive', shares: 'MAX7219 clock' },
    { id: 'select', name: 'select', role: 'drive' },
  ],
  TM1637: [
    { id: 'clock', name: 'clock', role: 'drive', shares: 'TM1637 clock' },
    { id: 'data', name: 'data', role: 'drive' },
  ],
}

/**
 * A MAX7219 lights one digit at a time with the current that its set resistor gives each segment, so what it takes follows
 * the segments and that, not the number of digits: about 40 mA with the 10 kΩ that modules carry (MAX7219 data sheet, table
 * 11), and 8 mA itself. In everyday use some five of eight are lit, at half brightness. A TM1637 gives a segment some 10 mA
 * in the same way (TM1637 data sheet, "Electrical parameters").
 */
const takes: Record<DigitDriver, { readonly draws: Draw; readonly volts: { least: number; most: number } }> =
  {
    MAX7219: { draws: { typicalMa: 110, mostMa: 8 * 40 + 8 }, volts: { least: 4, most: 5.5 } },
    TM1637: { draws: { typicalMa: 30, mostMa: 8 * 10 }, volts: { least: 3.3, most: 5.5 } },
  }

/** How digits are sold: their pitch, the glass, the board behind them. */
interface Size {
  readonly digitMm: Millimetres
  readonly glassMm: readonly [width: Millimetres, height: Millimetres]
  readonly bodyMm: readonly [width: Millimetres, height: Millimetres, depth: Millimetres]
  readonly module: string
  readonly varies: string
}

/** Digits of 0.36 inch stand 7.5 mm apart, those of 0.56 inch 12.6 mm. */
const SMALL_MM = 7.5
const LARGE_MM = 12.6

const loose = (digits: number): Size => ({
  digitMm: SMALL_MM,
  glassMm: [digits * SMALL_MM, 14],
  bodyMm: [digits * SMALL_MM + 12, 24, 16],
  module: `${digits} digits of 0.36 inch on a board of your own`,
  varies: 'your own board may be of any size',
})

const fourDigits: Size = {
  digitMm: SMALL_MM,
  glassMm: [30.2, 14.1],
  bodyMm: [42, 24, 12],
  module: '4-digit module of 42 × 24 mm, digits of 0.36 inch',
  varies: 'places and sizes of its holes differ',
}

const largeDigits: Size = {
  digitMm: LARGE_MM,
  glassMm: [50.3, 19.1],
  bodyMm: [60, 25, 14],
  module: '4-digit module with digits of 0.56 inch',
  varies: 'boards of 50 to 68 mm are sold',
}

const sixDigits: Size = {
  digitMm: SMALL_MM,
  glassMm: [45.1, 14.1],
  bodyMm: [71, 24, 12],
  module: '6-digit module, two glasses of 3 digits of 0.36 inch',
  varies: 'boards of 66 to 76 mm are sold',
}

const eightDigits: Size = {
  digitMm: SMALL_MM,
  glassMm: [60.3, 14.1],
  bodyMm: [82, 15, 16],
  module: '8-digit module of 82 × 15 mm, two glasses of 4 digits of 0.36 inch',
  varies: 'places and sizes of its holes differ',
}

/** Room round the glass in its window. */
const AROUND_MM = 0.4
/** What the plate shows round it. */
const LIP_MM = 2

/** Seven-segment digits on a carrier with their driver chip. */
const window = (driver: DigitDriver, digits: number, size: Size, id = ''): PartKind => ({
  id: `digits-${digits}-${driver.toLowerCase()}${id}`,
  name: `Digit window, ${digits} digits${size.digitMm === LARGE_MM ? ' of 0.56 inch' : ''}, ${driver}`,
  family: 'digits',
  module: size.module,
  varies: size.varies,
  ...takes[driver],
  mount: carried(
    hole(size.glassMm[0] + AROUND_MM, size.glassMm[1] + AROUND_MM),
    size.bodyMm,
    fourScrews(size.bodyMm[0] - 5, size.bodyMm[1] - 5, 2.7),
    5,
  ),
  front: {
    look: 'digits',
    digits,
    digitMm: size.digitMm,
    highMm: size.digitMm === LARGE_MM ? 14.2 : 9.1,
    glassMm: size.glassMm,
  },
  frontMm: { width: size.glassMm[0] + LIP_MM, height: size.glassMm[1] + LIP_MM },
  terminals: [
    { id: 'plus', name: 'supply', role: 'plus' },
    { id: 'ground', name: 'ground', role: 'ground' },
    ...wires[driver],
  ],
  aspects: [{ kind: 'digits', id: 'digits', driver, digits, terminals: wires[driver].map((t) => t.id) }],
})

export const digitWindows: PartKind[] = [
  ...[3, 4, 5, 6, 7].map((n) => window('MAX7219', n, loose(n))),
  window('MAX7219', 8, eightDigits),
  window('TM1637', 4, fourDigits),
  window('TM1637', 4, largeDigits, '-56'),
  window('TM1637', 6, sixDigits),
]
