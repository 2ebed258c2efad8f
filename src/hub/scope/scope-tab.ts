import type { HuntWatch } from '../../core/scope/hunt-watch'

/** A moment that was marked: by the builder, or by what was operated on the panel. */
export interface Mark {
  readonly at: number
  readonly byHand: boolean
  /** Where the operated part stood then. */
  readonly position: string | null
}

/** The hunt of one tab. */
export class TabHunt {
  marks: Mark[] = []
  part: { id: string; at: number } | null = null
  toldAt = 0

  constructor(public watch: HuntWatch) {}
}

/** What a tab that has Scope open looks at. Rows are variables and, behind them, events. */
export class ScopeTab {
  pinned: ReadonlySet<string> = new Set()
  muted: ReadonlySet<string> = new Set()
  bound: ReadonlySet<string> = new Set()
  /** The rows on its screen. */
  shown: readonly number[] = []
  /** It has been told nothing of them yet. */
  fresh = true
  /** Its hunt, while it hunts. */
  hunt: TabHunt | null = null
}
