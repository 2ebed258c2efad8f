import { type Rig, rowsOf } from '../rig/rig'
import { bareTerminals } from './bare-terminals'

/** Parts with a terminal that has no wire. */
export const unwiredParts = (rig: Rig): string[] =>
  rowsOf(rig, 'part')
    .filter((p) => bareTerminals(rig, p).length > 0)
    .map((p) => p.id)
