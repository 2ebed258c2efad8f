import { z } from 'zod'
import { isReservedName, objectionTo } from '../plain-json'
import type { Change, Diff } from './edit'
import { type TableName, tableNames, tables, tableWords } from './rows'

/** Changes in one edit: a whole rig goes in. */
const MOST_CHANGES = 20_000

const table = z.enum(tableNames as [TableName, ...TableName[]])
/** An id as it may come from outside. */
export const outsideId = z
  .string()
  .min(1)
  .max(80)
  .refine((id) => !isReservedName(id), 'that is no id')
const fields = z.record(z.string(), z.unknown())

const fieldNames = new Map<TableName, ReadonlySet<string>>(
  tableNames.map((t) => [t, new Set(Object.keys((tables[t] as unknown as { shape: object }).shape))]),
)

const unknownField = (t: TableName, row: Readonly<Record<string, unknown>>): string | undefined =>
  Object.keys(row).find((key) => !fieldNames.get(t)?.has(key))

/** What is wrong with a change in itself, whatever it is applied to. */
const objectionToChange = (c: Change): string | null => {
  const word = tableWords[c.table]
  if (c.table === 'rig' && c.op !== 'change') return 'an edit never adds or removes a rig'
  const parts = c.op === 'change' ? [c.before, c.after] : [c.row]
  for (const part of parts) {
    const unknown = unknownField(c.table, part)
    if (unknown !== undefined) return `a ${word} has no field “${unknown.slice(0, 40)}”`
    const objection = objectionTo(part)
    if (objection) return `of the ${word} ${c.id}: ${objection}`
  }
  if (c.op !== 'change') return c.row.id === c.id ? null : 'a row must carry its own id'
  if ('id' in c.after) return 'an id cannot be changed'
  if (c.table === 'rig' && 'format' in c.after) return 'the format of a rig is not changed by hand'
  const keys = Object.keys(c.after)
  if (keys.length === 0) return `the change of the ${word} ${c.id} changes nothing`
  // What was not there before is no field of it once it has been through JSON.
  return Object.keys(c.before).every((k) => k in c.after)
    ? null
    : `the change of the ${word} ${c.id} says other fields before than after`
}

/** A diff as it comes through the door. What its rows may hold is checked against the rig they go into. */
export const diffSchema = z
  .array(
    z.discriminatedUnion('op', [
      z.strictObject({ op: z.literal('add'), table, id: outsideId, row: fields }),
      z.strictObject({ op: z.literal('remove'), table, id: outsideId, row: fields }),
      z.strictObject({ op: z.literal('change'), table, id: outsideId, before: fields, after: fields }),
    ]),
  )
  .min(1)
  .max(MOST_CHANGES)
  .superRefine((diff, context) => {
    for (const [i, c] of diff.entries()) {
      const message = objectionToChange(c)
      if (message === null) continue
      context.addIssue({ code: 'custom', path: [i], message })
      return
    }
  })

/** The sentence of an edit: what a builder reads in the history. */
export const sentenceSchema = z
  .string()
  .trim()
  .min(1)
  .max(300)
  .refine((s) => objectionTo(s) === null, 'it holds a character that is none')

/** What is wrong with an edit in itself, in words, or null: the door asks it, and so does the page before it sends. */
export const editObjection = (sentence: string, diff: Diff): string | null => {
  const checked = diffSchema.safeParse(diff)
  const said = sentenceSchema.safeParse(sentence)
  const issue = said.error?.issues[0] ?? checked.error?.issues[0]
  return issue ? `${issue.path.join('.') || 'edit'}: ${issue.message}` : null
}
