import { z } from 'zod'
import { parseOutside } from '../plain-json'
import { apply, type Diff, invalidRows } from './edit'
import { connectionsOfOlder, LAST_WITHOUT_CONNECTIONS } from './older-files'
import { pointsNowhere } from './references'
import { emptyRig } from './rig'
import { RIG_FORMAT, type TableName, tableNames, tables, tableWords } from './rows'

const file = z.object({
  clavik: z.literal('rig'),
  format: z.number().int(),
  rows: z.partialRecord(
    z.enum(tableNames as [TableName, ...TableName[]]),
    z.array(z.looseObject({ id: z.string() })),
  ),
})

/** The largest rig file that is read; a cockpit of 2,000 parts takes a fifth of it. */
export const MOST_RIG_BYTES = 20_000_000

/** The diff that adds all rows of a rig file, or what is wrong with the file. */
export type RigFileRead = { readonly diff: Diff } | { readonly problem: string }

/** Reads a rig file into a diff that adds all its rows, or says in a sentence what is wrong with it. */
export const readRigFile = (text: string): RigFileRead => {
  if (text.length > MOST_RIG_BYTES)
    return { problem: `The file is larger than ${MOST_RIG_BYTES / 1e6} MB; that is no rig.` }
  const read = parseOutside(text.replace(/^\uFEFF/, ''))
  if ('problem' in read) return { problem: `This is not a rig file, or it is cut off: ${read.problem}.` }
  const json = read.value
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
  const told: Diff = tableNames.flatMap((table) =>
    (parsed.data.rows[table] ?? []).map((row) => {
      // What an older file does not say is filled in; what does not fit is named below.
      const whole = tables[table].safeParse(row)
      return { op: 'add' as const, table, id: row.id, row: whole.success ? whole.data : row }
    }),
  )
  const older = parsed.data.format <= LAST_WITHOUT_CONNECTIONS
  const diff = older ? [...told, ...connectionsOfOlder(told)] : told
  const twice = rowTwice(diff)
  if (twice) return { problem: twice }
  const rig = apply(emptyRig(), diff)
  const problem = invalidRows(rig, diff)[0]?.message ?? pointsNowhere(rig)
  return problem === null ? { diff } : { problem }
}

const rowTwice = (diff: Diff): string | null => {
  const seen = new Set<string>()
  for (const { table, id } of diff) {
    const key = `${table}/${id}`
    if (seen.has(key)) return `The ${tableWords[table]} “${id}” is there twice.`
    seen.add(key)
  }
  return null
}
