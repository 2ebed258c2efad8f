import { expanderKind } from '../catalogue/expanders'
import type { Terminal } from '../catalogue/part-kind'
import { leadsOnExpander, linesOf, type Rig } from '../rig/rig'
import type { ExpanderRow } from '../rig/rows'
import { boardLines } from './chip'

/**
 * The lines of an expander that need a wire: all of them, but of what follows its own inputs only the inputs of channels
 * that something hangs on. None of a kind that is not known.
 */
export const neededLines = (rig: Rig, expander: ExpanderRow): readonly Terminal[] => {
  const kind = expanderKind(expander.kind)
  if (!kind?.follows) return kind?.lines ?? []
  const inputs = boardLines(kind)
  const used = new Set(leadsOnExpander(rig, expander.id).map((l) => inputs[l.channel ?? -1]))
  return kind.lines.filter((t) => !inputs.includes(t) || used.has(t))
}

/** Those of them that have none yet. */
export const unwiredLines = (rig: Rig, expander: ExpanderRow): readonly Terminal[] => {
  const wired = new Set(linesOf(rig, expander.id).map((l) => l.terminal))
  return neededLines(rig, expander).filter((t) => !wired.has(t.id))
}
