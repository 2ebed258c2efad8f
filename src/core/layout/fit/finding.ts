import type { Box } from '../../geometry/boxes'
import type { Move } from '../arrange'

export type FitKind =
  | 'in front'
  | 'fingers'
  | 'behind'
  | 'bridge'
  | 'edge'
  | 'beyond'
  | 'legend under'
  | 'angle'

/** Something on a panel that will not fit or cannot be made, with a way out where one can be worked out. */
export interface FitFinding {
  readonly id: string
  readonly kind: FitKind
  /** The things it is about; the first is the one that a cure moves. */
  readonly keys: readonly string[]
  readonly words: string
  readonly box: Box
  readonly cure: { readonly words: string; readonly moves: ReadonlyMap<string, Move> } | null
}

/** Notes a finding. */
export type Add = (f: Omit<FitFinding, 'id'>) => void
