/** What undo and redo would do, in the words of the edits concerned, and what was done last. */
export interface HistorySummary {
  readonly undo: string | null
  readonly redo: string | null
  readonly latest: readonly { readonly revision: number; readonly at: string; readonly sentence: string }[]
}

export const noHistory: HistorySummary = { undo: null, redo: null, latest: [] }
