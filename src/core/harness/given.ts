import { modelOf } from '../catalogue/own-board'
import { boardOfLead, leadsOf, type Rig } from '../rig/rig'
import type { BoardRow, LeadRow } from '../rig/rows'

/** Whether a board is a bought device, in which everything hangs already. */
export const isGiven = (board: BoardRow | undefined): boolean => modelOf(board)?.given === true

/** Whether a lead only says what hangs on which contact of a bought device: nobody solders it. */
export const isInside = (rig: Rig, lead: LeadRow): boolean => {
  const boardId = boardOfLead(rig, lead)
  return boardId !== null && isGiven(rig.board[boardId])
}

/** Whether a part came with a bought device: all its leads are inside. */
export const cameWithDevice = (rig: Rig, partId: string): boolean => {
  const leads = leadsOf(rig, partId)
  return leads.length > 0 && leads.every((l) => isInside(rig, l))
}
