import { z } from 'zod'
import { type TableName, tableNames } from './rows'

const table = z.enum(tableNames as [TableName, ...TableName[]])
const id = z.string().min(1).max(80)
const fields = z.record(z.string(), z.unknown())

/** A diff as it comes through the door. What its rows may hold is checked against the rig they go into. */
export const diffSchema = z
  .array(
    z.discriminatedUnion('op', [
      z.object({ op: z.literal('add'), table, id, row: fields }),
      z.object({ op: z.literal('remove'), table, id, row: fields }),
      z.object({ op: z.literal('change'), table, id, before: fields, after: fields }),
    ]),
  )
  .min(1)
  .max(20000)
  .refine((diff) => diff.every((c) => c.op === 'change' || c.row.id === c.id), 'a row must carry its own id')
  .refine((diff) => diff.every((c) => c.op !== 'change' || !('id' in c.after)), 'an id cannot be changed')
