import { carried, fourScrews, window as hole } from '../mount'
import type { DigitDriver, PartKind, Terminal } from '../part-kind'

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

const digitMm = 9.2

/** Seven-segment digits on a carrier with their driver chip. */
const window = (driver: DigitDriver, digits: number): PartKind => ({
  id: `digits-${digits}-${driver.toLowerCase()}`,
  name: `Digit window, ${digits} digits, ${driver}`,
  family: 'digits',
  draws: { typicalMa: 15 * digits, mostMa: 40 * digits },
  mount: carried(
    hole(digits * digitMm + 1, 15),
    [digits * digitMm + 12, 27, 16],
    fourScrews(digits * digitMm + 7, 22, 2.7),
    5,
  ),
  front: { look: 'digits', digits, digitMm },
  frontMm: { width: digits * digitMm + 4, height: 19 },
  terminals: [
    { id: 'plus', name: 'supply', role: 'plus' },
    { id: 'ground', name: 'ground', role: 'ground' },
    ...wires[driver],
  ],
  aspects: [{ kind: 'digits', id: 'digits', driver, digits, terminals: wires[driver].map((t) => t.id) }],
})

export const digitWindows: PartKind[] = [
  ...[3, 4, 5, 6, 7, 8].map((n) => window('MAX7219', n)),
  ...[4, 6].map((n) => window('TM1637', n)),
]
