import type { Slot } from '../harness/configuration'
import type { Diff } from '../rig/edit'
import type { Rig } from '../rig/rig'
import type { SimulatorCatalogue } from '../rig/simulator-catalogue'

export type SimulatorValue = number | boolean | string | null

/** Everything that can happen to the engine. The caller owns the clock and passes it with each input. */
export type Input =
  /** A whole rig, or an edit of the one it has. */
  | { readonly is: 'rig'; readonly rig: Rig; readonly diff: Diff | null }
  | { readonly is: 'catalogue'; readonly catalogue: SimulatorCatalogue }
  | { readonly is: 'simulator'; readonly up: boolean }
  /** Values that changed, by index into the catalogue; null for one that is absent. */
  | { readonly is: 'frame'; readonly indexes: ArrayLike<number>; readonly values: ArrayLike<SimulatorValue> }
  | { readonly is: 'board'; readonly boardId: string; readonly up: boolean; readonly loaded: readonly Slot[] }
  /** What a board reports of a slot: for contacts one bit each, first contact lowest. */
  | { readonly is: 'report'; readonly boardId: string; readonly slot: number; readonly value: number }
  | { readonly is: 'answer'; readonly request: number; readonly problem: string | null }
  | { readonly is: 'arm'; readonly armed: boolean }
  /** Drives indicators by hand for a while, with or without a simulator, held or armed; packed null ends it. */
  | { readonly is: 'exercise'; readonly partIds: readonly string[]; readonly packed: number | null }
  | { readonly is: 'time' }

/** Everything the engine wants done. */
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
  | { readonly is: 'output'; readonly boardId: string; readonly outputs: readonly Output[] }
  | { readonly is: 'proven'; readonly bindingId: string }
  /** When the engine next wants `time`, at the latest. */
  | { readonly is: 'wake'; readonly at: number }

/** A lamp slot's state, packed as `core/signal/lamp-state` says. */
export interface Output {
  readonly slot: number
  readonly packed: number
}
