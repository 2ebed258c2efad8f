import { modelOf } from '../../catalogue/own-board'
import { boardsOf, type Rig } from '../../rig/rig'
import { type BoardLimits, loadObjection } from '../board-limits'
import { wantedConfiguration } from '../configuration'
import { encodeConfiguration } from '../slot'
import type { HarnessFinding } from './finding'

/** What boards have said that they can hold, by the drawn board. */
export type KnownLimits = ReadonlyMap<string, BoardLimits>

/**
 * What a board keeps beside what is loaded: its identity and its start number; and it keeps two loads, each with a head, so
 * that one is whole whenever power goes (firmware/core/store.hpp).
 */
const OWN_BYTES = 16
const HEAD_BYTES = 5

/** What a board holds as its chip's data sheet has it, for one that has not been heard yet. */
const expected = (keepsBytes: number): BoardLimits => ({
  frameBytes: 512,
  configurationBytes: Math.floor((keepsBytes - OWN_BYTES) / 2) - HEAD_BYTES,
  slots: 500,
  bytesPerS: 11_520,
})

/** Boards on which more hangs than they can hold: said before anybody loads them. */
export const capacity = (rig: Rig, known: KnownLimits): HarnessFinding[] =>
  boardsOf(rig).flatMap((board): HarnessFinding[] => {
    const keeps = modelOf(board)?.keepsBytes
    const limits = known.get(board.id) ?? (keeps === undefined ? null : expected(keeps))
    const wanted = wantedConfiguration(rig, board.id)
    const problem = limits && loadObjection(wanted, encodeConfiguration(wanted).length, limits)
    if (!problem) return []
    return [
      {
        id: `capacity ${board.id}`,
        kind: 'capacity',
        words: `${board.name} cannot be loaded: ${problem}. Move some of it to another board.`,
        place: { partIds: [], leadIds: [], boardId: board.id },
        cure: null,
      },
    ]
  })
