import type { PinAbility } from '../catalogue/board-model'
import { modelOf } from '../catalogue/own-board'
import { leadsOnBoard, type Rig } from '../rig/rig'
import type { BoardRow } from '../rig/rows'
import { type Beginning, terminalAt } from './leads'
import { pinObjection } from './pin-objection'
import { isPulsed, pwmUsers } from './pwm-channels'

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

/** A free pin of a board that will do, the least able first; null where there is none. */
export const freePin = (
  rig: Rig,
  boardId: string,
  from: Beginning,
  fits: (pin: string) => boolean = () => true,
): string | null => {
  const model = modelOf(rig.board[boardId])
  const terminal = terminalAt(rig, from)
  const taken = new Set(leadsOnBoard(rig, boardId).map((l) => l.pin))
  const pulsed = isPulsed(rig, from) ? pwmUsers(rig, boardId) : null
  // The wire that is to move leaves its own channel.
  const isFree = (channel: string | undefined): boolean =>
    (pulsed?.get(channel ?? '') ?? []).every((l) => l.partId === from.id && l.terminal === from.terminal)
  const able = (model?.pins ?? []).filter(
    (p) => !taken.has(p.name) && fits(p.name) && pinObjection(p, terminal) === null && isFree(p.pwmChannel),
  )
  const [best] = able.sort((a, b) => a.abilities.length - b.abilities.length)
  return best?.name ?? null
}
