import { twoWireLines } from '../expander-kind'
import { carried, fourScrews, window } from '../mount'
import type { PartKind, Terminal } from '../part-kind'

const supply: readonly Terminal[] = [
  { id: 'ground', name: 'ground', role: 'ground' },
  { id: 'plus', name: 'supply', role: 'plus' },
]

/** The HD44780's own lines in its four-bit mode; all but the enable line may be shared with other displays. */
const parallelLines: readonly Terminal[] = [
  { id: 'register', name: 'register select', role: 'drive', shares: 'HD44780 register' },
  { id: 'enable', name: 'enable', role: 'drive' },
  ...[4, 5, 6, 7].map(
    (n): Terminal => ({ id: `data-${n}`, name: `data ${n}`, role: 'drive', shares: `HD44780 data ${n}` }),
  ),
]

/** Room round the bezel in its window. */
const AROUND_MM = 0.4

const textDisplay = (
  columns: number,
  rows: number,
  [width, height]: readonly [number, number],
  [boardWidth, boardHeight]: readonly [number, number],
  bus: 'two-wire' | 'parallel',
): PartKind => {
  const twoWire = bus === 'two-wire'
  const lines = twoWire ? twoWireLines : parallelLines
  return {
    id: `text-${columns}x${rows}${twoWire ? '' : '-parallel'}`,
    name: `Text display, ${columns}×${rows}${twoWire ? '' : ', on six lines'}`,
    front: { look: 'text', columns, rows },
    family: 'text',
    module: `${columns} × ${rows} module of ${boardWidth} × ${boardHeight} mm with a bezel ${width} mm wide${twoWire ? ' and an adapter for the two-wire bus' : ''}`,
    varies: 'the bezel’s height, and where on the board it sits',
    draws: { typicalMa: columns * rows * 0.8, mostMa: columns * rows * 1.6 },
    frontMm: { width, height },
    mount: carried(
      window(width + AROUND_MM, height + AROUND_MM),
      [boardWidth, boardHeight, twoWire ? 22 : 12],
      // As the sheets of such modules have them: 75 × 31 and 93 × 55 mm.
      fourScrews(boardWidth - 5, boardHeight - 5, 3.2),
      6,
    ),
    // The controller runs from 2.7 V, the glass shows nothing below 4.5 V or so: HD44780U data sheet, "DC characteristics", V_LCD.
    volts: { least: 4.5, most: 5.5 },
    terminals: [...supply, ...lines],
    aspects: [{ kind: 'text', id: 'text', columns, rows, bus, terminals: lines.map((t) => t.id) }],
    // HD44780U data sheet: input high voltage 2.2 V at 5 V.
    ...(twoWire ? {} : { highVolts: 2.2 }),
    ...(twoWire ? { addresses: { first: 0x20, count: 8, asMade: 7 } } : {}),
  }
}

/** Metal bezel, then board: the widths hardly differ from maker to maker, the heights by a millimetre or two. */
const small = [16, 2, [71.2, 25.2], [80, 36]] as const
const large = [20, 4, [97, 40], [98, 60]] as const

/** HD44780 text displays: with a PCF8574 behind them on the two-wire bus, or on lines of their own. */
export const textDisplays: PartKind[] = [
  textDisplay(...small, 'two-wire'),
  textDisplay(...large, 'two-wire'),
  textDisplay(...small, 'parallel'),
  textDisplay(...large, 'parallel'),
]
