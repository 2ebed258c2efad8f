import type { Configuration } from '../harness/slot'
import type { Diff } from '../rig/edit'
import type { Rig } from '../rig/rig'
import type { Source } from '../rig/sources'
import type { State } from '../signal/state'
import type { Exercise } from './exercise'

export type SimulatorValue = number | boolean | string | null

/** Everything that can happen to the engine. The caller owns the clock and passes it with each input. */
export type Input =
  /** A whole rig, or an edit of the one it has. */
  | { readonly is: 'rig'; readonly rig: Rig; readonly diff: Diff | null }
  /** All sources of values, in their order, with what each tells. */
  | { readonly is: 'sources'; readonly sources: readonly Source[] }
  | { readonly is: 'source'; readonly source: string; readonly up: boolean }
  /** Values that changed, by index into the catalogue of their source; null for one that is absent. */
  | {
      readonly is: 'frame'
      readonly source: string
      readonly indexes: ArrayLike<number>
      readonly values: ArrayLike<SimulatorValue>
    }
  | {
      readonly is: 'board'
      readonly boardId: string
      readonly up: boolean
      readonly loaded: Configuration
      /** Another number after each start of the board and each load: its counts then begin anew. */
      readonly boot: number
      /** What its line carries each way; 0 where that is not known. */
      readonly bytesPerS: number
    }
  /** What a board itself says of what it shows. */
  | { readonly is: 'shown'; readonly boardId: string; readonly shown: Shown }
  /** Frames have stopped coming although the link stands, or come again. */
  | { readonly is: 'quiet'; readonly source: string; readonly quiet: boolean }
  /** What a board reports of a slot: a bit for each contact, an encoder's count, or a level of 0 to 1023. */
  | { readonly is: 'report'; readonly boardId: string; readonly slot: number; readonly value: number }
  /** Where a control stands, learnt without its having been operated. */
  | { readonly is: 'found'; readonly boardId: string; readonly slot: number; readonly value: number }
  | { readonly is: 'answer'; readonly request: number; readonly problem: string | null }
  | { readonly is: 'arm'; readonly armed: boolean }
  /** The craft set that holds from now on, or none. */
  | { readonly is: 'craft set'; readonly set: string | null }
  /** Drives indicators by hand for a while, with or without a simulator, held or armed; null ends it. */
  | { readonly is: 'exercise'; readonly partIds: readonly string[]; readonly how: Exercise | null }
  /** Tells the simulator the positions of these parts, because the builder says that the panel leads. */
  | { readonly is: 'settle'; readonly partIds: readonly string[] }
  | { readonly is: 'time' }

/** What a board shows: all it was told up to a batch, or something else than what was told last, or than anything. */
export type Shown =
  | { readonly is: 'confirmed'; readonly batch: number }
  | { readonly is: 'differs'; readonly all: boolean }

/** Everything the engine wants done. Variables and events are counted among those of all sources. */
export type Effect =
  | {
      readonly is: 'set'
      readonly request: number
      readonly variable: number
      readonly value: number | string
    }
  | {
      readonly is: 'event'
      readonly request: number
      readonly event: number
      readonly value: number | string | null
    }
  /** `batch` counts these for each board, so that what it confirms can be named. */
  | {
      readonly is: 'output'
      readonly boardId: string
      readonly batch: number
      readonly outputs: readonly Output[]
    }
  | { readonly is: 'proven'; readonly bindingId: string }
  /** When the engine next wants `time`, at the latest. */
  | { readonly is: 'wake'; readonly at: number }

/** A state for a slot, or for one row of it where it has several. */
export interface Output {
  readonly slot: number
  readonly row: number
  readonly state: State
}
