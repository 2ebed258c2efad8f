import type { TabHunt } from './hunt'

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
