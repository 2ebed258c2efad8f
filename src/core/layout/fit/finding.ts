import type { Box } from '../../geometry/boxes'
import type { LegendRow, PanelRow } from '../../rig/rows'
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
  | 'across'
  | 'twice'
  | 'within'
  | 'letter'
  | 'through'

/** A way out: things are moved, or the plate itself or a legend is changed. */
export type FitCure = { readonly words: string } & (
  | { readonly moves: ReadonlyMap<string, Move> }
  | { readonly settings: PanelRow['settings'] }
  | { readonly legend: LegendRow }
)

/** Something on a panel that will not fit or cannot be made, with a way out where one can be worked out. */
export interface FitFinding {
  readonly id: string
  readonly kind: FitKind
  /** The things it is about; the first is the one that a cure moves. */
  readonly keys: readonly string[]
  readonly words: string
  readonly box: Box
  readonly cure: FitCure | null
}

/** Notes a finding. */
export type Add = (f: Omit<FitFinding, 'id'>) => void
