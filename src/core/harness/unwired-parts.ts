import { kindOf } from '../catalogue/own-kind'
import { leadsOf, type Rig, rowsOf } from '../rig/rig'

/** Parts with a terminal that has no wire. */
export const unwiredParts = (rig: Rig): string[] =>
  rowsOf(rig, 'part')
    .filter((p) =>
      (kindOf(p)?.terminals ?? []).some((t) => !leadsOf(rig, p.id).some((l) => l.terminal === t.id)),
    )
    .map((p) => p.id)
