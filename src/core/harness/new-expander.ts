import type { ExpanderKind } from '../catalogue/expander-kind'
import { numbered } from '../rig/numbered'
import { expandersOf, type Rig, rowsOf } from '../rig/rig'
import type { ExpanderRow } from '../rig/rows'

/** A chip's trade type, without what it is. */
export const shortName = (kind: ExpanderKind): string => kind.name.split(' ')[0] ?? kind.name

/** An expander to be added to a board: behind those that are there, at an address of its own; null when none is left. */
export const newExpander = (
  rig: Rig,
  boardId: string,
  kind: ExpanderKind,
  chips: number,
  id: string,
): ExpanderRow | null => {
  const there = expandersOf(rig, boardId)
  const taken = new Set(there.filter((e) => e.kind === kind.id).map((e) => e.jumpers))
  let jumpers = 0
  while (kind.addresses && (taken.has(jumpers) || kind.addresses.never?.includes(jumpers))) jumpers++
  if (kind.addresses && jumpers >= kind.addresses.count) return null
  return {
    ...{ id, boardId, kind: kind.id, chips, jumpers },
    name: numbered(shortName(kind), new Set(rowsOf(rig, 'expander').map((e) => e.name))),
    position: Math.max(0, ...there.map((e) => e.position)) + 1,
  }
}
