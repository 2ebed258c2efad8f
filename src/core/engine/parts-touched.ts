import { partsOfSets } from '../rig/craft-sets'
import type { Diff } from '../rig/edit'
import { expandersOf, leadsOnBoard, leadsOnExpander, type Rig, rowsOf } from '../rig/rig'

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
    // Whether it replaces what is for every craft decides on all parts that it has something for.
    if (c.table === 'craftSet')
      for (const rig of [before, after]) for (const id of partsOfSets(rig)) parts.add(id)
    if (c.table === 'lighting') for (const id of dimmedBy(after, c.id)) parts.add(id)
    for (const rig of [before, after]) {
      if (c.table === 'binding') add(parts, rig.binding[c.id]?.partId)
      if (c.table === 'lead') {
        const lead = rig.lead[c.id]
        add(parts, lead?.partId)
        if (lead?.fromExpanderId) addOnExpandersOf(parts, rig, rig.expander[lead.fromExpanderId]?.boardId)
      }
      // The chips of a board are counted through: one more or less moves the others.
      if (c.table === 'expander') addOnExpandersOf(parts, rig, rig.expander[c.id]?.boardId)
      if (c.table === 'board') {
        for (const l of leadsOnBoard(rig, c.id)) add(parts, l.partId)
        addOnExpandersOf(parts, rig, c.id)
      }
    }
  }
  return parts
}

const add = (parts: Set<string>, id: string | null | undefined): void => {
  if (id) parts.add(id)
}

const addOnExpandersOf = (parts: Set<string>, rig: Rig, boardId: string | undefined): void => {
  for (const e of boardId === undefined ? [] : expandersOf(rig, boardId))
    for (const l of leadsOnExpander(rig, e.id)) add(parts, l.partId)
}

/** Parts whose bindings, or what dims them, speak of something anywhere in their settings. */
const speaking = (rig: Rig, word: string): string[] => [
  ...rowsOf(rig, 'binding')
    .filter((b) => JSON.stringify(b.settings).includes(word))
    .map((b) => b.partId),
  ...rowsOf(rig, 'lighting')
    .filter((l) => l.settings.level.includes(word))
    .flatMap((l) => dimmedBy(rig, l.id)),
]

const dimmedBy = (rig: Rig, lightingId: string): string[] =>
  rowsOf(rig, 'part')
    .filter((p) => p.settings.lighting === lightingId)
    .map((p) => p.id)
