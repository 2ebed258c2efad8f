import { carried, fourScrews, window } from '../mount'
import type { PartKind } from '../part-kind'

/** A small colour screen with its own cable to the computer, by the diagonal of its picture in inches. */
const screen = (
  inches: string,
  [width, height]: readonly [number, number],
  [boardWidth, boardHeight]: readonly [number, number],
  typicalMa: number,
): PartKind => ({
  id: `screen-${inches.replace('.', '-')}`,
  name: `Screen, ${inches} inch`,
  family: 'screen',
  draws: { typicalMa, mostMa: Math.round(typicalMa * 1.35) },
  front: { look: 'screen', widthMm: width, heightMm: height },
  frontMm: { width: width + 2, height: height + 2 },
  mount: carried(
    window(width + 1, height + 1),
    [boardWidth, boardHeight, 16],
    fourScrews(boardWidth - 6, boardHeight - 6, 3.2),
    5,
  ),
  terminals: [],
  aspects: [],
})

export const screens: PartKind[] = [
  screen('2.8', [57.6, 43.2], [86, 50], 150),
  screen('3.5', [73.4, 49], [98, 58], 200),
  screen('5', [108, 64.8], [121, 76], 500),
  screen('7', [154.2, 85.9], [165, 100], 800),
  screen('10.1', [216.9, 135.6], [235, 150], 1200),
]
