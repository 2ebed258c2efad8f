import { z } from 'zod'
import { type Paper, papers } from '@/core/layout/papers'
import { madeFile } from './maker'
import { refused } from './refused'

const paper = z.enum(Object.keys(papers) as [Paper, ...Paper[]]).default('A4')

const fileQuery = z.object({
  as: z.enum(['svg', 'dxf', 'pdf']),
  kerf: z.coerce.number().min(0).max(5).default(0),
  paper,
})

const printQuery = z.object({ as: z.enum(['svg', 'pdf']), paper })

const asked = <Q>(request: Request, query: z.ZodType<Q>): Q | Response => {
  const found = query.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (found.success) return found.data
  const issue = found.error.issues[0]
  return refused(`The file is not understood: ${issue?.path.join('.')}: ${issue?.message}.`, 400)
}

/** A drawing of something in the rig as the file that was asked for, or a sentence why there is none. */
export const drawingFile = async (request: Request, is: 'panel' | 'dial', id: string): Promise<Response> => {
  const query = asked(request, fileQuery)
  return query instanceof Response ? query : madeFile({ is, id, ...query })
}

/** The face of a gauge in its colours, or those of all gauges on a panel. */
export const printedFile = async (request: Request, of: 'part' | 'panel', id: string): Promise<Response> => {
  const query = asked(request, printQuery)
  return query instanceof Response ? query : madeFile({ is: 'printed', of, id, ...query })
}
