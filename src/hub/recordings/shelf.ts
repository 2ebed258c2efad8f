import type { Block } from '../../core/recording/block'
import type { RecordedMark } from '../../core/recording/moment'
import type { Source } from '../../core/rig/sources'
import type { OpenedRecording } from '../../store/recording-store'

/** A recording as it is taken from the shelf. */
export type TakenRecording = Omit<OpenedRecording, 'rigId' | 'expected'>

export interface ShelfState {
  /** How much waits to be kept, and why it does. */
  readonly waitingBytes: number
  readonly problem: string | null
  /** A recording of which no more can be kept, or all of them. */
  readonly lost: { readonly id: string | null; readonly why: string } | null
}

/** A recording that begins. */
export interface RecordingBegun {
  readonly id: string
  readonly rigId: string
  readonly name: string
  readonly sources: readonly Source[]
}

/**
 * Where recordings are kept. Beginning and reading answer, and are refused with a sentence; what is put there is kept as
 * soon as can be, and `told` says how that stands.
 */
export interface Shelf {
  begin(recording: RecordingBegun): Promise<void>
  /** `exact` has a 1 for each variable that is kept as it is however often it changes. */
  add(id: string, n: number, block: Block, exact: Uint8Array, marks: readonly RecordedMark[]): void
  end(id: string, why: string | null, armed: boolean): void
  take(id: string): Promise<TakenRecording | null>
  read(id: string, n: number): Promise<Block | null>
  /** Resolves once nothing waits any more. */
  settled(): Promise<void>
  told: (state: ShelfState) => void
}
