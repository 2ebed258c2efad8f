import type { HarnessPaper } from './harness/papers/names'
import type { WiringPaper } from './harness/papers/wiring-papers'
import type { Paper } from './layout/papers'
import type { Rig } from './rig/rig'
import type { Millimetres } from './units-of-measure'

/** What is taken away to the cutter, the mill and the printer. */
export interface DrawingAsked {
  readonly is: 'panel' | 'dial'
  readonly id: string
  readonly as: 'svg' | 'dxf' | 'pdf'
  readonly kerf: Millimetres
  readonly paper: Paper
}

/** Faces of gauges in their colours, of one or of all on a panel. */
export interface PrintAsked {
  readonly is: 'printed'
  readonly of: 'part' | 'panel'
  readonly id: string
  readonly as: 'svg' | 'pdf'
  readonly paper: Paper
}

/** What is taken to the workshop. */
export interface HarnessAsked {
  readonly is: 'harness'
  readonly file: HarnessPaper
  readonly boardId: string | null
  readonly panelId: string | null
  readonly paper: WiringPaper
}

/** A file that is to be made of a rig, and of which edit that is. */
export interface PaperAsked {
  readonly rig: Rig
  readonly revision: number
  readonly date: string
  readonly asked: DrawingAsked | PrintAsked | HarnessAsked
}

/** Why it cannot be made as it was asked for. */
export interface NotMade {
  readonly refused: string
}

export interface MadePaper {
  readonly type: string
  readonly body: string | Uint8Array
  readonly name: string
}
