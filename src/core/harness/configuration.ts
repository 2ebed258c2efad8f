import { type Rig, rowsOf } from '../rig/rig'
import { pinsOf, type Slot, slotKey } from './slot'
import { isWired, wiringsOf } from './wiring'

export interface WantedSlot {
  readonly slot: Slot
  readonly partId: string
}

/** Found once for each version of a rig: rigs are never mutated. */
const wantedOf = new WeakMap<Rig, Map<string, WantedSlot[]>>()

const findWanted = (rig: Rig): Map<string, WantedSlot[]> => {
  const byBoard = new Map<string, WantedSlot[]>()
  for (const part of rowsOf(rig, 'part')) {
    for (const { wiring } of wiringsOf(rig, part)) {
      if (!isWired(wiring)) continue
      const list = byBoard.get(wiring.boardId)
      if (list) list.push({ slot: wiring.slot, partId: part.id })
      else byBoard.set(wiring.boardId, [{ slot: wiring.slot, partId: part.id }])
    }
  }
  for (const list of byBoard.values()) list.sort((a, b) => firstPin(a.slot) - firstPin(b.slot))
  return byBoard
}

const firstPin = (slot: Slot): number => pinsOf(slot)[0] ?? 0

/** What a board should hold: one slot per wired aspect, in the order of their first pin. */
export const wantedSlots = (rig: Rig, boardId: string): readonly WantedSlot[] => {
  let byBoard = wantedOf.get(rig)
  if (!byBoard) {
    byBoard = findWanted(rig)
    wantedOf.set(rig, byBoard)
  }
  return byBoard.get(boardId) ?? []
}

/** The parts of which something on the board is missing or different from what is drawn. */
export const differingParts = (rig: Rig, boardId: string, loaded: readonly Slot[]): string[] => {
  const held = new Map(loaded.map((s) => [slotKey(s), JSON.stringify(s)]))
  const differing = wantedSlots(rig, boardId).filter(
    ({ slot }) => held.get(slotKey(slot)) !== JSON.stringify(slot),
  )
  return [...new Set(differing.map((w) => w.partId))]
}
