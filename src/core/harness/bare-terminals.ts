import { kindOf } from '../catalogue/own-kind'
import type { Terminal } from '../catalogue/part-kind'
import { leadsOf, type Rig } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import { cameWithDevice } from './given'

/** What a bought device joins inside. */
const inside: readonly Terminal['role'][] = ['common', 'ground', 'plus']

/** The terminals of a part that want a wire and have none: all but those that a bought device has joined inside. */
export const bareTerminals = (rig: Rig, part: PartRow): readonly Terminal[] => {
  const leads = leadsOf(rig, part.id)
  const bare = (kindOf(part)?.terminals ?? []).filter((t) => !leads.some((l) => l.terminal === t.id))
  return bare.length > 0 && cameWithDevice(rig, part.id) ? bare.filter((t) => !inside.includes(t.role)) : bare
}
