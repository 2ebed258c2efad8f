import type { Millimetres } from '../units-of-measure'

/** Sizes of paper, upright. */
export const papers = {
  A4: [210, 297],
  A3: [297, 420],
  letter: [215.9, 279.4],
} as const satisfies Record<string, readonly [Millimetres, Millimetres]>
export type Paper = keyof typeof papers
