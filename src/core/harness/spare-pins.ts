import type { PinAbility } from '../catalogue/board-model'
import { modelOf } from '../catalogue/own-board'
import { leadsOnBoard, type Rig } from '../rig/rig'
import type { BoardRow } from '../rig/rows'

export interface SparePins {
  readonly pins: number
  readonly byAbility: Readonly<Partial<Record<PinAbility, number>>>
}

/** The pins of a board that nothing hangs on and that it does not use itself, counted by what they can do. */
export const sparePins = (rig: Rig, board: BoardRow): SparePins => {
  const used = new Set(leadsOnBoard(rig, board.id).map((l) => l.pin))
  const spare = (modelOf(board)?.pins ?? []).filter((p) => !p.taken && !used.has(p.name))
  const byAbility: Partial<Record<PinAbility, number>> = {}
  for (const pin of spare) for (const a of pin.abilities) byAbility[a] = (byAbility[a] ?? 0) + 1
  return { pins: spare.length, byAbility }
}
