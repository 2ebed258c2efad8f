import { partKind } from '../catalogue/parts'
import { aspectFor, type ControlSettings } from '../rig/binding'
import { sameValue } from '../rig/edit'
import { bindingsOf, type Rig } from '../rig/rig'
import type { BindingRow } from '../rig/rows'

const sameMoment = (rig: Rig, a: BindingRow, b: BindingRow): boolean => {
  const kind = partKind(rig.part[a.partId]?.kind ?? '')
  const left = a.settings as ControlSettings
  const right = b.settings as ControlSettings
  return (
    kind !== undefined &&
    aspectFor(kind.aspects, left) === aspectFor(kind.aspects, right) &&
    left.when === right.when &&
    left.position === right.position &&
    left.layer === right.layer &&
    left.craftSet === right.craftSet &&
    left.onlyWhile === right.onlyWhile
  )
}

/**
 * Why a binding contradicts one above it: both act at the same moment, under the same condition, on the same
 * variable, and not in the same way. Null where it does not.
 */
export const contradiction = (rig: Rig, row: BindingRow): string | null => {
  if (row.settings.kind !== 'control' || !row.on) return null
  for (const [i, earlier] of bindingsOf(rig, row.partId).entries()) {
    if (earlier.id === row.id) return null
    if (earlier.settings.kind !== 'control' || !earlier.on || !sameMoment(rig, earlier, row)) continue
    for (const mine of row.settings.actions) {
      if (!('variable' in mine)) continue
      const other = earlier.settings.actions.find((a) => 'variable' in a && a.variable === mine.variable)
      if (!other || (sameValue(other, mine) && earlier.settings.value === row.settings.value)) continue
      return `It contradicts binding ${i + 1} of this part, which also acts on ${mine.variable} at the same moment.`
    }
  }
  return null
}
