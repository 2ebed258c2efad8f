import { type Rig, rowsOf } from '../rig/rig'
import type { Chip } from './chip'
import { chipsOf } from './lines'
import { type Configuration, pinsOf, type Slot, slotKey, slotWords } from './slot'
import { isWired, wiringsOf } from './wiring'

export interface WantedSlot {
  readonly slot: Slot
  readonly partId: string
}

/** What a board should hold, and which part each slot is of. */
export interface WantedBoard {
  readonly chips: readonly Chip[]
  readonly slots: readonly WantedSlot[]
}

/** Found once for each version of a rig: rigs are never mutated. */
const wantedOf = new WeakMap<Rig, Map<string, WantedBoard>>()

const findWanted = (rig: Rig): Map<string, WantedBoard> => {
  const byBoard = new Map<string, WantedSlot[]>()
  for (const part of rowsOf(rig, 'part')) {
    for (const { wiring } of wiringsOf(rig, part)) {
      if (!isWired(wiring)) continue
      const list = byBoard.get(wiring.boardId)
      if (list) list.push({ slot: wiring.slot, partId: part.id })
      else byBoard.set(wiring.boardId, [{ slot: wiring.slot, partId: part.id }])
    }
  }
  const wanted = new Map<string, WantedBoard>()
  for (const board of rowsOf(rig, 'board')) {
    const slots = (byBoard.get(board.id) ?? []).sort((a, b) => firstPlace(a.slot) - firstPlace(b.slot))
    wanted.set(board.id, { chips: chipsOf(rig, board.id), slots })
  }
  return wanted
}

const firstPlace = (slot: Slot): number => pinsOf(slot)[0] ?? 0

const nothing: WantedBoard = { chips: [], slots: [] }

/** What a board should hold: its wired expanders, and one slot per wired aspect in the order of their first place. */
export const wantedOn = (rig: Rig, boardId: string): WantedBoard => {
  let byBoard = wantedOf.get(rig)
  if (!byBoard) {
    byBoard = findWanted(rig)
    wantedOf.set(rig, byBoard)
  }
  return byBoard.get(boardId) ?? nothing
}

/** The same as it is loaded. */
export const wantedConfiguration = (rig: Rig, boardId: string): Configuration => {
  const { chips, slots } = wantedOn(rig, boardId)
  return { chips, slots: slots.map((w) => w.slot) }
}

/** The parts of which something on the board is missing or different from what is drawn. */
export const differingParts = (rig: Rig, boardId: string, loaded: Configuration): string[] => {
  const { chips, slots } = wantedOn(rig, boardId)
  const held = new Map(loaded.slots.map((s) => [slotKey(s, loaded.chips), slotWords(s, loaded.chips)]))
  const differing = slots.filter(({ slot }) => held.get(slotKey(slot, chips)) !== slotWords(slot, chips))
  return [...new Set(differing.map((w) => w.partId))]
}

/** Whether a board holds just what is drawn, neither less nor more. */
export const holdsWanted = (rig: Rig, boardId: string, loaded: Configuration): boolean =>
  loaded.slots.length === wantedOn(rig, boardId).slots.length &&
  loaded.chips.length === wantedOn(rig, boardId).chips.length &&
  differingParts(rig, boardId, loaded).length === 0
