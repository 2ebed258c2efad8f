import type { Diff } from '../rig/edit'
import { type Rig, rowsOf } from '../rig/rig'

/** The parts that an edit concerns, or null when it may concern all. */
export const partsTouched = (before: Rig, after: Rig, diff: Diff): Set<string> | null => {
  const parts = new Set<string>()
  for (const c of diff) {
    if (c.table === 'curve') return null
    if (c.table === 'part') {
      parts.add(c.id)
      if (c.op !== 'change' || 'name' in c.after || 'kind' in c.after || 'settings' in c.after)
        for (const id of speaking(after, 'part(')) parts.add(id)
    }
    if (c.table === 'layer' || c.table === 'layerSet')
      for (const id of speaking(after, 'layer')) parts.add(id)
    if (c.table === 'binding' || c.table === 'lead') {
      for (const rig of [before, after]) {
        const row = rig[c.table][c.id]
        if (row) parts.add(row.partId)
      }
    }
    if (c.table === 'board')
      for (const l of rowsOf(after, 'lead')) if (l.boardId === c.id) parts.add(l.partId)
  }
  return parts
}

/** Parts whose bindings speak of something anywhere in their settings. */
const speaking = (rig: Rig, word: string): string[] =>
  rowsOf(rig, 'binding')
    .filter((b) => JSON.stringify(b.settings).includes(word))
    .map((b) => b.partId)
