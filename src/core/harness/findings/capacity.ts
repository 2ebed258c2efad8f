import type { WorkingRoom } from '../../catalogue/board-model'
import { modelOf } from '../../catalogue/own-board'
import { boardsOf, type Rig } from '../../rig/rig'
import { type BoardLimits, loadObjection } from '../board-limits'
import { wantedConfiguration } from '../configuration'
import { type Configuration, encodeConfiguration, workingBytes } from '../slot'
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
const expected = (keepsBytes: number, works: WorkingRoom | undefined): BoardLimits => ({
  frameBytes: 512,
  configurationBytes: Math.floor((keepsBytes - OWN_BYTES) / 2) - HEAD_BYTES,
  slots: works?.slots ?? 500,
  bytesPerS: 11_520,
})

/** Why the boards' own program cannot work with this on such a chip, in words; null where it can. */
const workObjection = (wanted: Configuration, room: WorkingRoom): string | null => {
  if (wanted.chips.length > room.chips)
    return `${wanted.chips.length} chips or chains of chips hang on it, and it can drive ${room.chips}`
  const bytes = workingBytes(wanted)
  return bytes > room.bytes
    ? `its displays, motors and chips take ${bytes} bytes of the memory it works with, and it has ${room.bytes}`
    : null
}

/** The room of the boards' own program, unless what was heard is another program. */
const roomOf = (works: WorkingRoom | undefined, heard: BoardLimits | undefined): WorkingRoom | null =>
  works && (heard === undefined || heard.slots === works.slots) ? works : null

/** Boards on which more hangs than they can hold: said before anybody loads them. */
export const capacity = (rig: Rig, known: KnownLimits): HarnessFinding[] =>
  boardsOf(rig).flatMap((board): HarnessFinding[] => {
    const model = modelOf(board)
    const heard = known.get(board.id)
    const limits = heard ?? (model?.keepsBytes === undefined ? null : expected(model.keepsBytes, model.works))
    const room = roomOf(model?.works, heard)
    const wanted = wantedConfiguration(rig, board.id)
    const problem =
      (limits && loadObjection(wanted, encodeConfiguration(wanted).length, limits)) ??
      (room && workObjection(wanted, room))
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
