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
    draws: { typicalMa: columns * rows * 0.8, mostMa: columns * rows * 1.6 },
    frontMm: { width, height },
    mount: carried(
      window(width, height),
      [boardWidth, boardHeight, twoWire ? 22 : 12],
      fourScrews(boardWidth - 5, boardHeight - 5, 3.2),
      6,
    ),
    terminals: [...supply, ...lines],
    aspects: [{ kind: 'text', id: 'text', columns, rows, bus, terminals: lines.map((t) => t.id) }],
    // HD44780U data sheet: input high voltage 2.2 V at 5 V.
    ...(twoWire ? {} : { highVolts: 2.2 }),
    ...(twoWire ? { addresses: { first: 0x20, count: 8, asMade: 7 } } : {}),
  }
}

const small = [16, 2, [71, 26], [80, 36]] as const
const large = [20, 4, [96, 42], [98, 60]] as const

/** HD44780 text displays: with a PCF8574 behind them on the two-wire bus, or on lines of their own. */
export const textDisplays: PartKind[] = [
  textDisplay(...small, 'two-wire'),
  textDisplay(...large, 'two-wire'),
  textDisplay(...small, 'parallel'),
  textDisplay(...large, 'parallel'),
]
