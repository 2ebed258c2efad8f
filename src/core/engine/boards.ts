import { type Configuration, slotKey } from '../harness/slot'
import { isWired } from '../harness/wiring'
import type { Millis } from '../units-of-measure'
import type { BoardState } from './board-state'
import type { Effect } from './input'
import { OutputQueue } from './output-queue'
import type { ControlUnit, IndicatorUnit } from './units'

export type Seat = ControlUnit | IndicatorUnit
export type Board = BoardState<Seat>

/** How long a board may take to say that it shows what it was told, before that is said to be waited for. */
export const CONFIRM_MS: Millis = 600

/** When a board can be told more of what waits for it. */
export interface DrainTimer {
  readonly is: 'drain'
  readonly board: Board
}

/** What each board holds, who has which place on it, and what it is still to be told. */
export class Boards {
  private readonly all = new Map<string, Board>()
  private readonly waiting = new Set<Board>()

  get(id: string): Board | undefined {
    return this.all.get(id)
  }

  private board(id: string): Board {
    let board = this.all.get(id)
    if (!board) {
      const queue = new OutputQueue()
      board = { id, up: false, boot: null, slots: new Map(), owners: new Map(), queue, drainPlanned: false }
      this.all.set(id, board)
    }
    return board
  }

  /** A board came or went, or holds something else now: its places are given anew. */
  changed(id: string, up: boolean, { chips, slots }: Configuration, bytesPerS: number): Board {
    const board = this.board(id)
    board.up = up
    board.queue.forget(bytesPerS)
    board.slots = new Map(slots.map((slot, i) => [slotKey(slot, chips), i]))
    board.owners.clear()
    return board
  }

  /** Finds an aspect's place on its board; true when the board holds it. */
  place(seat: Seat): boolean {
    if (!isWired(seat.wiring)) return false
    const board = this.board(seat.wiring.boardId)
    seat.board = board
    seat.slot = board.slots.get(seat.wiring.key) ?? -1
    if (seat.slot < 0) return false
    board.owners.set(seat.slot, seat)
    return true
  }

  /** Takes an aspect from its place; gives the board if the place was its own. */
  leave(seat: Seat): Board | null {
    const board = seat.board as Board | null
    if (!board || board.owners.get(seat.slot) !== seat) return null
    board.owners.delete(seat.slot)
    return board
  }

  everyone(): Iterable<Board> {
    return this.all.values()
  }

  /** Whether some board that is there has not confirmed all that it was told. */
  isUnconfirmed(): boolean {
    for (const board of this.all.values()) if (board.up && board.queue.isUnconfirmed) return true
    return false
  }

  /** Something waits to be told to a board. */
  waits(board: Board): void {
    this.waiting.add(board)
  }

  /** Tells the boards as much of what waits as their lines take now. */
  drain(now: Millis, emit: (effect: Effect) => void, later: (at: Millis, timer: DrainTimer) => void): void {
    for (const board of this.waiting) {
      const boardId = board.id
      const outputs = board.queue.take(now)
      if (outputs.length > 0) emit({ is: 'output', boardId, batch: board.queue.batch, outputs })
      if (board.queue.size > 0 && !board.drainPlanned) {
        board.drainPlanned = true
        later(board.queue.readyAt(now), { is: 'drain', board })
      }
    }
    this.waiting.clear()
  }
}
