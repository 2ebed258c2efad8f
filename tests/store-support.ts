import { addRow, type Diff } from '../src/core/rig/edit'
import { type Rig, rowsOf } from '../src/core/rig/rig'
import { tableNames } from '../src/core/rig/rows'

export { addRow, apply, changeRow, type Diff, removeRow } from '../src/core/rig/edit'

/** The diff that makes a whole rig out of nothing. */
export const emptyRigDiff = (rig: Rig): Diff =>
  tableNames.flatMap((t) => rowsOf(rig, t).map((row) => addRow(t, row)))
