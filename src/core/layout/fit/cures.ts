import type { Box } from '../../geometry/boxes'
import { type Change, changeRow } from '../../rig/edit'
import type { Rig } from '../../rig/rig'
import type { PanelRow } from '../../rig/rows'
import type { Millimetres } from '../../units-of-measure'
import { type Move, moved } from '../arrange'
import { surfaceOfPanel } from '../things'
import type { FitCure, FitFinding } from './finding'

/** Rounded up to tenths: what is said to be left is never less. */
export const mm = (n: Millimetres): string => `${(Math.ceil(n * 10 - 1e-6) / 10).toFixed(1)} mm`

/** A little further than just enough, on the grid of tenths. */
const enough = (n: Millimetres): Millimetres => Math.ceil(n * 10 + 0.5) / 10

/** The shortest way that takes the first box off the second. */
export const wayOff = (a: Box, b: Box, room = 0): Move => {
  const ways: Move[] = [
    { dx: -enough(a.maxX - b.minX + room), dy: 0 },
    { dx: enough(b.maxX - a.minX + room), dy: 0 },
    { dx: 0, dy: -enough(a.maxY - b.minY + room) },
    { dx: 0, dy: enough(b.maxY - a.minY + room) },
  ]
  return ways.reduce((best, w) => (Math.abs(w.dx + w.dy) < Math.abs(best.dx + best.dy) ? w : best))
}

const moveWords = ({ dx, dy }: Move, name: string): string =>
  `Move ${name} ${mm(Math.abs(dx + dy))} ${dx < 0 ? 'left' : dx > 0 ? 'right' : dy < 0 ? 'up' : 'down'}`

/** Takes a thing out of the way. */
export const cureBy = (key: string, name: string, move: Move): FitFinding['cure'] => ({
  words: moveWords(move, name),
  moves: new Map([[key, move]]),
})

/** Takes a thing back onto the plate; null for one that is. */
export const backInside = (f: Box & { key: string; name: string }, plate: Box): FitFinding['cure'] => {
  const dx = Math.max(0, plate.minX - f.minX) || Math.min(0, plate.maxX - f.maxX)
  const dy = Math.max(0, plate.minY - f.minY) || Math.min(0, plate.maxY - f.maxY)
  const out = (n: number) => Math.sign(n) * (n === 0 ? 0 : enough(Math.abs(n)))
  if (dx === 0 && dy === 0) return null
  return { words: `Move ${f.name} back inside`, moves: new Map([[f.key, { dx: out(dx), dy: out(dy) }]]) }
}

/** The changes that a cure stands for. */
export const curedBy = (rig: Rig, panel: PanelRow, cure: FitCure): (Change | null)[] =>
  'moves' in cure
    ? moved(rig, surfaceOfPanel(panel), cure.moves)
    : 'settings' in cure
      ? [changeRow('panel', panel, { ...panel, settings: cure.settings })]
      : [changeRow('legend', rig.legend[cure.legend.id] ?? cure.legend, cure.legend)]
