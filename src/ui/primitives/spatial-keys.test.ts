import { expect, it } from 'vitest'
import { nextIn } from './spatial-keys'

const row = [0, 10, 20].map((x) => [x, 0] as const)
const column = [10, 20].map((y) => [0, y] as const)
const places = [...row, ...column]

it.each([
  ['the nearest to the right', [0, 0], [1, 0], 1],
  ['the nearest below', [0, 0], [0, 1], 3],
  ['back to the left', [20, 0], [-1, 0], 1],
  ['straight ahead rather than nearer but aside', [0, 10], [0, 1], 4],
  ['nothing beyond the end', [20, 0], [1, 0], -1],
] as const)('leads to %s', (_, from, way, found) => {
  expect(nextIn(from, way, places)).toBe(found)
})
