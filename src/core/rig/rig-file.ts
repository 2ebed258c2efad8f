import { z } from 'zod'
import { apply, type Diff, invalidRows } from './edit'
import { emptyRig } from './rig'
import { RIG_FORMAT, type TableName, tableNames, tables } from './rows'

const file = z.object({
  clavik: z.literal('rig'),
  format: z.number().int(),
  rows: z.partialRecord(
    z.enum(tableNames as [TableName, ...TableName[]]),
    z.array(z.looseObject({ id: z.string() })),
  ),
})

/** Reads a rig file into a diff that adds all its rows, or says in a sentence what is wrong with it. */
export const readRigFile = (text: string): { diff: Diff } | { problem: string } => {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch (error) {
    return { problem: `This is not a rig file: ${(error as Error).message}.` }
  }
  const parsed = file.safeParse(json)
  if (!parsed.success) {
    const issue = parsed.error.issues[0]
    return { problem: `This is not a rig file: ${issue?.path.join('.') || 'file'}: ${issue?.message}.` }
  }
  if (parsed.data.format > RIG_FORMAT) {
    return {
      problem: `This rig file has format ${parsed.data.format}; this Clavik reads up to ${RIG_FORMAT}.`,
    }
  }
  const diff: Diff = tableNames.flatMap((table) =>
    (parsed.data.rows[table] ?? []).map((row) => {
      // What an older file does not say is filled in; what does not fit is named below.
      const whole = tables[table].safeParse(row)
      return { op: 'add' as const, table, id: row.id, row: whole.success ? whole.data : row }
    }),
  )
  const wrong = invalidRows(apply(emptyRig(), diff), diff)[0]
  return wrong ? { problem: wrong.message } : { diff }
}
