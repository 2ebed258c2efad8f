import { carried, fourScrews, window } from '../mount'
import type { PartKind } from '../part-kind'

/** An HD44780 text display with a PCF8574 behind it, on the two-wire bus. */
const textDisplay = (
  columns: number,
  rows: number,
  [width, height]: readonly [number, number],
  [boardWidth, boardHeight]: readonly [number, number],
): PartKind => ({
  id: `text-${columns}x${rows}`,
  name: `Text display, ${columns}×${rows}`,
  front: { look: 'text', columns, rows },
  family: 'text',
  draws: { typicalMa: columns * rows * 0.8, mostMa: columns * rows * 1.6 },
  frontMm: { width, height },
  mount: carried(
    window(width, height),
    [boardWidth, boardHeight, 22],
    fourScrews(boardWidth - 5, boardHeight - 5, 3.2),
    6,
  ),
  terminals: [
    { id: 'ground', name: 'ground', role: 'ground' },
    { id: 'plus', name: 'supply', role: 'plus' },
    { id: 'data', name: 'two-wire data', role: 'two-wire-data' },
    { id: 'clock', name: 'two-wire clock', role: 'two-wire-clock' },
  ],
  aspects: [{ kind: 'text', id: 'text', columns, rows, terminals: ['data', 'clock'] }],
})

export const textDisplays: PartKind[] = [
  textDisplay(16, 2, [71, 26], [80, 36]),
  textDisplay(20, 4, [96, 42], [98, 60]),
]
