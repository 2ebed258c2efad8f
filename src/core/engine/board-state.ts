import type { OutputQueue } from './output-queue'

/** A board as the engine knows it: what it holds, and what it has still to be told. */
export interface BoardState<Owner = unknown> {
  readonly id: string
  up: boolean
  /** Its start, as it last told; null before it was first heard. */
  boot: number | null
  /** Slot number on the board by what the slot is. */
  slots: Map<string, number>
  owners: Map<number, Owner>
  readonly queue: OutputQueue
  drainPlanned: boolean
}
